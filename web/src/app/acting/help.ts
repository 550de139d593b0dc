import { ChangeDetectionStrategy, Component, ElementRef, afterNextRender, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Acting } from './acting';
import type { Offer } from './acting';
import type { ActId } from './acts';
import { ACTS, keysTold } from './acts';
import { NOUNS } from './nouns';
import { DECK_ACTS } from './deck-acts';
import { SHEET_ACTS } from './sheet-acts';
import { WRITING_ACTS } from './writing-acts';
import type { NounId } from './nouns';

/** Keys of the text and the tideline, which are theirs while one is in them. */
const KEYS: readonly (readonly [string, string])[] = [
  ['# , - , 1. , [] , > ', $localize`At the start of a block: heading, lists, check list, quote`],
  ['Alt+Enter', $localize`From the text to the writing tools`],
  ['Alt+L', $localize`In the text: the life of this passage; in a sheet: the cell over time`],
  ['F2', $localize`In a sheet: type into the cell; any letter begins anew`],
  ['Ctrl+←↑↓→', $localize`In a sheet: to where filled cells begin or end`],
  [$localize`PageUp, PageDown`, $localize`On a slide: the one before, the next`],
  [$localize`Esc, arrows`, $localize`In a box on a slide: pick the box; move it, with Shift size it`],
  ['Alt+↑, Enter', $localize`In a moment of the past: pick the block round it, carry it forward`],
  ['← →', $localize`On the tideline: one step earlier or later`],
  ['Shift+← →', $localize`On the tideline: move Earlier by itself`],
  [$localize`Home, End`, $localize`On the tideline: to the first bar shown; to now`],
  [$localize`PageUp, PageDown`, $localize`On the tideline: along it`],
  ['+ −', $localize`On the tideline: zoom in and out`],
  ['[ ]', $localize`On the tideline: to the landmark before and after`],
];

/** Whether an act is done to what the document holds. */
function isOfContent(id: ActId): boolean {
  return id in WRITING_ACTS || id in SHEET_ACTS || id in DECK_ACTS;
}

/** What can be done here, the keys, and the words of our own. Opens at a word where it is asked about one. */
@Component({
  selector: 'ox-help',
  imports: [MatButtonModule, MatDialogModule],
  templateUrl: './help.html',
  styleUrl: './help.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Help {
  private readonly dialog = inject<MatDialogRef<Help>>(MatDialogRef);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The word that is asked about; null for help as a whole. */
  protected readonly asked = inject<NounId | null>(MAT_DIALOG_DATA);
  private readonly offers = inject(Acting)
    .now()
    .filter(({ id }) => id !== 'help');
  /** What can be done here, what is done to the text apart from the rest. */
  protected readonly groups = [
    { name: $localize`What you can do here`, offers: this.offers.filter(({ id }) => !isOfContent(id)) },
    {
      name: $localize`In the text, in cells and on slides`,
      offers: this.offers.filter(({ id }) => isOfContent(id)),
    },
  ].filter(({ offers }) => offers.length > 0);
  protected readonly acts = ACTS;
  protected readonly keys = KEYS;
  protected readonly nouns = Object.entries(NOUNS);
  protected readonly keysTold = keysTold;

  constructor() {
    afterNextRender(() => {
      if (this.asked) this.element.nativeElement.querySelector(`#noun-${this.asked}`)?.scrollIntoView();
    });
  }

  protected run({ run }: Offer): void {
    this.dialog.afterClosed().subscribe(run);
    this.dialog.close();
  }
}
