import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import {
  SearchQuery,
  findNext,
  findPrev,
  getMatchHighlights,
  replaceAll,
  replaceNext,
  setSearchState,
} from 'prosemirror-search';
import type { Command, EditorState } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

/** Finds words on the page as it is now, and puts others in their place. Words of other moments are found in time. */
@Component({
  selector: 'ox-finding',
  imports: [MatButtonModule, MatCheckboxModule, ReactiveFormsModule],
  template: `
    <form
      [formGroup]="form"
      (ngSubmit)="go(1)"
      (keydown.escape)="closed.emit()"
      role="search"
      aria-label="Find and replace"
      i18n-aria-label
    >
      <input
        #field
        formControlName="search"
        placeholder="Find on this page"
        i18n-placeholder
        aria-label="Find on this page"
        i18n-aria-label
        autocomplete="off"
      />
      <span class="count" role="status">{{ count() }}</span>
      <button i18n matButton="outlined" type="button" [disabled]="matches().length === 0" (click)="go(-1)">
        Previous
      </button>
      <button i18n matButton="outlined" type="submit" [disabled]="matches().length === 0">Next</button>
      <mat-checkbox i18n formControlName="caseSensitive">Match case</mat-checkbox>
      <mat-checkbox i18n formControlName="wholeWord">Whole words</mat-checkbox>
      @if (writable()) {
        <input
          formControlName="replace"
          placeholder="Replace with"
          i18n-placeholder
          aria-label="Replace with"
          i18n-aria-label
          autocomplete="off"
        />
        <button
          i18n
          matButton="outlined"
          type="button"
          [disabled]="matches().length === 0"
          (click)="run(replaceNext)"
        >
          Replace
        </button>
        <button
          i18n
          matButton="outlined"
          type="button"
          [disabled]="matches().length === 0"
          (click)="run(replaceAll); field.focus()"
        >
          Replace all
        </button>
      }
      <button i18n matButton type="button" (click)="closed.emit()">Close</button>
    </form>
  `,
  styleUrl: './finding.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Finding {
  readonly view = input.required<EditorView>();
  readonly state = input.required<EditorState>();
  readonly writable = input.required<boolean>();
  readonly closed = output();

  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly replaceNext = replaceNext;
  protected readonly replaceAll = replaceAll;
  protected readonly form = new FormGroup({
    search: new FormControl('', { nonNullable: true }),
    replace: new FormControl('', { nonNullable: true }),
    caseSensitive: new FormControl(false, { nonNullable: true }),
    wholeWord: new FormControl(false, { nonNullable: true }),
  });
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });
  /** Where the words stand, in order. */
  protected readonly matches = computed(() => getMatchHighlights(this.state()).find());
  protected readonly count = computed(() => {
    if (!this.typed().search) return '';
    const { from, to } = this.state().selection;
    const [at, all] = [
      this.matches().findIndex((one) => one.from === from && one.to === to),
      this.matches().length,
    ];
    if (all === 0) return $localize`Nothing found`;
    return at < 0 ? $localize`${all} found` : $localize`${at + 1} of ${all}`;
  });

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      const { from, to, empty } = this.view().state.selection;
      if (!empty)
        this.form.controls.search.setValue(this.view().state.doc.textBetween(from, to, ' ').slice(0, 200));
      this.field().nativeElement.select();
      element.scrollIntoView({ block: 'nearest' });
    });
    effect((onCleanup) => {
      const typed = this.typed();
      const view = this.view();
      untracked(() => search(view, new SearchQuery({ ...typed, search: typed.search ?? '', literal: true })));
      onCleanup(() => {
        if (!view.isDestroyed) search(view, new SearchQuery({ search: '' }));
      });
    });
  }

  protected go(direction: 1 | -1): void {
    this.run(direction === 1 ? findNext : findPrev);
  }

  /** Runs a command on the page, which stays where the words in hand are in view. */
  protected run(command: Command): void {
    const view = this.view();
    command(view.state, (tr) => view.dispatch(tr.scrollIntoView()), view);
  }
}

function search(view: EditorView, query: SearchQuery): void {
  view.dispatch(setSearchState(view.state.tr, query));
}
