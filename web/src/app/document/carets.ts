import { signal } from '@angular/core';
import type { Presence } from '@oxbow/contract';
import type { LiveChannel } from '../live/channel';

/** Who else has a document open, and where their carets stand, by window. */
export class Carets {
  private readonly known = signal<ReadonlyMap<string, Presence>>(new Map());
  readonly others = this.known.asReadonly();

  /** Listens for those of a document. Answers how to stop that. */
  listen(channel: LiveChannel, id: string): () => void {
    const moved = channel.on('presence').subscribe(({ document, ...presence }) => {
      if (document === id) this.known.update((known) => new Map([...known, [presence.client, presence]]));
    });
    const left = channel.on('left').subscribe(({ document, client }) => {
      if (document === id)
        this.known.update((known) => new Map([...known].filter(([one]) => one !== client)));
    });
    return () => {
      moved.unsubscribe();
      left.unsubscribe();
    };
  }

  /** Those who were there when one joined; one's own window is none of them. */
  begin(here: readonly Presence[], own: string): void {
    const others = here.filter(({ client }) => client !== own);
    this.known.set(new Map(others.map((presence) => [presence.client, presence])));
  }
}
