import { Injectable, effect, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { WireEdit } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { DeskHistory } from '../document/history';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import { SessionEvents, session } from '../session/session.store';
import { DeskAddress } from './address';
import { Frame } from './frame';
import { Going } from './going';
import { LastLook } from './last-look';

/** Hears what is accepted while the document is open: the history grows by it, and what was done by others is said. */
@Injectable()
export class Hearing {
  private readonly address = inject(DeskAddress);
  private readonly frame = inject(Frame);
  private readonly going = inject(Going);
  private readonly lastLook = inject(LastLook);
  private readonly log = inject(DeskHistory);
  private readonly words = inject(Words);
  private readonly store = inject(Store);
  private readonly people = this.store.selectSignal(session.selectPeopleById);
  private readonly me = this.store.selectSignal(session.selectPerson);

  constructor() {
    const live = inject(LiveDocument);
    live.edits.pipe(takeUntilDestroyed()).subscribe((edits) => this.heard(edits));
    live.said.pipe(takeUntilDestroyed()).subscribe((text) => this.words.say(text));
    effect(() => {
      const said = this.address.said();
      if (said) this.words.say(said);
    });
    effect(() => {
      const authors = this.log.versions().flatMap((version) => version.authors);
      const id = authors.find((author) => !this.people().has(author));
      if (id !== undefined) this.store.dispatch(SessionEvents.strangerMet({ id }));
    });
  }

  private heard(edits: readonly WireEdit[]): void {
    const head = this.log.head();
    this.log.add(edits);
    const watching = !this.address.pick() && !this.address.place() && document.visibilityState === 'visible';
    if (watching) this.lastLook.watched(head);
    this.frame.grow(head);
    for (const edit of edits) this.tell(edit);
  }

  private tell({ author, cause, seq }: WireEdit): void {
    const by = cause.kind === 'filing' ? cause.by : undefined;
    if ([author, by].includes(this.me()?.id)) return;
    const name = this.people().get(author)?.name ?? $localize`Somebody`;
    const look = { label: $localize`Look at what that changed`, run: () => this.going.goTo(seq) };
    if (cause.kind === 'restore') {
      const what =
        cause.number === undefined ? $localize`an earlier moment` : $localize`version ${cause.number}`;
      this.words.say($localize`${name} brought back ${what}.`, look);
    }
    if (cause.kind === 'erasure') this.words.say($localize`${name} erased something here, for good.`);
    if (cause.kind === 'takeBack') this.words.say($localize`${name} took a change back.`, look);
    if (cause.kind === 'filing')
      this.words.say($localize`${name} filed ${cause.file} as the next version.`, look);
  }
}
