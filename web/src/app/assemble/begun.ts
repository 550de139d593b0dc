import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';
import type { Kept } from './kept';
import { begun, forget } from './kept';

/** Assemblies of this document that were begun and left, to go on with. */
@Component({
  selector: 'ox-begun',
  imports: [MatButtonModule],
  template: `
    @for (one of found(); track one.at) {
      <p role="status">
        <ng-container i18n>
          You were assembling edit {{ one.earlier }} with edit {{ one.later }}, {{ dayAndTime(one.at) }}:
          {{ one.takes.length }} of {{ one.of }} decided.
        </ng-container>
        <button i18n matButton="outlined" type="button" (click)="wanted.emit(one)">Go on with it</button>
        <button i18n matButton type="button" (click)="drop(one)">Drop it</button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 12px;
      margin: 0;
      padding: 3px 16px;
      border-bottom: 1px solid var(--line);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Begun {
  readonly document = input.required<string>();
  readonly wanted = output<Kept>();
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly dropped = signal(0);
  protected readonly found = computed(() => {
    this.dropped();
    return begun(this.me()?.id ?? '', this.document());
  });
  protected readonly dayAndTime = (at: number): string => dayAndTime(new Date(at).toISOString());

  protected drop(kept: Kept): void {
    forget(this.me()?.id ?? '', kept);
    this.dropped.update((count) => count + 1);
  }
}
