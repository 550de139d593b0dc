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
import { FormControl, FormsModule, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import type { Landmark } from '@oxbow/contract';
import { What } from '../acting/what';
import { DeskActs } from '../document/acts';

/** Names a moment, renames it, or takes its name off. */
@Component({
  selector: 'ox-naming',
  imports: [What, FormsModule, MatButtonModule, ReactiveFormsModule],
  template: `
    <form (ngSubmit)="save()" (keydown.escape)="leave($event)">
      <ox-what noun="landmark" />
      <label>
        <ng-container i18n> Name </ng-container>
        <input
          class="name"
          [formControl]="name"
          maxlength="80"
          placeholder="As agreed, For the printer, …"
          i18n-placeholder
          [attr.aria-invalid]="wrong() !== ''"
          aria-describedby="naming-wrong"
        />
      </label>
      <label>
        <ng-container i18n> Note </ng-container>
        <input
          [formControl]="note"
          maxlength="2000"
          placeholder="Why this moment matters (may stay empty)"
          i18n-placeholder
        />
      </label>
      <p id="naming-wrong" class="wrong" role="alert">{{ wrong() }}</p>
      <div class="acts">
        <button i18n matButton="filled" type="submit" [disabled]="acts.busy()">
          {!!landmark(), select, true {Keep the name} other {Name this moment}}
        </button>
        <button i18n matButton type="button" (click)="done.emit()">Cancel</button>
        @if (landmark()) {
          <span class="space"></span>
          <button i18n matButton type="button" (click)="remove()">Take the name off</button>
        }
      </div>
    </form>
  `,
  styleUrl: './moment-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Naming {
  readonly document = input.required<string>();
  readonly seq = input.required<number>();
  readonly landmark = input.required<Landmark | null>();
  readonly done = output();

  protected readonly acts = inject(DeskActs);
  protected readonly name = new FormControl('', { nonNullable: true, validators: Validators.pattern(/\S/) });
  protected readonly note = new FormControl('', { nonNullable: true });
  protected readonly wrong = signal('');

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      this.name.setValue(this.landmark()?.name ?? '');
      this.note.setValue(this.landmark()?.note ?? '');
      element.querySelector<HTMLInputElement>('.name')?.select();
    });
  }

  protected async save(): Promise<void> {
    if (!this.name.value.trim()) return this.wrong.set($localize`A landmark needs a name.`);
    this.ended(
      await this.acts.name(this.document(), this.seq(), this.landmark(), this.name.value, this.note.value),
    );
  }

  protected async remove(): Promise<void> {
    const landmark = this.landmark();
    if (landmark) this.ended(await this.acts.unname(this.document(), landmark));
  }

  protected leave(event: Event): void {
    event.stopPropagation();
    this.done.emit();
  }

  private ended(wrong: string): void {
    this.wrong.set(wrong);
    if (!wrong) this.done.emit();
  }
}
