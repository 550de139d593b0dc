import type { Node } from 'prosemirror-model';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';

const { footnote, footnote_mark } = schema.nodes;

/** Signs and footnotes in a top-level block, with where they stand in it; blocks are remembered, so that typing costs one block. */
interface Found {
  readonly name: string;
  readonly isSign: boolean;
  readonly at: number;
  readonly size: number;
}
const remembered = new WeakMap<Node, readonly Found[]>();
const NOTHING: readonly Found[] = [];

function foundIn(block: Node): readonly Found[] {
  const held = remembered.get(block);
  if (held) return held;
  const found: Found[] = [];
  const look = (node: Node, at: number): void => {
    if (node.type === footnote || node.type === footnote_mark)
      found.push({
        name: String(node.attrs['note']),
        isSign: node.type === footnote_mark,
        at,
        size: node.nodeSize,
      });
  };
  look(block, 0);
  block.descendants((node, offset) => look(node, offset + 1));
  const out = found.length > 0 ? found : NOTHING;
  remembered.set(block, out);
  return out;
}

/** All signs and footnotes of a document, in order. */
export function notesIn(doc: Node): Found[] {
  const out: Found[] = [];
  doc.forEach((block, offset) => {
    for (const one of foundIn(block)) out.push({ ...one, at: one.at + offset });
  });
  return out;
}

const key = new PluginKey<DecorationSet>('notes');

/** Numbers footnotes as they stand. */
export function noteNumbering(): Plugin {
  return new Plugin<DecorationSet>({
    key,
    state: {
      init: (_, { doc }) => numbered(doc),
      apply: (tr, held) => (tr.docChanged ? numbered(tr.doc) : held),
    },
    props: { decorations: (state) => key.getState(state) },
  });
}

function numbered(doc: Node): DecorationSet {
  const found = notesIn(doc);
  if (found.length === 0) return DecorationSet.empty;
  const names = [...found.filter(({ isSign }) => isSign), ...found].map(({ name }) => name);
  const numbers = new Map([...new Set(names)].map((name, i) => [name, String(i + 1)]));
  return DecorationSet.create(
    doc,
    found.map(({ name, at, size }) =>
      Decoration.node(at, at + size, { 'data-number': numbers.get(name) ?? '' }),
    ),
  );
}
