import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  inject,
  input,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { ACTS } from '../acting/acts';
import type { NounId } from '../acting/nouns';
import { What } from '../acting/what';

/** A room off the desk: its name, what it is for, and a way back to the page. */
@Component({
  selector: 'ox-room',
  imports: [What, MatButtonModule, MatIconModule, MatProgressBarModule],
  template: `
    <header>
      <h2 tabindex="-1">{{ name() }}</h2>
      @if (noun(); as noun) {
        <ox-what [noun]="noun" />
      }
      <p class="about">{{ about() }}</p>
      <button matButton="outlined" type="button" (click)="closed.emit()">{{ acts.leaveRoom.label }}</button>
    </header>
    @if (busy()) {
      <mat-progress-bar mode="indeterminate" ariaLabel="Fetching: {{ name() }}" i18n-ariaLabel />
    }
    @if (trouble()) {
      <p class="trouble" role="alert">
        {{ trouble() }} <button i18n matButton type="button" (click)="again.emit()">Try again</button>
      </p>
    }
    <div class="body"><ng-content /></div>
  `,
  styleUrl: './room.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', '[attr.aria-label]': 'name()' },
})
export class Room {
  protected readonly acts = ACTS;
  readonly name = input.required<string>();
  readonly about = input.required<string>();
  /** A word of our own that it is called by. */
  readonly noun = input<NounId | null>(null);
  readonly busy = input(false);
  readonly trouble = input('');
  readonly closed = output();
  readonly again = output();

  constructor() {
    const element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => element.querySelector<HTMLElement>('h2')?.focus());
  }
}
