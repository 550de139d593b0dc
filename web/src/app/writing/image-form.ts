import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  output,
} from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { LONGEST_CAPTION } from '@oxbow/core/kinds/text';
import type { Attrs } from 'prosemirror-model';
import type { EditorView } from 'prosemirror-view';
import { setAttributes } from './commands';

/** Widest that an image can be told to be, in pixels. */
const WIDEST = 2000;

/** Asks how wide an image is, what stands below it, and what it shows to whoever cannot see it. */
@Component({
  selector: 'ox-image-form',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <form
      [formGroup]="form"
      (ngSubmit)="set()"
      (keydown.escape)="closed.emit()"
      aria-label="This image"
      i18n-aria-label
      novalidate
    >
      @if (isInText()) {
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Caption, shown below it</mat-label>
          <input matInput formControlName="caption" [attr.maxlength]="longest" autocomplete="off" />
        </mat-form-field>
      }
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>What it shows, for whoever cannot see it</mat-label>
        <textarea
          matInput
          formControlName="alt"
          rows="2"
          [attr.maxlength]="isInText() ? 1000 : 500"
        ></textarea>
      </mat-form-field>
      @if (isInText()) {
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Width in pixels, empty for its own</mat-label>
          <input matInput type="number" formControlName="width" min="16" [attr.max]="widest" step="10" />
          @if (form.controls.width.invalid) {
            <mat-error i18n>A width from 16 to {{ widest }}, in whole pixels</mat-error>
          }
        </mat-form-field>
      }
      <div class="ends">
        <button i18n matButton type="button" (click)="closed.emit()">Cancel</button>
        <button i18n matButton="filled" type="submit">Set</button>
      </div>
    </form>
  `,
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImageForm {
  readonly view = input.required<EditorView>();
  readonly image = input.required<{ readonly position: number; readonly attrs: Attrs }>();
  readonly closed = output();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** Whether it stands in text, and not on a slide, where it has a place of its own. */
  protected readonly isInText = computed(() => 'caption' in this.image().attrs);
  protected readonly longest = LONGEST_CAPTION;
  protected readonly widest = WIDEST;
  protected readonly form = new FormGroup({
    caption: new FormControl('', { nonNullable: true }),
    alt: new FormControl('', { nonNullable: true }),
    width: new FormControl<number | null>(null, [
      Validators.min(16),
      Validators.max(WIDEST),
      Validators.pattern(/^\d*$/),
    ]),
  });

  constructor() {
    afterNextRender(() => {
      const {
        alt,
        caption = '',
        width,
      } = this.image().attrs as {
        alt: string;
        caption?: string;
        width: number | null;
      };
      this.form.setValue({ alt, caption, width: this.isInText() ? width : null });
      this.element.querySelector<HTMLElement>('input, textarea')?.focus();
    });
  }

  protected set(): void {
    if (this.form.invalid) return;
    const { alt, caption, width } = this.form.getRawValue();
    const view = this.view();
    const inText = { caption: caption.replace(/\s+/g, ' ').trim(), width: width ?? null };
    setAttributes(this.image().position, { alt: alt.trim(), ...(this.isInText() ? inText : {}) })(
      view.state,
      (tr) => view.dispatch(tr),
      view,
    );
    this.closed.emit();
  }
}
