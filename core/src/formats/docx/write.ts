import type { Node } from 'prosemirror-model';
import type { Comparison } from '../../compare/compare.js';
import type { Union } from '../../compare/union.js';
import { keep } from '../../compare/union.js';
import { childrenOf } from '../../content/index.js';
import { paperOf } from '../../kinds/text/index.js';
import type { Paper as Sheet } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { el, printXml } from '../packed/xml.js';
import { pack } from '../packed/zip.js';
import { endingOf } from '../picture.js';
import { ShownMoves } from '../sides.js';
import type { Hands, WriteOptions } from '../writing.js';
import { DocxFlow } from './flow.js';
import { layoutOf } from './layout.js';
import { WRITTEN } from './names.js';
import { Paper } from './paper.js';
import { runningPart, sectionOf } from './section.js';
import { spaced } from './table.js';
import {
  contentTypes,
  coreProperties,
  fontTable,
  mainRelations,
  numbering,
  packageRelations,
  besideRelation,
  relations,
  settings,
  styles,
} from './parts.js';

/** Writes a document as an Office Open XML text document (ISO/IEC 29500 transitional). */
export function writeDocx(doc: Node, options: WriteOptions): Uint8Array {
  const kept: Union[] = childrenOf(doc).map(keep);
  return write(doc, doc, kept, () => [], options);
}

/**
 * Writes a comparison as such a document with its changes tracked: accepting all gives the later document, rejecting all the
 * earlier. `hands` says who made each change.
 */
export function writeDocxRedline(comparison: Comparison, hands: Hands, options: WriteOptions): Uint8Array {
  const { earlier, later, union } = comparison;
  return write(earlier, later, union.kids, hands, options);
}

function write(
  earlier: Node,
  later: Node,
  parts: readonly Union[],
  hands: Hands,
  options: WriteOptions,
): Uint8Array {
  const layouts = { earlier: layoutOf(earlier), later: layoutOf(later) };
  const pass = (moves: ShownMoves): { body: Element[]; flow: DocxFlow } => {
    const flow = new DocxFlow(layouts, new Paper(), hands, options.picture, moves);
    const body = flow.parts(parts, 0, 0);
    return { body: spaced([...body, ...flow.unsignedNotes()]), flow };
  };
  const first = pass(new ShownMoves());
  const { body, flow } = first.flow.movesShown.size > 0 ? pass(first.flow.movesShown) : first;
  const [was, sheet] = [paperOf(earlier), paperOf(later)];
  const by = flow.setUpBy;
  const section = sectionOf(sheet, by && { sheet: was, by }, flow.paper);
  return packed([...body, section], sheet, flow.paper, options);
}

function packed(
  body: readonly Element[],
  sheet: Sheet,
  paper: Paper,
  { title, author, at }: WriteOptions,
): Uint8Array {
  const notes = paper.notes.any ? paper.notes : null;
  const spaces = Object.fromEntries(Object.entries(WRITTEN).map(([prefix, uri]) => [`xmlns:${prefix}`, uri]));
  const main = el('w:document', { ...spaces, 'mc:Ignorable': 'w14' }, [el('w:body', {}, body)]);
  const part = (name: string, root: Element): { name: string; content: string } => ({
    name,
    content: printXml(root),
  });
  const held = notes?.part(() => paper.next());
  const running = (['header', 'footer'] as const).filter((kind) => sheet[kind] !== '');
  const beside = [...(held ? ['footnotes'] : []), ...running.map((kind) => `${kind}1`)];
  return pack([
    part('[Content_Types].xml', contentTypes(beside)),
    part('_rels/.rels', packageRelations()),
    part('word/document.xml', main),
    part(
      'word/_rels/document.xml.rels',
      mainRelations([...paper.relations, ...(held ? [besideRelation('footnotes')] : [])]),
    ),
    part('word/styles.xml', styles()),
    part('word/numbering.xml', numbering(paper.lists)),
    part('word/fontTable.xml', fontTable()),
    part('word/settings.xml', settings(notes?.settings ?? null)),
    ...(held
      ? [part('word/footnotes.xml', held), part('word/_rels/footnotes.xml.rels', relations(paper.relations))]
      : []),
    ...running.map((kind) => part(`word/${kind}1.xml`, runningPart(kind, sheet))),
    part('docProps/core.xml', coreProperties(title, author, at)),
    ...paper.pictures.map((picture) => ({
      name: `word/media/${picture.hash}.${endingOf(picture)}`,
      content: picture.bytes,
    })),
  ]);
}
