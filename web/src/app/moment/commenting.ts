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
import type { PastComment, Person, Version } from '@oxbow/contract';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { fullTime } from '../look/time';
import { DeskActs } from '../document/acts';

/** Writes the comment of a version, also long afterwards, and shows what it said before. */
@Component({
  selector: 'ox-commenting',
  imports: [FormsModule, MatButtonModule, ReactiveFormsModule],
  template: `
    <form (ngSubmit)="save()" (keydown.escape)="leave($event)">
      <label>
        <ng-container i18n> Comment on version {{ version().number }} </ng-container>
        <textarea class="text" rows="2" [formControl]="text" maxlength="2000"></textarea>
      </label>
      <p class="wrong" role="alert">{{ wrong() }}</p>
      @if (before().length > 0) {
        <ol class="before" aria-label="What the comment said before" i18n-aria-label>
          @for (past of before(); track $index) {
            <li>
              “<ng-container i18n
                >{!!past.comment, select, true {{{ past.comment }}} other {nothing}}”
                <span>{{ name(past.by) }}, {{ fullTime(past.at) }}</span>
              </ng-container>
            </li>
          }
        </ol>
      }
      <div class="acts">
        <button i18n matButton="filled" type="submit" [disabled]="acts.busy()">Keep the comment</button>
        <button i18n matButton type="button" (click)="done.emit()">Cancel</button>
      </div>
    </form>
  `,
  styleUrl: './moment-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Commenting {
  readonly document = input.required<string>();
  readonly version = input.required<Version>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly done = output();

  private readonly api = inject(Api);
  protected readonly acts = inject(DeskActs);
  protected readonly text = new FormControl('', { nonNullable: true });
  protected readonly wrong = signal('');
  protected readonly before = signal<readonly PastComment[]>([]);
  protected readonly fullTime = fullTime;

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      this.text.setValue(this.version().comment);
      element.querySelector<HTMLTextAreaElement>('.text')?.focus();
      void this.load();
    });
  }

  private async load(): Promise<void> {
    try {
      this.before.set(await firstValueFrom(this.api.pastComments(this.document(), this.version().number)));
    } catch (error) {
      this.wrong.set(saidOf(error));
    }
  }

  protected name(id: string): string {
    return this.people().get(id)?.name ?? $localize`somebody`;
  }

  protected async save(): Promise<void> {
    const wrong = await this.acts.comment(this.document(), this.version().number, this.text.value.trim());
    this.wrong.set(wrong);
    if (!wrong) this.done.emit();
  }

  protected leave(event: Event): void {
    event.stopPropagation();
    this.done.emit();
  }
}
