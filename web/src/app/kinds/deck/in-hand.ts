import { slidesOf } from '@oxbow/core/kinds/deck';
import type { Node } from 'prosemirror-model';
import type { EditorState } from 'prosemirror-state';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import type { PlaceMark } from '../../carry/place-mark';
import { placeKey } from '../../carry/place-mark';

/** The slide in hand: the position at which it begins. */
const inHandKey = new PluginKey<number>('slide in hand');

/** Where the slide begins that a position is in. */
export function slideAt(doc: Node, position: number): number {
  const $at = doc.resolve(Math.max(0, Math.min(position, doc.content.size)));
  if ($at.depth > 0) return $at.before(1);
  return $at.nodeAfter ? $at.pos : Math.max(0, $at.pos - ($at.nodeBefore?.nodeSize ?? 0));
}

/** Where the slide in hand begins. */
export function inHand(state: EditorState): number {
  return inHandKey.getState(state) ?? slideAt(state.doc, state.selection.from);
}

/** What an empty place says of itself. */
function says({ type }: Node): string {
  if (type.name === 'title') return $localize`Title`;
  return type.name === 'notes' ? $localize`Notes for whoever speaks` : $localize`Text`;
}

function isEmpty(node: Node): boolean {
  return !node.isLeaf && node.textContent === '' && node.childCount <= 1 && node.content.size <= 2;
}

/** Shows one slide of a deck: the one that the selection is on, or that something of the past would go to. */
export function oneSlide(): Plugin<number> {
  return new Plugin<number>({
    key: inHandKey,
    state: {
      init: (_config, { doc, selection }) => slideAt(doc, selection.from),
      apply(tr, held) {
        const place = tr.getMeta(placeKey) as PlaceMark | null | undefined;
        if (place) return slideAt(tr.doc, place.from);
        if (place === null || tr.selectionSet) return slideAt(tr.doc, tr.selection.from);
        if (!tr.docChanged) return held;
        const mapped = tr.mapping.mapResult(held);
        return mapped.deletedAfter ? slideAt(tr.doc, tr.selection.from) : slideAt(tr.doc, mapped.pos);
      },
    },
    props: {
      decorations(state) {
        const at = inHand(state);
        const slide = state.doc.nodeAt(at);
        if (!slide) return null;
        const number = slidesOf(state.doc).findIndex((one) => one.at === at) + 1;
        const out = [
          Decoration.node(at, at + slide.nodeSize, {
            class: 'in-hand',
            role: 'group',
            'aria-label': $localize`Slide ${number}`,
          }),
        ];
        slide.forEach((child, offset) => {
          const from = at + 1 + offset;
          if (child.type.name === 'notes' || isEmpty(child))
            out.push(
              Decoration.node(from, from + child.nodeSize, {
                'data-says': says(child),
                ...(isEmpty(child) ? { class: 'empty' } : {}),
              }),
            );
        });
        return DecorationSet.create(state.doc, out);
      },
    },
  });
}
