import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { Choice } from '../look/choice';
import { shelf } from '../documents/shelf.store';
import { DeskActs } from '../document/acts';

/** Makes a document of its own from a moment, with a title and a collection; only whoever makes it sees it at first. */
@Component({
  selector: 'ox-copying',
  imports: [Choice, FormsModule, MatButtonModule, ReactiveFormsModule],
  template: `
    <form (ngSubmit)="make()" (keydown.escape)="leave($event)">
      <label>
        <ng-container i18n> Title of the new document </ng-container>
        <input class="name" [formControl]="title" maxlength="200" />
      </label>
      <p i18n>
        Collection
        <ox-choice label="Collection" i18n-label [of]="collections()" [(value)]="collection" />
      </p>
      <p i18n>
        This document stays as it is. The new one is yours alone until you share it, and says where it came
        from.
      </p>
      <p class="wrong" role="alert">{{ wrong() }}</p>
      <div class="acts">
        <button i18n matButton="filled" type="submit" [disabled]="acts.busy()">Make the document</button>
        <button i18n matButton type="button" (click)="done.emit()">Cancel</button>
      </div>
    </form>
  `,
  styleUrl: './moment-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Copying {
  readonly document = input.required<string>();
  readonly seq = input.required<number>();
  readonly name = input.required<string>();
  readonly done = output();

  protected readonly acts = inject(DeskActs);
  private readonly router = inject(Router);
  protected readonly collections = inject(Store).selectSignal(shelf.selectFillable);
  protected readonly title = new FormControl('', { nonNullable: true });
  protected readonly collection = signal('');
  protected readonly wrong = signal('');

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      this.title.setValue(this.name());
      element.querySelector<HTMLInputElement>('.name')?.select();
    });
  }

  protected async make(): Promise<void> {
    const title = this.title.value.trim();
    if (!title) return this.wrong.set($localize`A document needs a title.`);
    const { value, wrong } = await this.acts.copy(
      this.document(),
      this.seq(),
      title,
      this.collection() || null,
    );
    this.wrong.set(wrong);
    if (value) void this.router.navigate(['/documents', value.id]);
  }

  protected leave(event: Event): void {
    event.stopPropagation();
    this.done.emit();
  }
}
