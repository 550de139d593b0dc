import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  resource,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { ComparisonResult, Whereabouts } from '@oxbow/contract';
import { documentOf, kindOf } from '@oxbow/core/kinds';
import { Node } from 'prosemirror-model';
import { debounceTime } from 'rxjs';
import { ACTS } from '../acting/acts';
import { What } from '../acting/what';
import { Api, saidOf } from '../api/api';
import { pastClip } from '../document/clip';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { LiveDocument } from '../document/live-document';
import type { Past } from '../document/own-acts';
import { Words } from '../document/words';
import { lasting } from '../look/lasting';
import { dayAndTime } from '../look/time';
import { PastPage } from './past-page';
import { PickPage } from './pick-page';
import { samePicked } from './picking';
import type { Picked, Picking } from './picking';
import { placeKey } from './place-mark';

/** Milliseconds without an edit before the two pages are compared anew. */
const QUIET = 1200;
/** Longest quote of what is picked. */
const QUOTE = 60;

/** A place on the page as it is now: between two positions, or in place of what is between them. */
interface Place {
  readonly from: number;
  readonly to: number;
}

/** A past page beside the live one: what is picked in it is carried to where it stood, to the caret, or dragged across. */
@Component({
  selector: 'ox-carry',
  imports: [What, MatButtonModule, MatIconModule, MatProgressBarModule, PastPage, PickPage, RouterLink],
  templateUrl: './carry.html',
  styleUrl: './carry.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', '[attr.aria-label]': 'ownName' },
})
export class Carry {
  protected readonly acts = ACTS;
  protected readonly ownName = $localize`Carry forward`;
  readonly document = input.required<string>();
  readonly moment = input.required<number>();
  readonly head = input.required<number>();
  /** Whether one owns the document, and may erase in it. */
  readonly owns = input(false);
  /** What the live page scrolls in. */
  readonly scroller = input.required<HTMLElement>();
  readonly closed = output();

  private readonly api = inject(Api);
  private readonly live = inject(LiveDocument);
  private readonly words = inject(Words);
  private readonly past = viewChild.required<ElementRef<HTMLElement>>('past');
  protected readonly pastPage = viewChild<Picking>('pastPage');
  private readonly kinds = inject(KINDS_ON_SCREEN);
  /** How the moment is drawn, where it is no page of text; not known while it is undefined. */
  protected readonly draw = resource({
    params: () => this.doc() ?? undefined,
    loader: async ({ params }) => (await this.kinds[kindOf(params).name]?.drawn?.()) ?? null,
  });
  protected readonly page = rxResource({
    params: () => ({ document: this.document(), moment: this.moment() }),
    stream: ({ params }) => this.api.moment(params.document, params.moment),
  });
  protected readonly doc = computed(() =>
    this.page.hasValue() ? documentOf(this.page.value().content) : null,
  );
  protected readonly name = computed(() => {
    if (!this.page.hasValue()) return $localize`The page as it was`;
    const { version, seq, at } = this.page.value();
    return `${version === null ? $localize`Edit ${seq}` : $localize`Version ${version}`}, ${dayAndTime(at)}`;
  });
  private readonly quietHead = toSignal(toObservable(this.head).pipe(debounceTime(QUIET)));
  private readonly compared = rxResource({
    params: () => ({
      document: this.document(),
      moment: this.moment(),
      head: this.quietHead() ?? untracked(this.head),
    }),
    stream: ({ params }) => this.api.compare(params.document, params.moment, params.head),
  });
  private readonly comparison = lasting<ComparisonResult>(
    this.compared,
    () => `${this.document()} ${this.moment()}`,
  );
  /** Stretches that are not in the document any more, in order. */
  protected readonly gone = computed<Picked>(
    () =>
      (this.comparison()?.changes ?? [])
        .filter(({ kind }) => kind === 'removed' || kind === 'replaced' || kind === 'typography')
        .flatMap(({ stands }) => stands.earlier)
        .sort((a, b) => a.from - b.from),
    { equal: samePicked },
  );
  /** What is picked, as the address of where it is erased has it. */
  protected readonly passage = computed(() => {
    const picked = this.picked();
    return `${this.moment()}.${picked[0]?.from ?? 0}.${picked.at(-1)?.to ?? 0}`;
  });
  protected readonly picked = linkedSignal<Node | null, Picked>({
    source: this.doc,
    computation: () => [],
    equal: samePicked,
  });
  /** What was to be carried before it was known where it stood; it is as soon as that is known. */
  private readonly hurried = signal<Picked | null>(null);
  private readonly found = rxResource({
    params: () => {
      const picked = this.picked();
      const [first, last] = [picked[0], picked.at(-1)];
      return first && last
        ? {
            document: this.document(),
            moment: this.moment(),
            from: first.from,
            to: last.to,
            head: this.head(),
          }
        : undefined;
    },
    stream: ({ params }) => this.api.whereabouts(params.document, params.moment, params.from, params.to),
  });
  protected readonly where = lasting<Whereabouts>(this.found, this.picked);
  /** On the page as it is now, where what is left of it stands, or the place it had. */
  private readonly spot = computed<Place | null>(() => {
    const where = this.where();
    if (!where) return null;
    const [from, to] = [where.from, where.to].map((at) => this.live.here(at, where.seq) ?? at);
    return { from: from ?? 0, to: to ?? 0 };
  });
  protected readonly inPlace = computed(() => this.standing(this.spot()));
  protected readonly near = computed(() => {
    const spot = this.spot();
    return this.standing(spot && { from: spot.to, to: spot.to });
  });
  private readonly quote = computed(() => {
    const [doc, picked] = [this.doc(), this.picked()];
    const text = picked
      .map(({ from, to }) => doc?.textBetween(from, to, ' ', ' '))
      .join(' ')
      .trim();
    return text.length > QUOTE
      ? `“${text.slice(0, QUOTE)}…”`
      : text
        ? `“${text}”`
        : $localize`What you picked`;
  });
  protected readonly told = computed(() => {
    if (this.picked().length === 0)
      return $localize`Pick text, a paragraph, an image or rows. What is hatched is not in the document any more.`;
    const where = this.where();
    if (this.found.error()) return saidOf(this.found.error());
    if (!where) return $localize`Looking where it stood …`;
    if (where.kind === 'stands') return $localize`${this.quote()} still stands in the document.`;
    if (where.kind === 'gone')
      return this.near()
        ? $localize`${this.quote()} is gone. The page shows where it would stand.`
        : $localize`${this.quote()} is gone, and nothing can stand where it was. Carry it to the caret.`;
    return $localize`Some of ${this.quote()} still stands, changed. The page shows what would make way for it.`;
  });
  protected readonly saidOf = saidOf;
  private follower: 'past' | 'now' | null = null;

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      element.querySelector<HTMLElement>('h2')?.focus();
      const [scroller, follow] = [this.scroller(), () => this.scrolled('now')];
      scroller.addEventListener('scroll', follow, { passive: true });
      destroy.onDestroy(() => scroller.removeEventListener('scroll', follow));
    });
    effect(() => {
      if (this.comparison() && this.doc()) untracked(() => setTimeout(() => this.scrolled('past')));
    });
    destroy.onDestroy(() => this.mark(null));
    effect(() => {
      const [hurried, picked, where] = [this.hurried(), this.picked(), this.where()];
      if (!hurried || (!where && picked === hurried)) return;
      untracked(() => {
        this.hurried.set(null);
        if (picked === hurried) this.send();
      });
    });
    effect(() => {
      const kind = this.where()?.kind;
      const spot = kind === 'stands' ? this.spot() : kind === 'changed' ? this.inPlace() : this.near();
      untracked(() => this.mark(spot, kind === 'stands' ? '' : $localize`here: ${this.quote()}`));
    });
  }

  /** A place, if what is picked can stand there: where exactly. */
  private standing(place: Place | null): Place | null {
    const doc = this.doc();
    if (!place || !doc) return null;
    const carrying = this.live.acts.carrying(this.pastOf(doc), place);
    if (!carrying) return null;
    return place.from === place.to ? { from: carrying.from, to: carrying.from } : place;
  }

  private pastOf(doc: Node): Past {
    return { doc, moment: this.moment(), what: this.picked() };
  }

  private mark(place: Place | null, says = ''): void {
    const page = this.live.page;
    if (!page) return;
    page.dispatch(page.state.tr.setMeta(placeKey, place && { ...place, says }));
    if (place) this.reveal(place.from);
  }

  /** Brings a position of the live page into view, if it is not. */
  private reveal(position: number): void {
    const [page, scroller] = [this.live.page, this.scroller()];
    if (!page) return;
    const { top, bottom } = scroller.getBoundingClientRect();
    const at = page.heightOf(Math.min(position, page.state.doc.content.size));
    if (at === null || (at > top + 40 && at < bottom - 140)) return;
    this.follower = 'now';
    scroller.scrollTop += at - top - (bottom - top) / 3;
  }

  protected put(place: Place | null): void {
    const doc = this.doc();
    if (!place || !doc || this.picked().length === 0) return;
    const undo = this.live.acts.carry(this.pastOf(doc), place);
    if (undo)
      this.words.say($localize`Carried forward, with its writers.`, {
        label: $localize`Take it back`,
        run: undo,
      });
    else this.words.say($localize`That cannot stand there. Put the caret elsewhere.`);
  }

  /** Carries what is picked to where it stood, as soon as that is known. */
  protected send(): void {
    const where = this.where();
    if (where) this.put(where.kind === 'changed' ? this.inPlace() : this.near());
    else if (this.picked().length > 0) this.hurried.set(this.picked());
  }

  protected putAtCaret(): void {
    const selection = this.live.page?.state.selection;
    if (selection) this.put({ from: selection.from, to: selection.to });
  }

  protected take(picked: Picked): void {
    const doc = this.doc();
    if (doc && picked.length > 0) this.live.acts.took(pastClip(doc, this.moment(), picked));
  }

  /** Picks the next stretch that is not in the document any more. */
  protected next(): void {
    const at = this.picked()[0]?.from ?? -1;
    const gone = this.gone().find(({ from }) => from > at) ?? this.gone()[0];
    if (gone) this.pastPage()?.pick(gone.from, gone.to);
  }

  /** Keeps the two pages in step: whichever is scrolled leads. */
  protected scrolled(leader: 'past' | 'now'): void {
    if (this.follower === leader) {
      this.follower = null;
      return;
    }
    const [comparison, page, past] = [this.comparison(), this.live.page, this.pastPage()];
    if (!comparison || !page || !past) return;
    const [pastBox, nowBox] = [this.past().nativeElement, this.scroller()];
    const top = pastBox.getBoundingClientRect().top + 48;
    const now = (at: number): number =>
      Math.min(this.live.here(at, comparison.later.seq) ?? at, page.state.doc.content.size);
    const at = leader === 'past' ? past.positionAt(top) : page.positionAt(top);
    const row = comparison.rows.find(({ earlier, later }) =>
      leader === 'past' ? earlier.to > (at ?? 0) : now(later.to) > (at ?? 0),
    );
    if (!row) return;
    const heights = {
      past: past.heightOf(row.earlier.from) ?? top,
      now: page.heightOf(now(row.later.from)) ?? top,
    };
    const follower = leader === 'past' ? 'now' : 'past';
    const box = follower === 'now' ? nowBox : pastBox;
    const before = box.scrollTop;
    box.scrollTop += heights[follower] - heights[leader];
    if (box.scrollTop !== before) this.follower = follower;
  }
}
