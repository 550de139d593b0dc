import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, FormGroup, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import type { FileForm } from '@oxbow/contract';
import type { FileAbout } from '../worker/messages';
import { FileReport } from './file-report';

/** A file and where it is to go: on top of a document, or, with null, to be one of its own. */
export interface FilingData {
  readonly name: string;
  readonly about: FileAbout;
  readonly document: string | null;
  /** Words to begin the comment with. */
  readonly comment: string;
}

const CHOICES = [
  { take: 'accepted', name: $localize`Accepted`, says: $localize`the text as it is with them` },
  { take: 'rejected', name: $localize`Rejected`, says: $localize`the text as it was before them` },
  { take: 'both', name: $localize`Both`, says: $localize`as two versions, which can be compared` },
] as const;

/** Asks how a file is to be taken, and says what it brings and what it cannot. Closes with the fields to send along. */
@Component({
  selector: 'ox-filing-dialog',
  imports: [
    FileReport,
    FormsModule,
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatRadioModule,
    ReactiveFormsModule,
  ],
  template: `
    <h2 mat-dialog-title>{{ title }}</h2>
    <form [formGroup]="fields" (ngSubmit)="done()">
      <mat-dialog-content>
        @if (data.about.author) {
          <p i18n>The file says it is by {{ data.about.author }}.</p>
        }
        <ox-file-report [about]="data.about" />
        @if (data.about.tracked.length > 0) {
          <p i18n id="taking">Its tracked changes are taken</p>
          <mat-radio-group formControlName="tracked" aria-labelledby="taking">
            @for (choice of choices; track choice.take) {
              <mat-radio-button [value]="choice.take"
                ><strong>{{ choice.name }}</strong
                >: {{ choice.says }}</mat-radio-button
              >
            }
          </mat-radio-group>
        }
        @if (data.document !== null) {
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-label i18n>A word about where it comes from</mat-label>
            <textarea matInput rows="2" formControlName="comment" maxlength="2000"></textarea>
          </mat-form-field>
          <mat-checkbox i18n formControlName="major">Count it as a major version</mat-checkbox>
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button i18n matButton mat-dialog-close type="button">Cancel</button>
        <button i18n matButton="filled" type="submit">
          {data.document === null, select, true {Make the document} other {Import it}}
        </button>
      </mat-dialog-actions>
    </form>
  `,
  styleUrl: './filing-dialog.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilingDialog {
  protected readonly data = inject<FilingData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<FilingDialog, FileForm>>(MatDialogRef);
  protected readonly choices = CHOICES;
  protected readonly title =
    this.data.document === null
      ? $localize`Import ${this.data.name}`
      : $localize`Import ${this.data.name} as the next version of ${this.data.document}`;
  protected readonly fields = new FormGroup({
    tracked: new FormControl<(typeof CHOICES)[number]['take']>('accepted', { nonNullable: true }),
    comment: new FormControl(this.data.comment, { nonNullable: true }),
    major: new FormControl(false, { nonNullable: true }),
  });

  protected done(): void {
    const { tracked, comment, major } = this.fields.getRawValue();
    const tracks = this.data.about.tracked.length > 0;
    this.dialog.close({
      ...(tracks ? { tracked } : {}),
      ...(this.data.document === null ? {} : { comment: comment.trim(), major: major ? 'true' : 'false' }),
    });
  }
}
