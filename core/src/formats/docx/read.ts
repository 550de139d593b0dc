import { blankDocument, textSchema as schema } from '../../kinds/text/index.js';
import { FormatError } from '../format.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, parseXml } from '../packed/xml.js';
import type { Relation } from '../packed/opc.js';
import { aboutOf, mainPart, relationsOf } from '../packed/opc.js';
import { unpack } from '../packed/zip.js';
import type { Picture } from '../picture.js';
import { pictureOf } from '../picture.js';
import type { Reading } from '../reading.js';
import { LeftOutTally } from '../reading.js';
import { DocxBodyReader } from './body.js';
import type { DocxSource, Text } from './inline.js';
import { propertiesIn } from './inline.js';
import { READ } from './names.js';
import { notesIn } from './notes.js';
import { Remarks } from './remarks.js';
import { sheetIn } from './section.js';
import { DocxSheet } from './sheet.js';
import { trackedIn } from './tracked.js';

/**
 * Reads an Office Open XML text document (ISO/IEC 29500, transitional and strict). Throws `FormatError` for a file that
 * is none, is damaged, or is larger than `LIMITS`.
 */
export function readDocx(bytes: Uint8Array): Reading {
  const parts = unpack(bytes);
  const main = mainPart(parts, 'This file is no word-processor document (.docx).');
  const related = relationsOf(parts, main);
  const part = (type: string): Element | null => {
    const found = [...related.values()].find((one) => one.type.endsWith(`/${type}`));
    const data = found && parts.get(found.target);
    return data ? parseXml(data, READ) : null;
  };
  const body = down(parseXml(parts.get(main) ?? new Uint8Array(), READ), 'w:body');
  if (!body) throw new FormatError('This file is no text document: it has no body.');
  const tally = new LeftOutTally();
  const pictures = new Map<string, Picture | null>();
  const notes = notesIn(part('footnotes'));
  const sheet = new DocxSheet(part('styles'), part('numbering'), part('fontTable'));
  /** What a part may refer to, by its own relationships. */
  const sourceOf = (relations: ReadonlyMap<string, Relation>): DocxSource => ({
    sheet,
    target: (id) => relations.get(id)?.target ?? null,
    note: (id) => notes.get(id) ?? null,
    picture: (id) => {
      const { target, outside } = relations.get(id) ?? { target: '', outside: false };
      if (outside) tally.add('pictures kept elsewhere, which are not loaded');
      if (!pictures.has(target)) pictures.set(target, pictureOf(parts.get(target) ?? new Uint8Array()));
      return pictures.get(target) ?? null;
    },
  });
  const notesPart = [...related.values()].find(({ type }) => type.endsWith('/footnotes'))?.target;
  const sources = {
    body: sourceOf(related),
    notes: sourceOf(relationsOf(parts, notesPart ?? '')),
  };
  const running = (id: string): Element | null => {
    const data = parts.get(related.get(id)?.target ?? '');
    return data ? parseXml(data, READ) : null;
  };
  const remarks = new Remarks(part('comments'));
  const document = (text: Text, counted: LeftOutTally) => {
    const reader = new DocxBodyReader(sources, text, counted, remarks.of(text));
    const blocks = [...reader.blocks(body), ...reader.notes()];
    const section = propertiesIn(text, down(body, 'w:sectPr'), 'w:sectPrChange');
    const own = down(body, 'w:sectPr');
    const laid = sheetIn(section && own && withRunning(section, own), running, counted);
    const set = laid ? [schema.node('page_setup', { ...laid })] : [];
    const held = blocks.length > 0 ? blocks : blankDocument().children;
    const doc = schema.node('doc', null, [...set, ...held]);
    doc.check();
    return doc;
  };
  const doc = document('later', tally);
  const tracked = [body, ...notes.values()].flatMap(trackedIn);
  const before = tracked.length > 0 ? document('earlier', new LeftOutTally()) : null;
  return {
    doc,
    before,
    tracked,
    remarks: remarks.list(),
    leftOut: tally.list(),
    pictures: [...new Map([...pictures.values()].flatMap((one) => (one ? [[one.hash, one]] : []))).values()],
    ...aboutOf(parts),
  };
}

/** Properties of a section as they were, with the headers and footers it has: those are not tracked (ECMA-376 Part 1, 17.13.5.32). */
function withRunning(section: Element, own: Element): Element {
  if (section === own) return own;
  const references = elementsOf(own).filter(({ name }) => /^w:(header|footer)Reference$/.test(name));
  return { ...section, children: [...references, ...section.children] };
}
