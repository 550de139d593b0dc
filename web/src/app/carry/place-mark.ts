import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';

/** Where something of the past would go: between two letters or blocks, or in place of a stretch. */
export interface PlaceMark {
  readonly from: number;
  readonly to: number;
  /** What would come, in a few words; empty when it stands there already. */
  readonly says: string;
}

/** What a mark is drawn as within some nodes. */
const TAGS: Record<string, string> = {
  table: 'tr',
  table_row: 'td',
  bullet_list: 'li',
  ordered_list: 'li',
  check_list: 'li',
};

/** A transaction's meta of this name shows another place, null none. */
export const placeKey = new PluginKey<DecorationSet>('place');

/** Shows on the page where something would be put, before it is done, and what would make way for it. */
export function placePlugin(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key: placeKey,
    state: {
      init: () => DecorationSet.empty,
      apply(tr, held) {
        const said = tr.getMeta(placeKey) as PlaceMark | null | undefined;
        if (said === undefined) return held.map(tr.mapping, tr.doc);
        if (said === null || said.to > tr.doc.content.size) return DecorationSet.empty;
        const { parent } = tr.doc.resolve(said.from);
        return DecorationSet.create(tr.doc, [
          ...(said.says
            ? [
                Decoration.widget(said.from, () => draw(said.says, parent), {
                  side: -1,
                  ignoreSelection: true,
                }),
              ]
            : []),
          ...(said.to > said.from
            ? [Decoration.inline(said.from, said.to, { class: said.says ? 'makes-way' : 'stands-here' })]
            : []),
        ]);
      },
    },
    props: { decorations: (state) => placeKey.getState(state) },
  });
}

/** Between letters, between blocks, or as a row or cell of the table it would go into. */
function draw(says: string, parent: Node): HTMLElement {
  const mark = document.createElement(parent.inlineContent ? 'span' : (TAGS[parent.type.name] ?? 'div'));
  mark.className = parent.inlineContent ? 'place-mark' : 'place-mark between';
  mark.contentEditable = 'false';
  if (parent.type.name !== 'table') mark.textContent = says;
  else {
    const cell = document.createElement('td');
    cell.colSpan = parent.firstChild?.childCount ?? 1;
    cell.textContent = says;
    mark.append(cell);
  }
  return mark;
}
