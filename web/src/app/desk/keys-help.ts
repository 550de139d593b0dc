import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';

const KEYS: readonly [string, string][] = [
  ['Alt+T', 'To the tideline; there:'],
  ['← →', 'One step earlier or later at the present grain'],
  ['Shift+← →', 'Move Earlier by itself'],
  ['Home, End', 'To the first bar shown; to now'],
  ['+ −', 'Zoom in and out'],
  ['J, K', 'Next and previous change'],
  ['M', 'Show or hide the marks'],
  ['C', 'Choose what to compare'],
  ['A', 'Assemble from the comparison; there 1, 2, 3: earlier, both, later'],
  [
    'B',
    'Bring something of the picked moment forward; there Alt+↑ picks the block round it, Enter carries it',
  ],
  ['G', 'Go to the moment at which the change in hand was made'],
  ['L', 'Life of the passage of the change in hand; in the text Alt+L'],
  ['F, R, P', 'Find in time, removed passages, play back'],
  ['Alt+W', 'Show or hide who wrote what'],
  ['PageUp, PageDown', 'Along the tideline'],
  ['[ ]', 'To the landmark before and after'],
  ['N', 'Name the picked moment, or now'],
  ['Esc', 'Back to now, at the same place in the text'],
  ['Ctrl+Z, Ctrl+Y', 'Undo and redo your own writing'],
  ['Alt+Enter', 'From the text to the writing tools'],
  ['Ctrl+Alt+0 … 3', 'Paragraph, heading 1 to 3'],
  ['# , - , 1. , [] , > ', 'At the start of a block: heading, lists, check list, quote'],
];

/** The keys, for whoever presses "?". */
@Component({
  selector: 'ox-keys-help',
  imports: [MatButtonModule, MatDialogModule],
  template: `
    <h2 mat-dialog-title>Keys</h2>
    <mat-dialog-content>
      <dl>
        @for (key of keys; track key[0]) {
          <dt>
            <kbd>{{ key[0] }}</kbd>
          </dt>
          <dd>{{ key[1] }}</dd>
        }
      </dl>
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button matButton mat-dialog-close type="button">Close the list of keys</button></mat-dialog-actions
    >
  `,
  styles:
    'dl { display: grid; grid-template-columns: max-content 1fr; gap: 4px 16px; margin: 0 } dd { margin: 0 } kbd { font: 13px var(--mono) }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeysHelp {
  protected readonly keys = KEYS;
}
