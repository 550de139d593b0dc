import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatIconModule } from '@angular/material/icon';
import type { ComparisonResult } from '@oxbow/contract';
import { paperOf, sheetOf } from '@oxbow/core/kinds/text';
import { TextSelection } from 'prosemirror-state';
import type { EditorState } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { debounceTime, of } from 'rxjs';
import { Acting } from '../../acting/acting';
import { ACTS, keysTold } from '../../acting/acts';
import { Api } from '../../api/api';
import { lasting } from '../../look/lasting';
import { changedIn, sectionsOf, wordsBetween, wordsIn } from './outlining';
import type { Changed, Section } from './outlining';

/** Milliseconds without a letter before words are counted, and without an edit before sections are compared. */
const SOON = 300;
const QUIET = 1500;
/** Pixels to a millimetre (CSS Values and Units Level 4, 6.2). */
const PIXELS = 96 / 25.4;
const SHOWN = 'oxbow-outline';

/** The headings of the page with how long each section is and what changed in it, and how long the whole is. */
@Component({
  selector: 'ox-outline',
  imports: [MatIconModule],
  templateUrl: './outline.html',
  styleUrl: './outline.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Outline {
  protected readonly acts = ACTS;
  readonly view = input.required<EditorView>();
  readonly state = input.required<EditorState>();
  readonly document = input.required<string>();
  /** The edit that changes are told since, and the last one; null where there is nothing to compare. */
  readonly since = input.required<number | null>();
  readonly head = input.required<number>();

  private readonly api = inject(Api);
  protected readonly shown = signal(localStorage.getItem(SHOWN) === 'yes');
  protected readonly keys = keysTold(ACTS.outline.keys ?? '');
  private readonly settled = toSignal(toObservable(this.state).pipe(debounceTime(SOON)));
  private readonly now = computed(() => this.settled() ?? this.state());
  protected readonly words = computed(() => wordsIn(this.now().doc));
  protected readonly selected = computed(() => {
    const { from, to, empty } = this.now().selection;
    return empty ? 0 : wordsBetween(this.now().doc, from, to);
  });
  protected readonly pages = computed(() => this.shown() && pagesOf(this.view(), this.now()));
  private readonly sections = computed(() => (this.shown() ? sectionsOf(this.now().doc) : []));
  private readonly quietHead = toSignal(toObservable(this.head).pipe(debounceTime(QUIET)));
  private readonly compared = rxResource({
    params: () => {
      const [since, head] = [this.since(), this.quietHead() ?? 0];
      return this.shown() && since !== null && since < head
        ? { document: this.document(), since, head }
        : undefined;
    },
    stream: ({ params }) =>
      params ? this.api.compare(params.document, params.since, params.head) : of(null),
  });
  private readonly comparison = lasting<ComparisonResult | null>(
    this.compared,
    () => `${this.document()} ${this.since()} ${this.shown()}`,
  );
  /** Headings with what changed below each; what stands before the first heading is told only where it changed. */
  protected readonly rows = computed<readonly (Section & { readonly changed: Changed | null })[]>(() => {
    const sections = this.sections();
    const comparison = this.comparison();
    const changed = comparison ? changedIn(sections, comparison.changes) : [];
    return sections
      .map((section, i) => ({ ...section, changed: changed[i]?.changes ? (changed[i] ?? null) : null }))
      .filter(({ level, changed: own }) => level > 0 || own !== null);
  });
  /** The section that the caret is in. */
  protected readonly at = computed(() => {
    const { head } = this.now().selection;
    return this.rows().findLast(({ from }) => from <= head) ?? null;
  });

  constructor() {
    inject(Acting).offer({ outline: () => this.toggle() });
  }

  protected titleOf({ title, level }: Section): string {
    if (title) return title;
    return level ? $localize`A heading without words` : $localize`Before the first heading`;
  }

  protected toggle(): void {
    this.shown.update((shown) => !shown);
    localStorage.setItem(SHOWN, this.shown() ? 'yes' : 'no');
  }

  /** Puts the caret at a heading, which comes into view. */
  protected go({ from }: Section): void {
    const view = this.view();
    const $at = view.state.doc.resolve(Math.min(from + 1, view.state.doc.content.size));
    view.dispatch(view.state.tr.setSelection(TextSelection.near($at)));
    const heading = view.nodeDOM(from);
    if (heading instanceof HTMLElement) heading.scrollIntoView({ block: 'start' });
    view.focus();
  }
}

/** About how many pages the document takes on its paper: what stands between page breaks, by its height on the screen. */
function pagesOf(view: EditorView, { doc }: EditorState): number {
  const page = view.dom;
  const paper = paperOf(doc);
  const { width, height } = sheetOf(paper);
  const scale = page.clientWidth / Math.max(1, (width - paper.left - paper.right) * PIXELS);
  const high = Math.max(1, (height - paper.top - paper.bottom) * PIXELS * scale);
  const breaks = [...page.querySelectorAll<HTMLElement>(':scope > hr[data-page-break]')];
  const ends = [...breaks.map(({ offsetTop }) => offsetTop - page.offsetTop), page.scrollHeight];
  return ends.reduce((sum, end, i) => sum + Math.max(1, Math.ceil((end - (ends[i - 1] ?? 0)) / high)), 0);
}
