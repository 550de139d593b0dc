import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { sittings } from '@oxbow/core/history';
import { Store } from '@ngrx/store';
import { saidOf } from '../api/api';
import type { Kept as Assembly } from '../assemble/kept';
import { AboutDocument } from '../document/about';
import { DeskHistory } from '../document/history';
import { shelf } from '../documents/shelf.store';
import { Words } from '../document/words';
import type { Place } from '../past/rooms';
import { Choosing } from '../reading/choosing';
import { Comparing } from '../reading/comparing';
import { session } from '../session/session.store';
import type { Pick } from '../tideline/tideline';
import { DeskAddress } from './address';
import { Frame } from './frame';
import { LastLook } from './last-look';

const SITTING = 10 * 60_000;

/** Going about a document: to its moments and back to now, into rooms, to what is to be compared. The address bar holds where one is. */
@Injectable()
export class Going {
  private readonly about = inject(AboutDocument);
  private readonly address = inject(DeskAddress);
  private readonly choosing = inject(Choosing);
  private readonly comparing = inject(Comparing);
  private readonly frame = inject(Frame);
  private readonly lastLook = inject(LastLook);
  private readonly log = inject(DeskHistory);
  private readonly words = inject(Words);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  private readonly documents = inject(Store).selectSignal(shelf.selectDocuments);
  private readonly naming = signal(false);

  /** Whether the picked moment is to be named as soon as it is in view. */
  readonly wantsName = this.naming.asReadonly();
  /** What this document was copied from, where it was. */
  readonly origin = computed(() => {
    const first = this.log.causes().get(1);
    return first?.kind === 'copy' ? first : null;
  });

  constructor() {
    effect(() => {
      const [document, pick, other] = [this.address.document(), this.address.pick(), this.address.other()];
      untracked(() => this.comparing.open(pick && { document, other, ...pick }));
    });
    effect(() => {
      const arrival = this.address.arrival();
      const head = this.log.head();
      if (arrival && head > 0) untracked(() => void this.compareArrived(arrival, head));
    });
    effect(() => {
      if (this.address.lastSitting() && this.log.head() > 0) untracked(() => this.openLastSitting());
    });
  }

  /** Goes to a pair of moments, or back to now. */
  go(pick: Pick | null, other: string | null = null): void {
    if (pick && !this.address.pick()) this.frame.keepScroll();
    if (!pick && this.comparing.look()?.file) this.comparing.open(null);
    if (!pick) this.naming.set(false);
    this.address.go(pick, other);
    if (!pick) this.frame.backToPlace();
  }

  /** Goes to the moment of one edit, and what it changed. */
  goTo(seq: number): void {
    this.go({ earlier: Math.max(0, seq - 1), later: seq });
  }

  /** Goes into a room off the desk, or back to the page. */
  enter(place: Place | null): void {
    if (place && !this.address.place()) this.frame.keepScroll();
    this.address.enter(place);
    if (!place) this.frame.backToPlace();
  }

  openLastSitting(): void {
    const last = sittings(this.log.traces(), SITTING).at(-1);
    if (last) this.go({ earlier: last.first - 1, later: last.last });
  }

  stepChange(direction: 1 | -1): void {
    const word = this.comparing.step(direction);
    if (word) this.words.say(word);
  }

  /** Goes to the last edit that had a hand in the current change. */
  goToChange(): void {
    const last = Math.max(0, ...(this.change()?.credits.map(({ seq }) => seq) ?? []));
    if (last > 0) this.goTo(last);
  }

  /** Goes to the life of the passage that the current change is in. */
  lifeOfChange(): void {
    const [look, change] = [this.comparing.look(), this.change()];
    if (!look || !change || look.file || this.address.other()) return;
    const gone = change.later === '';
    const [moment, place] = gone ? [look.earlier, change.place.earlier] : [look.later, change.place.later];
    this.enter({ room: 'life', passage: `${moment.seq}.${place.from}` });
  }

  private change() {
    return this.comparing.look()?.comparison.changes.find(({ id }) => id === this.comparing.at());
  }

  /** Names the picked moment, or now. */
  nameMoment(): void {
    const head = this.log.head();
    if (!this.comparing.look()) this.go({ earlier: head, later: head });
    this.naming.set(true);
  }

  /** The moment to be named is in view. */
  named(): void {
    this.naming.set(false);
  }

  /** Asks what to compare, and compares it. */
  async chooseEnds(): Promise<void> {
    await this.log.come();
    const [head, versions] = [this.log.head(), this.log.versions()];
    const document = this.address.document();
    const pick = this.address.pick() ?? { earlier: versions[1]?.seq ?? 0, later: head };
    const ends = await this.choosing.ask({
      document,
      head,
      versions,
      people: this.people(),
      documents: this.documents(),
      ends: { document, other: this.address.other(), ...pick },
      landmarks: this.log.landmarks(),
      seen: this.lastLook.look()?.seq ?? null,
    });
    if (!ends) return;
    this.comparing.stay();
    this.go({ earlier: ends.earlier, later: ends.later }, ends.other);
  }

  /** Compares the present page with the moment it was copied from. */
  compareOrigin(): void {
    const origin = this.origin();
    if (origin) this.go({ earlier: origin.moment, later: this.log.head() }, origin.document);
  }

  /** Compares with a file that came in a message, once. */
  private async compareArrived(arrival: { letter: string; index: number }, head: number): Promise<void> {
    this.address.go(null, null);
    try {
      await this.choosing.arrived(this.address.document(), head, arrival);
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  /** Files the file in view as the next version, and goes to what it changed. */
  async fileIt(): Promise<void> {
    try {
      const ends = await this.choosing.file(this.about.document()?.title ?? '');
      if (ends) this.go(ends);
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  /** Goes on with an assembly that was begun before. */
  goOn({ earlier, later, other, document }: Assembly): void {
    this.address.go({ earlier, later }, other === document ? null : other, true);
  }
}
