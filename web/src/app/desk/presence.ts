import type { Person } from '@oxbow/contract';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { colourOf } from '../look/colours';

/** Where somebody else's caret stands. */
export interface Caret {
  readonly client: string;
  readonly person: Person;
  readonly head: number;
}

/** Carets of others, by client; null takes one away. */
export const presenceKey = new PluginKey<ReadonlyMap<string, Caret>>('presence');

/** Shows the carets of others as thin lines in their colour, and carries them along when the text changes. */
export function presencePlugin(): Plugin<ReadonlyMap<string, Caret>> {
  return new Plugin<ReadonlyMap<string, Caret>>({
    key: presenceKey,
    state: {
      init: () => new Map(),
      apply(tr, carets) {
        const said = tr.getMeta(presenceKey) as { client: string; caret: Caret | null } | undefined;
        if (!tr.docChanged && !said) return carets;
        const next = new Map(
          [...carets].map(([client, caret]) => [client, { ...caret, head: tr.mapping.map(caret.head) }]),
        );
        if (said?.caret) next.set(said.client, said.caret);
        else if (said) next.delete(said.client);
        return next;
      },
    },
    props: {
      decorations(state) {
        const carets = [...(presenceKey.getState(state)?.values() ?? [])];
        const size = state.doc.content.size;
        return DecorationSet.create(
          state.doc,
          carets.map((caret) =>
            Decoration.widget(Math.min(caret.head, size), () => draw(caret), {
              key: `${caret.client} ${caret.person.id}`,
              side: 10,
              ignoreSelection: true,
            }),
          ),
        );
      },
    },
  });
}

function draw({ person }: Caret): HTMLElement {
  const caret = document.createElement('span');
  caret.className = 'caret';
  caret.style.setProperty('--who', colourOf(person.colour));
  caret.dataset['initials'] = person.initials;
  caret.title = person.name;
  return caret;
}
