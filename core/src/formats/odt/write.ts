import type { Node } from 'prosemirror-model';
import type { Comparison } from '../../compare/compare.js';
import type { Element } from '../packed/xml.js';
import { printXml } from '../packed/xml.js';
import { pack } from '../packed/zip.js';
import { childrenOf } from '../../content/index.js';
import { paperOf } from '../../kinds/text/index.js';
import type { Hands, WriteOptions } from '../writing.js';
import { OdtFlow } from './flow.js';
import { MIME } from './names.js';
import { OdtNotes } from './notes.js';
import { contentPart, manifestPart, metaPart, stylesPart } from './parts.js';

/** Writes a document as an OpenDocument text (ODF 1.2, ISO/IEC 26300). */
export function writeOdt(doc: Node, options: WriteOptions): Uint8Array {
  const flow = new OdtFlow(() => [], options.picture, new OdtNotes(doc, doc));
  return packed(flow, doc, flow.blocks(childrenOf(doc)), options);
}

/**
 * Writes a comparison as such a text with its changes tracked: accepting all gives the later document, rejecting all the
 * earlier. `hands` says who made each change.
 */
export function writeOdtRedline(
  { earlier, later, union }: Comparison,
  hands: Hands,
  options: WriteOptions,
): Uint8Array {
  const flow = new OdtFlow(hands, options.picture, new OdtNotes(earlier, later));
  return packed(flow, later, flow.parts(union.kids, 0, 0), options);
}

/** The package (ODF 1.2 Part 3, 3): its type comes first, and is not compressed. */
function packed(
  flow: OdtFlow,
  doc: Node,
  body: readonly Element[],
  { title, author, at }: WriteOptions,
): Uint8Array {
  const content = contentPart(flow, [...body, ...flow.unsignedNotes()]);
  const pictures = [...flow.shown];
  return pack([
    { name: 'mimetype', content: MIME, stored: true },
    { name: 'content.xml', content: printXml(content) },
    { name: 'styles.xml', content: printXml(stylesPart(paperOf(doc))) },
    { name: 'meta.xml', content: printXml(metaPart(title, author, at)) },
    ...pictures.map(([name, { bytes }]) => ({ name, content: bytes })),
    {
      name: 'META-INF/manifest.xml',
      content: printXml(manifestPart(pictures.map(([name, { type }]) => [name, type]))),
    },
  ]);
}
