import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import type { MatAutocompleteSelectedEvent } from '@angular/material/autocomplete';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { filter } from 'rxjs';
import { Acting } from './acting';
import type { Found } from './acting';
import { ACTS, keysTold } from './acts';

/** Acts and things found that are shown at once. */
const MOST = 12;

/** Finds any act, room, version, landmark or document by typing, and does it or goes there. */
@Component({
  selector: 'ox-commands',
  imports: [MatAutocompleteModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <h2 i18n mat-dialog-title>Find a command</h2>
    <mat-dialog-content>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>An act, a room, a version, a landmark or a document</mat-label>
        <input
          matInput
          cdkFocusInitial
          [formControl]="typed"
          [matAutocomplete]="list"
          autocomplete="off"
          (keydown.enter)="enter($event)"
        />
        <mat-autocomplete
          #list="matAutocomplete"
          autoActiveFirstOption
          [displayWith]="nothing"
          (optionSelected)="choose($event)"
        >
          @for (one of found(); track $index) {
            <mat-option [value]="one">
              <span class="label">{{ one.label }}</span>
              <span class="about">{{ one.about }}</span>
            </mat-option>
          }
        </mat-autocomplete>
        @if (found().length === 0) {
          <mat-hint i18n>Nothing here is called so</mat-hint>
        }
      </mat-form-field>
    </mat-dialog-content>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      padding-top: 8px;
    }
    .label {
      font-weight: 600;
      margin-inline-end: 12px;
    }
    .about {
      color: var(--soft);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Commands {
  private readonly acting = inject(Acting);
  private readonly dialog = inject<MatDialogRef<Commands>>(MatDialogRef);
  private readonly acts: readonly Found[] = this.acting
    .now()
    .filter(({ id }) => id !== 'commands')
    .map(({ id, run }) => {
      const { label, about, keys } = ACTS[id];
      return { label, about: keys ? `${about} (${keysTold(keys)})` : about, run };
    });
  protected readonly typed = new FormControl('', { nonNullable: true });
  /** A choice is told as a value of the field, too: it is nothing that was typed. */
  private readonly text = toSignal(
    this.typed.valueChanges.pipe(filter((value: unknown) => typeof value === 'string')),
    { initialValue: '' },
  );
  protected readonly found = computed<readonly Found[]>(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    const holds = ({ label, about }: Found): boolean => {
      const told = `${label} ${about}`.toLowerCase();
      return words.every((word) => told.includes(word));
    };
    const things = words.length === 0 ? [] : this.acting.find(words.join(' ')).filter(holds);
    return [...this.acts.filter(holds), ...things].slice(0, MOST);
  });
  /** What was chosen is done, so nothing of it stands in the field. */
  protected readonly nothing = (): string => '';
  private taken = false;

  /** Enter may come before the list is drawn for what was typed: then the first of what is found counts. */
  protected enter(event: Event): void {
    if (event instanceof KeyboardEvent && !event.isComposing) this.take(this.found()[0]);
  }

  protected choose({ option }: MatAutocompleteSelectedEvent): void {
    const one = option.value as Found;
    this.take(this.found().includes(one) ? one : this.found()[0]);
  }

  private take(one: Found | undefined): void {
    if (!one || this.taken) return;
    this.taken = true;
    this.dialog.afterClosed().subscribe(one.run);
    this.dialog.close();
  }
}
