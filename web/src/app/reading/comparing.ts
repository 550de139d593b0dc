import { Injectable, computed, inject, linkedSignal, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { ComparedChange, Moment, Person } from '@oxbow/contract';
import { picturesIn } from '@oxbow/core/content';
import { documentOf, kindOfContent } from '@oxbow/core/kinds';
import { sectionOf, toldChange } from '@oxbow/core/compare';
import { toldRows, toldSections } from '@oxbow/core/kinds/told';
import { FORMATS } from '@oxbow/core/formats/about';
import type { RedlineFormat } from '@oxbow/core/formats';
import { Subject, catchError, combineLatest, firstValueFrom, map, of, switchMap } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api, saidOf } from '../api/api';
import type { Arrived } from '../filing/filing';
import { bytesOf } from '../look/save';
import { Comparer } from '../worker/comparer';
import type { Filter } from './filter';
import { EVERYTHING, countsOf, isShown } from './filter';
import type { Look } from './look';

/** Which two moments: `other` is another document that `earlier` is a moment of. */
export interface Ends {
  readonly document: string;
  readonly earlier: number;
  readonly later: number;
  readonly other: string | null;
}

/** The comparison on a desk: what is compared, which of its changes are shown, and which one is in hand. */
@Injectable()
export class Comparing {
  private readonly api = inject(Api);
  private readonly comparer = inject(Comparer);
  private readonly wanted = new Subject<Ends | null>();
  private readonly found = signal<Look | null>(null);
  private readonly busy = signal(false);
  private readonly failed = signal('');
  private ends: Ends | null = null;
  private chosen = false;

  readonly look = this.found.asReadonly();
  readonly looking = this.busy.asReadonly();
  readonly trouble = this.failed.asReadonly();
  /** Whether the reader keeps their place: the text is the same as before, or another pair was chosen for it. */
  readonly staying = signal(false);
  /** Whether marks are drawn. */
  readonly marked = signal(true);
  /** What kind of document is compared. */
  readonly kind = computed(() => {
    const look = this.look();
    return look ? kindOfContent(look.later.content) : 'text';
  });
  readonly sections = computed(() => {
    const look = this.look();
    return look ? toldSections(documentOf(look.later.content)) : [];
  });
  /** What stands beside what, in the order in which it is read. */
  readonly rows = computed(() => {
    const look = this.look();
    if (!look) return [];
    const { rows } = look.comparison;
    return this.kind() === 'deck'
      ? toldRows(documentOf(look.earlier.content), documentOf(look.later.content), rows)
      : rows;
  });
  /** All changes, in the order in which they are read. */
  private readonly all = computed<readonly ComparedChange[]>(() => {
    const [changes, sections] = [this.look()?.comparison.changes ?? [], this.sections()];
    if (this.kind() !== 'deck') return changes;
    const ranked = changes.map((change) => ({ change, rank: sectionOf(sections, change) }));
    return ranked.sort((one, other) => one.rank - other.rank).map(({ change }) => change);
  });
  readonly counts = computed(() => countsOf(this.look()?.comparison.changes ?? [], this.sections()));
  /** Which changes are wanted; a section is of one look only. */
  readonly filter = linkedSignal<Look | null, Filter>({
    source: this.look,
    computation: (_look, before) => ({
      ...(before?.value ?? EVERYTHING),
      section: null,
      group: null,
    }),
  });
  readonly shown = computed<readonly ComparedChange[]>(() => {
    const [all, filter, sections] = [this.all(), this.filter(), this.sections()];
    return all.filter((change) => isShown(change, filter, sections));
  });
  /** The change in hand, by its id: the first, when a comparison opens, or the nearest to the one before when it stays. */
  readonly at = linkedSignal<readonly ComparedChange[], number | null>({
    source: this.shown,
    computation: (shown, before) => {
      const held = before?.source.find(({ id }) => id === before.value);
      const near = held && shown.find(({ place }) => place.later.from >= held.place.later.from);
      return ((untracked(this.staying) && near) || shown[0])?.id ?? null;
    },
  });
  /** Which of the shown changes is in hand, from 0; -1 for none. */
  readonly index = computed(() => this.shown().findIndex(({ id }) => id === this.at()));

  constructor() {
    this.wanted
      .pipe(
        switchMap((ends) => this.fetch(ends)),
        takeUntilDestroyed(),
      )
      .subscribe((look) => {
        const before = this.found()?.later;
        const same = before?.document === look?.later.document && before?.seq === look?.later.seq;
        this.staying.set(before !== undefined && (same || this.chosen));
        this.chosen = false;
        this.busy.set(false);
        this.found.set(look);
      });
  }

  /** The next pair is another one for the same reader: their place in the text is kept. */
  stay(): void {
    this.chosen = true;
  }

  /** Compares two moments, or none. What was asked for before is broken off. */
  open(ends: Ends | null): void {
    this.comparer.cancel();
    this.ends = ends;
    this.failed.set('');
    this.busy.set(ends !== null);
    this.wanted.next(ends);
  }

  /** Compares the later moment in view, or else the present one, with a file from outside. */
  async openFile(now: () => Promise<Moment>, file: File, arrived: Arrived | null = null): Promise<void> {
    const earlier = this.found()?.later;
    await this.openAside(async () => earlier ?? (await now()), {
      name: file.name,
      at: file.lastModified,
      source: file,
      arrived,
      read: async () => ({ bytes: await bytesOf(file) }),
    });
  }

  /** Compares the present document with a stranded draft put on top of it. */
  async openDraft(now: () => Promise<{ moment: Moment; content: unknown }>, at: number): Promise<void> {
    let content: unknown = null;
    const earlier = async (): Promise<Moment> => {
      const found = await now();
      ({ content } = found);
      return found.moment;
    };
    const read = async () => ({ bytes: new Uint8Array(), content });
    await this.openAside(earlier, {
      name: $localize`Your stranded draft, put on top`,
      at,
      source: null,
      arrived: null,
      read,
    });
  }

  private async openAside(
    first: () => Promise<Moment>,
    other: {
      name: string;
      at: number;
      /** The file; null for a draft. */
      source: File | null;
      arrived: Arrived | null;
      read: () => Promise<{ bytes: Uint8Array; content?: unknown }>;
    },
  ): Promise<void> {
    const { ends } = this;
    const { name, source, arrived } = other;
    this.busy.set(true);
    this.failed.set('');
    try {
      const earlier = await first();
      const { content, words, about, ...comparison } = await this.comparer.file({
        earlier: earlier.content,
        name,
        ...(await other.read()),
      });
      if (ends !== this.ends) return;
      const at = new Date(other.at).toISOString();
      const changes = comparison.changes.map((change): ComparedChange => ({
        ...toldChange(change),
        credits: [],
      }));
      this.found.set({
        earlier,
        later: { ...earlier, at, title: name, version: null, words, content },
        comparison: {
          ...comparison,
          changes,
          rows: [...comparison.rows],
          shares: [],
          earlier: { seq: earlier.seq, at: earlier.at },
          later: { seq: earlier.seq, at },
        },
        file: name,
        about,
        source,
        arrived,
        draft: source === null,
      });
    } catch (error) {
      this.failed.set(saidOf(error));
    } finally {
      this.busy.set(false);
    }
  }

  private fetch(ends: Ends | null): Observable<Look | null> {
    if (!ends) return of(null);
    const { document, earlier, later, other } = ends;
    return combineLatest({
      earlier: this.api.moment(other ?? document, earlier),
      later: this.api.moment(document, later),
      comparison: this.api.compare(document, earlier, later, other),
    }).pipe(
      map((look) => ({ ...look, file: null })),
      catchError((error: unknown) => {
        this.failed.set(saidOf(error));
        return of(null);
      }),
    );
  }

  /** Goes to the next or previous change shown. Answers what to say when it begins again at the other end. */
  step(direction: 1 | -1): string | null {
    const shown = this.shown();
    if (shown.length === 0) return null;
    const next = this.index() + direction;
    this.at.set(shown[(next + shown.length) % shown.length]?.id ?? null);
    if (next >= 0 && next < shown.length) return null;
    return direction === 1
      ? $localize`That was the last change; beginning again at the first.`
      : $localize`That was the first change; going on from the last.`;
  }

  /** The comparison in view as a file that needs nothing beside it. */
  async redline(
    format: RedlineFormat,
    people: ReadonlyMap<string, Person>,
    name: (moment: Moment) => string,
  ): Promise<Blob | null> {
    const look = this.look();
    if (!look) return null;
    const { earlier, later, file, about, comparison } = look;
    const author = file === null ? (people.get(later.by)?.name ?? '') : about?.author || file;
    const credits = comparison.changes.map(({ credits }) =>
      file === null
        ? credits.map(({ person, ...credit }) => ({ ...credit, author: people.get(person)?.name ?? '' }))
        : (['earlier', 'later'] as const).map((side) => ({
            side,
            author,
            at: later.at,
            from: 0,
            to: 2 ** 30,
          })),
    );
    const who = credits.map((stretches) => {
      const last = stretches.at(-1);
      return last?.author ? `${last.author}, ${last.at}` : '';
    });
    const bytes = await this.comparer.redline({
      format,
      earlier: earlier.content,
      later: later.content,
      title: earlier.title,
      author,
      at: later.at,
      ends: [name(earlier), file ?? name(later)],
      who,
      credits,
      images: await this.images([earlier, later]),
    });
    return new Blob([bytes], { type: FORMATS[format].type });
  }

  /** The images that moments show. */
  private async images(moments: readonly Moment[]): Promise<Uint8Array[]> {
    const wanted = new Map<string, string>();
    for (const { document, content } of moments)
      for (const hash of picturesIn(documentOf(content))) wanted.set(hash, document);
    const found = [...wanted].map(([hash, document]) => firstValueFrom(this.api.image(document, hash)));
    const held = await Promise.allSettled(found);
    return Promise.all(held.flatMap((one) => (one.status === 'fulfilled' ? [bytesOf(one.value)] : [])));
  }
}
