import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, FormGroup, FormsModule, ReactiveFormsModule, Validators } from '@angular/forms';
import type { ValidatorFn } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { DocumentSummary, Letter, PostInput } from '@oxbow/contract';
import { Api } from '../api/api';
import { Calling } from '../api/calling';
import { formatsOf } from '../look/formats';

/** What is sent: a moment, or, with `earlier`, a redline from there. */
export interface SendingData {
  readonly document: string;
  readonly title: string;
  /** What it is, such as "version 12", or "version 9 to version 12". */
  readonly what: string;
  readonly kind: DocumentSummary['kind'];
  readonly later: number;
  readonly earlier?: number;
  /** Another document that `earlier` is a moment of. */
  readonly other?: string | null;
}

/** The format that each kind is sent in where no other is chosen. */
const USUAL = { text: 'docx', sheet: 'xlsx', deck: 'pptx' } as const satisfies Record<
  DocumentSummary['kind'],
  PostInput['format']
>;
const REDLINES: ReadonlySet<string> = new Set(['docx', 'odt', 'html']);
const ADDRESS = /^[^\s@,;]+@[^\s@,;]+$/;

function addressesIn(value: string): string[] {
  return value.split(/[\s,;]+/).filter((one) => one !== '');
}

const addresses: ValidatorFn = ({ value }) => {
  const wrong = addressesIn(String(value)).find((one) => !ADDRESS.test(one));
  return wrong === undefined ? null : { address: wrong };
};

/** Writes a message with a version or a redline to people outside. Closes with what was sent. */
@Component({
  selector: 'ox-sending',
  imports: [
    FormsModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  template: `
    <h2 i18n mat-dialog-title>Send {{ data.title }}, {{ data.what }}</h2>
    <form [formGroup]="fields" (ngSubmit)="send()">
      <mat-dialog-content>
        <mat-form-field appearance="outline">
          <mat-label i18n>To</mat-label>
          <input matInput formControlName="to" placeholder="name@place.example, …" i18n-placeholder />
          @if (fields.controls.to.hasError('required')) {
            <mat-error i18n>A message needs somebody to go to.</mat-error>
          } @else if (fields.controls.to.errors?.['address']; as wrong) {
            <mat-error i18n>“{{ wrong }}” is no address.</mat-error>
          }
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label i18n>Subject</mat-label>
          <input matInput formControlName="subject" maxlength="200" />
          <mat-error i18n>A message needs a subject.</mat-error>
        </mat-form-field>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Words</mat-label>
          <textarea matInput rows="4" formControlName="text" maxlength="10000"></textarea>
        </mat-form-field>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>{data.earlier === undefined, select,
            true {As}
            other {With tracked changes, as}
          }</mat-label>
          <mat-select formControlName="format">
            @for (format of formats; track format.id) {
              <mat-option [value]="format.id">{{ format.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <p class="wrong" role="alert">{{ calling.wrong() }}</p>
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button i18n matButton mat-dialog-close type="button">Cancel</button>
        <button i18n matButton="filled" type="submit" [disabled]="calling.busy()">Send it</button>
      </mat-dialog-actions>
    </form>
  `,
  styleUrl: './sending.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sending {
  protected readonly data = inject<SendingData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<Sending, Letter>>(MatDialogRef);
  private readonly api = inject(Api);
  protected readonly calling = new Calling();
  protected readonly formats = formatsOf(this.data.kind).filter(({ id }) =>
    this.data.earlier === undefined ? id !== 'json' : REDLINES.has(id),
  );
  protected readonly fields = new FormGroup({
    to: new FormControl('', { nonNullable: true, validators: [Validators.required, addresses] }),
    subject: new FormControl(`${this.data.title}, ${this.data.what}`.slice(0, 200), {
      nonNullable: true,
      validators: [Validators.required, Validators.pattern(/\S/)],
    }),
    text: new FormControl('', { nonNullable: true }),
    format: new FormControl<PostInput['format']>(USUAL[this.data.kind], {
      nonNullable: true,
    }),
  });

  protected async send(): Promise<void> {
    this.fields.markAllAsTouched();
    if (this.fields.invalid) return;
    const { to, subject, text, format } = this.fields.getRawValue();
    const { document, later, earlier, other } = this.data;
    const call = this.api.post(document, {
      to: addressesIn(to),
      subject: subject.trim(),
      text,
      format,
      later: `@${later}`,
      ...(earlier === undefined ? {} : { earlier: `@${earlier}` }),
      ...(other ? { with: other } : {}),
    });
    const sent = await this.calling.make(call);
    if (sent) this.dialog.close(sent);
  }
}
