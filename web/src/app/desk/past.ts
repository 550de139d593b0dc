import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { ComparisonResult, Moment, Person } from '@oxbow/contract';
import { textSchema } from '@oxbow/core/content';
import { Node } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { imageView } from './images';
import { Ledger } from './ledger';
import type { Tab } from './ledger';
import { marksOf } from './marks';
import { shortTime } from '../look/time';

/** A moment to look at, with what came after the earlier one. */
export interface Look {
  readonly earlier: Moment;
  readonly later: Moment;
  readonly comparison: ComparisonResult;
}

/** A past page: to be read, not written on, with marks in the text and the ledger beside it. */
@Component({
  selector: 'ox-past',
  imports: [Ledger],
  template: `
    <ox-ledger [tabs]="tabs()" [people]="people()" (chosen)="changed.emit($event)" />
    <div #page class="page-text"></div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Past {
  readonly look = input.required<Look>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  /** The change in hand, or null. */
  readonly at = input.required<number | null>();
  readonly marked = input.required<boolean>();
  readonly changed = output<number>();

  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly view = signal<EditorView | null>(null);
  protected readonly tabs = signal<readonly Tab[]>([]);

  constructor() {
    afterNextRender(() => this.begin());
    effect(() => this.draw());
    effect(() => {
      const at = this.at();
      if (this.look() && at !== null && this.view()) requestAnimationFrame(() => this.reveal(at));
    });
    effect((onCleanup) => {
      const view = this.view();
      onCleanup(() => view?.destroy());
    });
  }

  private begin(): void {
    this.view.set(
      new EditorView(
        { mount: this.page().nativeElement },
        {
          state: EditorState.create({ schema: textSchema }),
          editable: () => false,
          nodeViews: { image: imageView(this.look().later.document) },
          attributes: { 'aria-label': 'The document as it was', tabindex: '0', role: 'document' },
          handleClick: (_view, _position, event) => {
            const change = (event.target as HTMLElement).closest<HTMLElement>('[data-change]')?.dataset[
              'change'
            ];
            if (change !== undefined) this.changed.emit(Number(change));
            return false;
          },
        },
      ),
    );
  }

  private draw(): void {
    const view = this.view();
    const { earlier, later, comparison } = this.look();
    if (!view) return;
    const doc = Node.fromJSON(textSchema, later.content);
    const past = Node.fromJSON(textSchema, earlier.content);
    const marks = this.marked()
      ? marksOf({ earlier: past, later: doc, changes: comparison.changes, people: this.people() }, this.at())
      : null;
    view.updateState(EditorState.create({ doc }));
    view.setProps({ decorations: () => marks });
    requestAnimationFrame(() => this.tabs.set(marks ? this.place(comparison) : []));
  }

  /** A tab beside each changed passage, in line with it; tabs that would collide become one. */
  private place({ changes }: ComparisonResult): Tab[] {
    const top = this.element.nativeElement.getBoundingClientRect().top;
    const tabs: Tab[] = [];
    for (const change of changes) {
      const mark = this.element.nativeElement.querySelector(`[data-change="${change.id}"]`);
      const last = change.credits.at(-1);
      if (!mark || !last) continue;
      const y = mark.getBoundingClientRect().top - top;
      const people = [...new Set(change.credits.map((credit) => credit.person))];
      const before = tabs.at(-1);
      if (before && Math.abs(before.top - y) < 22) {
        tabs[tabs.length - 1] = {
          ...before,
          people: [...new Set([...before.people, ...people])],
          at: before.at > last.at ? before.at : last.at,
        };
      } else tabs.push({ change: change.id, top: y, people, at: last.at, label: shortTime(last.at) });
    }
    return tabs.map((tab) => ({ ...tab, label: shortTime(tab.at) }));
  }

  private reveal(change: number): void {
    const mark = this.element.nativeElement.querySelector(`[data-change="${change}"]`);
    mark?.scrollIntoView({ block: 'center' });
  }
}
