import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';

/** One of several things to choose: what stands for it, and how it is called. */
export type Chosen<T> = readonly [value: T, name: string];

/** One chosen out of a few, in one line of a bar or a form. */
@Component({
  selector: 'ox-choice',
  imports: [MatFormFieldModule, MatSelectModule],
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-select
        [aria-label]="label()"
        [value]="value()"
        [disabled]="disabled()"
        (valueChange)="value.set($event)"
      >
        @for (one of of(); track one[0]) {
          <mat-option [value]="one[0]">{{ one[1] }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    :host {
      display: inline-block;
      width: fit-content;
      min-width: 158px;
      max-width: min(100%, 320px);
    }
    mat-form-field {
      --mat-form-field-container-height: 32px;
      --mat-form-field-container-vertical-padding: 5px;
      --mat-select-trigger-text-size: 13px;
      width: auto;
      min-width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Choice<T> {
  /** What is chosen, in words. */
  readonly label = input.required<string>();
  readonly of = input.required<readonly Chosen<T>[]>();
  readonly value = model.required<T>();
  readonly disabled = input(false);
}
