import { DestroyRef, Injectable, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { keysAreTaken } from '../look/keys';
import { session } from '../session/session.store';
import { ACTS } from './acts';
import type { ActId } from './acts';

/** An act that can be done where one is. */
export interface Offer {
  readonly id: ActId;
  readonly run: () => void;
  /** Whether it can be done now. */
  readonly can: () => boolean;
}

/** Something found by typing, to go to. */
export interface Found {
  readonly label: string;
  readonly about: string;
  readonly run: () => void;
}

/** Finds what can be gone to by what was typed, such as versions of the document that is open. */
export type Finder = (typed: string) => readonly Found[];

/** All acts, in the order of the table. */
const ACT_IDS = Object.keys(ACTS) as ActId[];

/** What can be done where one is: who offers it, and the keys that do it. One listener for the keys of all. */
@Injectable({ providedIn: 'root' })
export class Acting {
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly offered = signal<readonly Offer[]>([]);
  private readonly finders = new Set<Finder>();

  /** Offers acts as long as whoever calls is there; of two who offer the same, the later one counts. */
  offer(runs: Partial<Record<ActId, () => void>>, can: (id: ActId) => boolean = () => true): void {
    const offers = (Object.entries(runs) as [ActId, () => void][]).map(([id, run]) => ({
      id,
      run,
      can: () => can(id),
    }));
    this.offered.update((all) => [...all, ...offers]);
    inject(DestroyRef).onDestroy(() =>
      this.offered.update((all) => all.filter((offer) => !offers.includes(offer))),
    );
  }

  /** Lets something be found by typing, as long as whoever calls is there. */
  offerFinding(finder: Finder): void {
    this.finders.add(finder);
    inject(DestroyRef).onDestroy(() => this.finders.delete(finder));
  }

  /** What can be done now, in the order of the table. */
  now(): Offer[] {
    const last = new Map(this.offered().map((offer) => [offer.id, offer]));
    return ACT_IDS.flatMap((id) => {
      const offer = last.get(id);
      return offer?.can() ? [offer] : [];
    });
  }

  private offerOf(id: ActId): Offer | undefined {
    return this.offered().findLast((offer) => offer.id === id);
  }

  /** Whether an act is offered and can be done now: what shows a button for it asks first. */
  can(id: ActId): boolean {
    return this.offerOf(id)?.can() ?? false;
  }

  /** Does an act, if it can be done now. */
  do(id: ActId): void {
    if (this.can(id)) this.offerOf(id)?.run();
  }

  find(typed: string): Found[] {
    return [...this.finders].flatMap((finder) => finder(typed));
  }

  /** Does what a key stands for here, if anything. */
  key(event: KeyboardEvent): void {
    if (event.defaultPrevented || keysAreTaken(event)) return;
    const keys = keysOf(event);
    const isPlain = !event.altKey && !event.ctrlKey && !event.metaKey;
    if (isPlain && isTyping(event.target)) return;
    if (isPlain && event.key.length === 1 && this.me()?.preferences.keys === false) return;
    const offer = ACT_IDS.filter((id) => ACTS[id].keys === keys)
      .map((id) => this.offerOf(id))
      .find((one) => one?.can());
    if (!offer) return;
    event.preventDefault();
    offer.run();
  }
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(input|textarea|select)$/i.test(target.tagName))
  );
}

function keysOf({ altKey, ctrlKey, metaKey, key }: KeyboardEvent): string {
  return `${ctrlKey || metaKey ? 'mod+' : ''}${altKey ? 'alt+' : ''}${key.toLowerCase()}`;
}
