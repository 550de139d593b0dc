import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import type { Node } from 'prosemirror-model';
import { TextSelection } from 'prosemirror-state';
import type { EditorState } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

const text = (words: string): Node[] => (words ? [schema.text(words)] : []);
const p = (words = ''): Node => schema.node('paragraph', null, text(words));
const h = (level: number, words: string): Node => schema.node('heading', { level }, text(words));
const list = (...items: string[]): Node =>
  schema.node(
    'bullet_list',
    null,
    items.map((item) => schema.node('list_item', null, [p(item)])),
  );
const checks = (...items: string[]): Node =>
  schema.node(
    'check_list',
    null,
    items.map((item) => schema.node('check_item', { checked: false }, [p(item)])),
  );
const table = (heads: readonly string[], rows: number): Node =>
  schema.node('table', null, [
    schema.node(
      'table_row',
      null,
      heads.map((head) => schema.node('table_header', null, [p(head)])),
    ),
    ...Array.from({ length: rows }, () =>
      schema.node(
        'table_row',
        null,
        heads.map(() => schema.node('table_cell', null, [p()])),
      ),
    ),
  ]);

/** Beginnings to write on from. */
export const STARTERS: readonly { readonly name: string; readonly blocks: () => Node[] }[] = [
  {
    name: $localize`Minutes`,
    blocks: () => [
      h(1, $localize`Minutes`),
      p($localize`Date, place, and who was there`),
      h(2, $localize`What was decided`),
      list(''),
      h(2, $localize`Who does what by when`),
      table([$localize`Who`, $localize`What`, $localize`By when`], 3),
      h(2, $localize`Next meeting`),
      p(),
    ],
  },
  {
    name: $localize`Report`,
    blocks: () => [
      h(1, $localize`Title`),
      p($localize`What this is about, in three sentences.`),
      h(2, $localize`What was found`),
      p(),
      h(2, $localize`What follows from it`),
      p(),
      h(2, $localize`What was not looked at`),
      p(),
    ],
  },
  {
    name: $localize`Letter`,
    blocks: () => [
      p($localize`Place, date`),
      p(),
      p($localize`To`),
      p(),
      p($localize`Dear`),
      p(),
      p(),
      p($localize`Yours sincerely,`),
    ],
  },
  {
    name: $localize`Check list`,
    blocks: () => [h(1, $localize`Check list`), p($localize`For whom, and when`), checks('', '', '')],
  },
];

/** Whether a document has nothing in it yet. */
export function isBlank({ doc }: EditorState): boolean {
  const [only] = doc.children;
  return doc.childCount === 1 && only?.type.name === 'paragraph' && only.content.size === 0;
}

/** Says on a blank page how to begin, and offers a few beginnings. */
@Component({
  selector: 'ox-starters',
  imports: [MatButtonModule],
  template: `
    @if (blank()) {
      <div class="begin">
        <p i18n>
          Write here. Everything is kept as you type, and every moment of it can be opened again: the line
          below grows as you go.
        </p>
        <p class="offers">
          <ng-container i18n> Or begin with </ng-container>
          @for (starter of starters; track starter.name) {
            <button matButton="outlined" type="button" (click)="begin(starter)">{{ starter.name }}</button>
          }
        </p>
      </div>
    }
  `,
  styles: `
    .begin {
      margin-top: 26px;
      color: var(--soft);
    }
    .offers {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 8px;
    }
    @media print {
      .begin {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Starters {
  readonly view = input.required<EditorView>();
  readonly state = input.required<EditorState>();
  protected readonly starters = STARTERS;
  protected readonly blank = computed(() => isBlank(this.state()));

  protected begin({ blocks }: (typeof STARTERS)[number]): void {
    const view = this.view();
    const tr = view.state.tr.replaceWith(0, view.state.doc.content.size, blocks());
    view.dispatch(tr.setSelection(TextSelection.atStart(tr.doc)).scrollIntoView());
    view.focus();
  }
}
