import { canonicalText } from '../../content/index.js';
import { FormatError } from '../format.js';
import type { Namespaces } from './xml.js';
import { down, elementsOf, parseXml, textIn } from './xml.js';
import type { ZipParts } from './zip.js';

/** Namespaces of what packages say of their parts (ECMA-376 Part 2). */
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const READ: Namespaces = {
  [`${PACKAGE}/relationships`]: 'rel',
  [`${PACKAGE}/metadata/core-properties`]: 'cp',
  'http://purl.org/dc/elements/1.1/': 'dc',
};

/** What a part has to do with another, or with something outside the package. */
export interface Relation {
  readonly type: string;
  readonly target: string;
  readonly outside: boolean;
}

/** The main part, by the package's own relationships (ECMA-376 Part 2, 6.5). Throws `FormatError` with what is said otherwise. */
export function mainPart(parts: ZipParts, otherwise: string): string {
  const related = [...relationsOf(parts, '').values()];
  const main = related.find(({ type }) => type.endsWith('/officeDocument'))?.target;
  if (main !== undefined && parts.has(main)) return main;
  throw new FormatError(otherwise);
}

/** Relationships of a part by id, targets as part names or addresses. */
export function relationsOf(parts: ZipParts, part: string): ReadonlyMap<string, Relation> {
  const at = part.lastIndexOf('/') + 1;
  const data = parts.get(`${part.slice(0, at)}_rels/${part.slice(at)}.rels`);
  if (!data) return new Map();
  return new Map(
    elementsOf(parseXml(data, READ), 'rel:Relationship').map(({ attributes }) => {
      const outside = attributes['TargetMode'] === 'External';
      const target = attributes['Target'] ?? '';
      return [
        attributes['Id'] ?? '',
        {
          type: attributes['Type'] ?? '',
          target: outside ? target : resolved(part.slice(0, at), target),
          outside,
        },
      ];
    }),
  );
}

/** A part name from one that is relative to a folder. */
function resolved(folder: string, target: string): string {
  const path = target.startsWith('/') ? target.split('/') : [...folder.split('/'), ...target.split('/')];
  const out: string[] = [];
  for (const step of path) {
    if (step === '..') out.pop();
    else if (step !== '' && step !== '.') out.push(step);
  }
  return out.join('/');
}

/** Who the file says wrote it, and what it calls itself (ECMA-376 Part 2, 8). */
export function aboutOf(parts: ZipParts): { author: string; title: string } {
  const target = [...relationsOf(parts, '').values()].find(({ type }) => type.endsWith('/core-properties'));
  const data = target && parts.get(target.target);
  const core = data ? parseXml(data, READ) : null;
  const text = (name: string): string => {
    const element = down(core, name);
    return element ? canonicalText(textIn(element), false).trim().slice(0, 200) : '';
  };
  return { author: text('cp:lastModifiedBy') || text('dc:creator'), title: text('dc:title') };
}
