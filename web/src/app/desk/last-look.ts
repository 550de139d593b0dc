import { HttpErrorResponse } from '@angular/common/http';
import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import type { Look } from '@oxbow/contract';
import { sittings } from '@oxbow/core/history';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { Comparing } from '../reading/comparing';
import { peopleOf } from '../reading/look';
import { isAway } from '../session/remembered';
import { session } from '../session/session.store';
import type { Range } from '../tideline/layout';
import type { Pick } from '../tideline/tideline';
import { DeskHistory } from '../document/history';

const SITTING = 10 * 60_000;
/** Milliseconds before what was seen is told to the server. */
const SOON = 1500;

/** What others wrote since this person last looked. */
export interface News {
  readonly sittings: number;
  readonly people: readonly string[];
  readonly wordsIn: number;
  readonly wordsOut: number;
  readonly range: Range;
}

/**
 * How far one has looked at the document on the desk. What others write stays new until one has walked through it or said
 * that it was seen; what comes in while the present page is in view, with nothing new before it, is seen as it comes.
 */
@Injectable()
export class LastLook {
  private readonly api = inject(Api);
  private readonly log = inject(DeskHistory);
  private readonly comparing = inject(Comparing);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly known = signal<Look | null>(null);
  private readonly failed = signal('');
  private id = '';
  private timer: ReturnType<typeof setTimeout> | null = null;

  readonly look = this.known.asReadonly();
  readonly trouble = this.failed.asReadonly();
  /** What is new; null while that is not known, or nothing is. */
  readonly news = computed<News | null>(() => {
    const [look, me] = [this.known(), this.me()?.id];
    const traces = this.log.traces();
    if (!look) return null;
    const others = traces.filter(({ seq, author }) => seq > look.seq && author !== me);
    if (others.length === 0) return null;
    return {
      sittings: sittings(others, SITTING).length,
      people: [...new Set(others.map(({ author }) => author))],
      wordsIn: others.reduce((sum, { wordsIn }) => sum + wordsIn, 0),
      wordsOut: others.reduce((sum, { wordsOut }) => sum + wordsOut, 0),
      range: { first: look.seq + 1, last: this.log.head() },
    };
  });
  /** The pair of moments that a walk goes through, a walk begun before first. */
  readonly walk = computed<Pick | null>(() => {
    const [look, news] = [this.known(), this.news()];
    return look && news
      ? { earlier: look.seq, later: look.upTo > look.seq ? look.upTo : news.range.last }
      : null;
  });
  /** Whether the comparison in view is the walk. */
  readonly walking = computed(() => {
    const [walk, look] = [this.walk(), this.comparing.look()];
    return (
      walk !== null &&
      look !== null &&
      !look.file &&
      look.earlier.document === look.later.document &&
      look.earlier.seq === walk.earlier &&
      look.later.seq === walk.later
    );
  });
  /** How many of the changes of the walk were seen, own ones counted. */
  readonly progress = computed(() => {
    const changes = this.comparing.look()?.comparison.changes ?? [];
    const seen = new Set(this.known()?.seen ?? []);
    const done = changes.filter((change) => seen.has(change.id) || this.isOwn(change.id)).length;
    return { done, all: changes.length };
  });

  constructor() {
    effect(() => {
      const [walking, at] = [this.walking(), this.comparing.at()];
      if (walking && at !== null) untracked(() => this.saw(at));
    });
    effect(() => {
      const done = this.walking() && this.progress().done === this.progress().all;
      if (done) untracked(() => this.seen(this.walk()?.later ?? 0));
    });
    inject(DestroyRef).onDestroy(() => this.timer !== null && this.keepNow());
  }

  async load(id: string): Promise<void> {
    this.id = id;
    this.known.set(null);
    try {
      this.known.set(await firstValueFrom(this.api.lastLook(id)));
      this.failed.set('');
    } catch (error) {
      const isQuiet = isAway(error) || (error instanceof HttpErrorResponse && error.status === 403);
      this.failed.set(isQuiet ? '' : saidOf(error));
    }
  }

  /** The present page is in view at its head: with nothing new before it, what came in is seen. */
  watched(before: number): void {
    const look = this.known();
    const me = this.me()?.id;
    if (!look) return;
    const clean = !this.log
      .traces()
      .some(({ seq, author }) => seq > look.seq && seq <= before && author !== me);
    if (clean) this.seen(this.log.head());
  }

  /** Everything up to a moment was seen. */
  seen(upTo = this.log.head()): void {
    const look = this.known();
    if (!look || upTo < look.seq) return;
    this.known.set({ seq: upTo, at: new Date().toISOString(), upTo: 0, seen: [] });
    this.keepSoon();
  }

  private saw(change: number): void {
    const [look, walk] = [this.known(), this.walk()];
    if (!look || !walk || look.seen.includes(change)) return;
    this.known.set({ ...look, upTo: walk.later, seen: [...look.seen, change] });
    this.keepSoon();
  }

  private isOwn(id: number): boolean {
    const change = this.comparing.look()?.comparison.changes.find((one) => one.id === id);
    const people = change ? peopleOf(change) : [];
    return people.length > 0 && people.every((person) => person === this.me()?.id);
  }

  private keepSoon(): void {
    this.timer ??= setTimeout(() => this.keepNow(), SOON);
  }

  private keepNow(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    const look = this.known();
    if (!look) return;
    const { seq, upTo, seen } = look;
    this.api.keepLook(this.id, { seq, upTo, seen }).subscribe({
      next: () => this.failed.set(''),
      error: (error: unknown) => this.failed.set(saidOf(error)),
    });
  }
}
