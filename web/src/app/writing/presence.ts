import type { Person } from '@oxbow/contract';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { colourOf } from '../look/colours';

/** Where somebody else's caret stands. */
export interface Caret {
  readonly client: string;
  readonly person: Person;
  readonly head: number;
  /** The message that told it. */
  readonly told: object;
}

/** Carets of others, by window. A transaction's meta of this name sets them anew. */
export const presenceKey = new PluginKey<ReadonlyMap<string, Caret>>('presence');

/** Shows the carets of others as thin lines in their colour, and carries them along when the text changes. */
export function presencePlugin(): Plugin<ReadonlyMap<string, Caret>> {
  return new Plugin<ReadonlyMap<string, Caret>>({
    key: presenceKey,
    state: {
      init: () => new Map(),
      apply(tr, carets) {
        const said = tr.getMeta(presenceKey) as ReadonlyMap<string, Caret> | undefined;
        if (said) return keepMoved(said, carets);
        if (!tr.docChanged) return carets;
        const next = new Map(
          [...carets].map(([client, caret]) => [client, { ...caret, head: tr.mapping.map(caret.head) }]),
        );
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

/** New carets, but one that did not move since it was last told stays where the text has carried it. */
function keepMoved(
  said: ReadonlyMap<string, Caret>,
  held: ReadonlyMap<string, Caret>,
): ReadonlyMap<string, Caret> {
  return new Map(
    [...said].map(([client, caret]) => [
      client,
      held.get(client)?.told === caret.told ? (held.get(client) ?? caret) : caret,
    ]),
  );
}

function draw({ person }: Caret): HTMLElement {
  const caret = document.createElement('span');
  caret.className = 'caret';
  caret.style.setProperty('--who', colourOf(person.colour));
  caret.dataset['initials'] = person.initials;
  caret.title = person.name;
  return caret;
}
