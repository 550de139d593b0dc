import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { isSafeLink } from '@oxbow/core/kinds/text';
import type { EditorView } from 'prosemirror-view';
import { addressIn, stretchOf } from './links';
import type { Stretch } from './links';

/** Asks where the link at the caret, or on what is selected, leads. */
@Component({
  selector: 'ox-link-form',
  imports: [FormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <form (ngSubmit)="set()" (keydown.escape)="closed.emit()" aria-label="Link" i18n-aria-label novalidate>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>Address</mat-label>
        <input
          matInput
          #field
          [formControl]="href"
          placeholder="https://"
          i18n-placeholder
          autocomplete="off"
          inputmode="url"
        />
        @if (href.hasError('unsafe')) {
          <mat-error i18n>Only web, mail and telephone addresses can be linked to</mat-error>
        }
      </mat-form-field>
      <div class="ends">
        <button i18n matButton type="button" (click)="closed.emit()">Cancel</button>
        <button i18n matButton="filled" type="submit">
          {!!href.value.trim(), select, true {Set the link} other {Take the link off}}
        </button>
      </div>
    </form>
  `,
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LinkForm {
  readonly view = input.required<EditorView>();
  readonly closed = output();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly href = new FormControl('', { nonNullable: true });
  private stretch: Stretch | null = null;

  constructor() {
    afterNextRender(() => {
      const { state } = this.view();
      this.stretch = stretchOf(state);
      this.href.setValue(this.stretch ? addressIn(state, this.stretch) : '');
      this.field().nativeElement.focus();
      this.field().nativeElement.select();
      this.element.nativeElement.scrollIntoView({ block: 'nearest' });
    });
  }

  protected set(): void {
    const written = this.href.value.trim();
    const href = /^[\w-]+(\.[\w-]+)+/.test(written) ? `https://${written}` : written;
    if (href && !isSafeLink(href)) {
      this.href.setErrors({ unsafe: true });
      this.href.markAsTouched();
      return;
    }
    const view = this.view();
    const stretch = stretchOf(view.state) ?? this.stretch;
    const { link } = view.state.schema.marks;
    if (stretch && link) {
      const { from, to } = stretch;
      view.dispatch(
        href
          ? view.state.tr.addMark(from, to, link.create({ href }))
          : view.state.tr.removeMark(from, to, link),
      );
    }
    this.closed.emit();
  }
}
