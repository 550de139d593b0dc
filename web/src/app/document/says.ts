import { computed, inject, resource } from '@angular/core';
import type { Signal } from '@angular/core';
import { kindOf } from '@oxbow/core/kinds';
import type { KindOnScreen } from './kinds';
import { KINDS_ON_SCREEN } from './kinds';
import { LiveDocument } from './live-document';

/** What the web app has for the kind of the document on the desk; undefined before it is there. To be called where one may inject. */
export function kindOnDesk(): Signal<KindOnScreen | undefined> {
  const [kinds, live] = [inject(KINDS_ON_SCREEN), inject(LiveDocument, { optional: true })];
  return computed(() => {
    const start = live?.start();
    return start ? kinds[kindOf(start.state.doc).name] : undefined;
  });
}

/** How a piece of text of the document on the desk is told to people. To be called where one may inject. */
export function saying(): Signal<(text: string) => string> {
  const [kind, live] = [kindOnDesk(), inject(LiveDocument, { optional: true })];
  const says = resource({ params: () => kind()?.says, loader: ({ params }) => params() });
  return computed(() => {
    const [say, now] = [says.hasValue() ? says.value() : null, live?.page?.state.doc];
    return (text) => (say && now ? say(text, now) : text);
  });
}
