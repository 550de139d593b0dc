import { canonicalText } from '../../content/index.js';
import { blankDocument, textSchema as schema } from '../../kinds/text/index.js';
import { FormatError } from '../format.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, parseXml, textIn } from '../packed/xml.js';
import { unpack } from '../packed/zip.js';
import type { Picture } from '../picture.js';
import { pictureOf } from '../picture.js';
import type { Reading, Remark, Tracked } from '../reading.js';
import { LeftOutTally, shortened } from '../reading.js';
import { timeOf } from '../time.js';
import { OdtBodyReader, annotationKey } from './body.js';
import type { Hearing } from './body.js';
import { MIME, READ } from './names.js';
import { paperIn } from './page.js';
import { OdtSheet } from './sheet.js';

/**
 * Reads an OpenDocument text (ODF 1.0 to 1.3). Throws `FormatError` for a file that is none, is damaged, or is larger
 * than `LIMITS`.
 */
export function readOdt(bytes: Uint8Array): Reading {
  const parts = unpack(bytes);
  const part = (name: string): Element | null => {
    const data = parts.get(name);
    return data ? parseXml(data, READ) : null;
  };
  const type = parts.get('mimetype');
  if (type && String.fromCharCode(...type.slice(0, 200)).trim() !== MIME)
    throw new FormatError('This file is an OpenDocument file, but no text (.odt).');
  if (encrypted(part('META-INF/manifest.xml')))
    throw new FormatError('This file is protected with a password. Save it without one and try again.');
  const content = part('content.xml');
  const body = down(content, 'office:body', 'office:text');
  if (!body) throw new FormatError('This file is no OpenDocument text (.odt).');
  const styles = part('styles.xml');
  const tally = new LeftOutTally();
  const sheet = new OdtSheet([styles, content]);
  const pictures = new Map<string, Picture | null>();
  const picture = (address: string): Picture | null => {
    const name = address.replace(/^\.\//, '');
    if (!pictures.has(name)) pictures.set(name, pictureOf(parts.get(name) ?? new Uint8Array()));
    return pictures.get(name) ?? null;
  };
  const regions = regionsOf(down(body, 'text:tracked-changes'));
  const heard = new Heard();
  const paper = paperIn(styles, tally);
  const set = paper ? [schema.node('page_setup', { ...paper })] : [];
  const document = (text: 'earlier' | 'later') => {
    const counted = text === 'later' ? tally : new LeftOutTally();
    const hearing = text === 'later' ? heard : SILENCE;
    const reader = new OdtBodyReader(sheet, text, regions, picture, counted, hearing);
    const blocks = [...reader.blocks(body), ...reader.notes()];
    const held = blocks.length > 0 ? blocks : blankDocument().children;
    const doc = schema.node('doc', null, [...set, ...held]);
    doc.check();
    return doc;
  };
  const doc = document('later');
  const tracked = regions.list.map((region) => ({
    ...region.change,
    text: region.change.text || heard.of(region.id),
  }));
  const meta = down(part('meta.xml'), 'office:meta');
  const about = (name: string): string =>
    canonicalText(down(meta, name) ? textIn(down(meta, name) as Element) : '', false)
      .trim()
      .slice(0, 200);
  return {
    doc,
    before: tracked.length > 0 ? document('earlier') : null,
    tracked,
    remarks: heard.remarks(),
    leftOut: tally.list(),
    pictures: [...new Map([...pictures.values()].flatMap((one) => (one ? [[one.hash, one]] : []))).values()],
    author: about('dc:creator') || about('meta:initial-creator'),
    title: about('dc:title'),
  };
}

function encrypted(manifest: Element | null): boolean {
  return elementsOf(manifest).some((entry) => down(entry, 'manifest:encryption-data') !== null);
}

interface Regions {
  readonly list: readonly { readonly id: string; readonly change: Tracked }[];
  readonly deleted: ReadonlyMap<string, Element>;
  readonly inserted: ReadonlySet<string>;
}

/** The tracked changes of a file (ODF 1.2 Part 1, 5.5). */
function regionsOf(tracked: Element | null): Regions {
  const list: { id: string; change: Tracked }[] = [];
  const deleted = new Map<string, Element>();
  const inserted = new Set<string>();
  for (const region of elementsOf(tracked, 'text:changed-region')) {
    const id = region.attributes['text:id'] ?? region.attributes['xml:id'] ?? '';
    for (const one of elementsOf(region)) {
      const kind =
        ({ 'text:insertion': 'insertion', 'text:deletion': 'deletion' } as const)[one.name] ?? 'form';
      const info = down(one, 'office:change-info');
      const [author, date] = ['dc:creator', 'dc:date'].map((name) => textIn(down(info, name) ?? one));
      const content: Element = {
        ...one,
        children: one.children.filter(
          (child) => child.type === 'element' && child.name !== 'office:change-info',
        ),
      };
      if (kind === 'deletion') deleted.set(id, content);
      if (kind === 'insertion') inserted.add(id);
      const text = kind === 'deletion' ? textIn(content) : '';
      list.push({
        id,
        change: { kind, author: info ? (author ?? '') : '', at: info ? timeOf(date) : '', text },
      });
    }
  }
  return { list, deleted, inserted };
}

const SILENCE: Hearing = { text: () => undefined, comment: () => undefined };

/** Comments, and the text under them and under insertions, as it is read. */
class Heard implements Hearing {
  private readonly texts = new Map<string, string>();
  private readonly comments: Element[] = [];

  text(within: ReadonlySet<string>, text: string): void {
    for (const key of within) this.texts.set(key, (this.texts.get(key) ?? '') + text);
  }

  comment(element: Element): void {
    this.comments.push(element);
  }

  of(key: string): string {
    return this.texts.get(key) ?? '';
  }

  remarks(): Remark[] {
    return this.comments.map((comment) => {
      const said = (name: string): string => {
        const found = down(comment, name);
        return found ? textIn(found) : '';
      };
      const text = elementsOf(comment, 'text:p').map(textIn).join('\n');
      const named = comment.attributes['office:name'] !== undefined;
      return {
        author: shortened(said('dc:creator'), 200),
        at: timeOf(said('dc:date')),
        text: canonicalText(text, true).slice(0, 10_000),
        about: named ? shortened(this.of(annotationKey(comment)), 200) : '',
      };
    });
  }
}
