import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  input,
  output,
  viewChild,
} from '@angular/core';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';

/** Asks for a word about a version that is to be kept. */
@Component({
  selector: 'ox-keep-form',
  imports: [FormsModule, MatButtonModule, MatCheckboxModule, ReactiveFormsModule],
  template: `
    <form (ngSubmit)="keep()" (keydown.escape)="left.emit()">
      <input
        #field
        [formControl]="comment"
        maxlength="2000"
        placeholder="What changed (may stay empty)"
        i18n-placeholder
        aria-label="Comment on this version"
        i18n-aria-label
      />
      <mat-checkbox i18n [formControl]="major">Major</mat-checkbox>
      <button i18n matButton="filled" type="submit" [disabled]="busy()">Keep it</button>
      <button i18n matButton type="button" (click)="left.emit()">Cancel</button>
    </form>
  `,
  styleUrl: './keep-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepForm {
  /** Whether one is being kept. */
  readonly busy = input(false);
  readonly kept = output<{ readonly comment: string; readonly major: boolean }>();
  readonly left = output();

  private readonly field = viewChild.required<ElementRef<HTMLElement>>('field');
  protected readonly comment = new FormControl('', { nonNullable: true });
  protected readonly major = new FormControl(false, { nonNullable: true });

  constructor() {
    afterNextRender(() => this.field().nativeElement.focus());
  }

  protected keep(): void {
    this.kept.emit({ comment: this.comment.value.trim(), major: this.major.value });
  }
}
