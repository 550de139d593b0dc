import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import { Assembling } from '../assemble/assembling';
import { DeskHistory } from '../document/history';
import type { Range } from '../tideline/layout';
import { DeskAddress } from './address';
import { keepPlace, recallPlace } from './place';

/** How the desk stands: what of the line is in view, what is folded, how far down the page one is. A reload brings it back. */
@Injectable()
export class Frame {
  private readonly address = inject(DeskAddress);
  private readonly assembling = inject(Assembling);
  private readonly log = inject(DeskHistory);
  private readonly wanted = signal<Range | null>(null);
  private readonly isFolded = signal(false);
  private readonly logShown = signal(false);
  private readonly down = signal(0);
  private scroller: HTMLElement | null = null;

  /** The edits that the tideline shows. */
  readonly range = computed<Range>(() => this.wanted() ?? { first: 1, last: Math.max(1, this.log.head()) });
  readonly folded = this.isFolded.asReadonly();
  /** Whether the history stands there as a table. */
  readonly showsLog = this.logShown.asReadonly();
  /** How far down the page the reader is, from 0 to 1. */
  readonly depth = this.down.asReadonly();

  constructor() {
    effect(() => {
      const id = this.address.document();
      untracked(() => this.recall(id));
    });
    effect(() => {
      const crowded = this.address.assembling() || this.address.place()?.room === 'carry';
      untracked(() => this.isFolded.set(crowded || recallPlace(this.address.document()).folded));
    });
    effect(() => this.assembling.on.set(this.address.assembling()));
  }

  private recall(id: string): void {
    const { range, folded, log } = recallPlace(id);
    this.wanted.set(range);
    this.isFolded.set(folded);
    this.logShown.set(log);
  }

  /** What the page scrolls in. */
  scrollsIn(element: HTMLElement): void {
    this.scroller = element;
  }

  zoomTo(range: Range): void {
    const whole = range.first === 1 && range.last === this.log.head();
    this.wanted.set(whole ? null : range);
    keepPlace(this.address.document(), { range: whole ? null : range });
  }

  /** The line grew from a head: what showed its end goes on showing it. */
  grow(from: number): void {
    this.wanted.update((wanted) => (wanted?.last === from ? { ...wanted, last: this.log.head() } : wanted));
  }

  fold(): void {
    this.isFolded.update((folded) => !folded);
    keepPlace(this.address.document(), { folded: this.folded() });
  }

  toggleLog(): void {
    this.logShown.update((shown) => !shown);
    this.isFolded.set(false);
    keepPlace(this.address.document(), { log: this.showsLog(), folded: false });
  }

  /** Brings the tideline into view, for now. */
  showLine(): void {
    this.isFolded.set(false);
    this.logShown.set(false);
  }

  /** Keeps where in the text one is, on the present page. */
  keepScroll(): void {
    if (!this.scroller || this.address.pick()) return;
    this.down.set(this.scroller.scrollTop / Math.max(1, this.scroller.scrollHeight));
    keepPlace(this.address.document(), { scroll: this.scroller.scrollTop });
  }

  /** Goes back to where in the text one was, as soon as the page is in view. */
  backToPlace(): void {
    setTimeout(() => this.scroller?.scrollTo({ top: recallPlace(this.address.document()).scroll }));
  }
}
