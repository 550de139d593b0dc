import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import type { Watch } from '@oxbow/contract';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { Words } from '../document/words';

const LONGEST = 44;

/** Asks to be told when the document, or the paragraph I am in, changes; and stops that again. */
@Component({
  selector: 'ox-watch-menu',
  imports: [MatButtonModule, MatMenuModule],
  template: `
    <button i18n matButton="outlined" type="button" [matMenuTriggerFor]="menu" (menuOpened)="load()">
      Watch
    </button>
    <mat-menu #menu="matMenu">
      @if (!whole()) {
        <button i18n mat-menu-item type="button" (click)="watch(null)">
          Tell me when this document changes
        </button>
      }
      @if (position() !== null) {
        <button i18n mat-menu-item type="button" (click)="watch(position())">
          Tell me when the paragraph I am in changes
        </button>
      }
      @for (one of watches(); track one.id) {
        <button i18n mat-menu-item type="button" (click)="unwatch(one)">
          Stop watching {{ nameOf(one) }}
        </button>
      }
    </mat-menu>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WatchMenu {
  readonly document = input.required<string>();
  /** Where the caret stands in the present document, or null. */
  readonly position = input.required<number | null>();

  private readonly api = inject(Api);
  private readonly words = inject(Words);
  protected readonly watches = signal<readonly Watch[]>([]);
  protected readonly whole = signal(false);

  protected async load(): Promise<void> {
    try {
      const watches = await firstValueFrom(this.api.watches(this.document()));
      this.watches.set(watches);
      this.whole.set(watches.some(({ passage }) => passage === null));
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  protected nameOf({ passage }: Watch): string {
    if (passage === null) return $localize`this document`;
    if (!passage) return $localize`a passage that is gone`;
    return `“${passage.length > LONGEST ? `${passage.slice(0, LONGEST)}…` : passage}”`;
  }

  protected async watch(position: number | null): Promise<void> {
    try {
      const watch = await firstValueFrom(this.api.watch(this.document(), position));
      this.words.say($localize`You will be told when ${this.nameOf(watch)} changes.`, {
        label: $localize`Cancel`,
        run: () => void this.unwatch(watch),
      });
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  protected async unwatch(watch: Watch): Promise<void> {
    try {
      await firstValueFrom(this.api.unwatch(this.document(), watch.id));
      this.words.say($localize`${this.nameOf(watch)} is not watched any more.`);
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }
}
