import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { HistoryReach, Role, ShareInput } from '@oxbow/contract';
import { provideDates } from '../look/dates';
import { HISTORIES, ROLES, endOfDay } from './words';
import { SharingRoom } from './sharing-room';

/** The fields of how something is shared. */
export interface HowFields {
  readonly role: FormControl<Role>;
  readonly history: FormControl<HistoryReach>;
  readonly until: FormControl<Date | null>;
}

export function howFields(): HowFields {
  return {
    role: new FormControl<Role>('editor', { nonNullable: true }),
    history: new FormControl<HistoryReach>('all', { nonNullable: true }),
    until: new FormControl<Date | null>(null),
  };
}

/** What the fields say. */
export function howOf({ role, history, until }: HowFields): ShareInput {
  return { role: role.value, history: history.value, until: endOfDay(until.value) };
}

/** The fields for how something is shared: the role, how much of the history, until when. */
@Component({
  selector: 'ox-how',
  imports: [MatDatepickerModule, MatFormFieldModule, MatInputModule, MatSelectModule, ReactiveFormsModule],
  providers: [provideDates()],
  template: `
    <ng-container [formGroup]="fields()">
      <mat-form-field class="role" appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>As</mat-label>
        <mat-select formControlName="role">
          @for (one of roles; track one.role) {
            <mat-option i18n [value]="one.role"
              >{{ one.name }}, who {{ room.isDocument() ? one.may : one.mayWithAll }}</mat-option
            >
          }
        </mat-select>
        @if (fields().controls.role.getError('said'); as said) {
          <mat-error i18n>This {{ said }}</mat-error>
        }
      </mat-form-field>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>{!!room.isDocument(), select, true {Its history} other {Their history}}</mat-label>
        <mat-select formControlName="history">
          @for (one of histories; track one.history) {
            <mat-option [value]="one.history">{{ one.name }}</mat-option>
          }
        </mat-select>
        @if (fields().controls.history.getError('said'); as said) {
          <mat-error i18n>This {{ said }}</mat-error>
        }
      </mat-form-field>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>Until the end of</mat-label>
        <input matInput [matDatepicker]="day" formControlName="until" [min]="today" />
        <mat-datepicker-toggle matIconSuffix [for]="day" />
        <mat-datepicker #day />
      </mat-form-field>
    </ng-container>
  `,
  styles: `
    :host {
      display: contents;
    }
    mat-form-field {
      flex: 1 1 200px;
    }
    .role {
      flex: 2 1 360px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class How {
  readonly fields = input.required<FormGroup<HowFields>>();
  protected readonly room = inject(SharingRoom);
  protected readonly roles = ROLES;
  protected readonly histories = HISTORIES;
  protected readonly today = new Date();
}
