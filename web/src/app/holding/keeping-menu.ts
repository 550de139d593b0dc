import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import type { DocumentSummary } from '@oxbow/contract';
import { firstValueFrom } from 'rxjs';
import { Acting } from '../acting/acting';
import { ACTS } from '../acting/acts';
import { Api, saidOf } from '../api/api';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import { Holding } from '../session/holding';
import { Preferring } from '../session/preferring';

/** How writing is kept in a document: as one writes, held back until one puts it in, or by one person at a time. */
@Component({
  selector: 'ox-keeping-menu',
  imports: [MatButtonModule, MatIconModule, MatMenuModule, RouterLink],
  template: `
    <button i18n matButton="outlined" type="button" [matMenuTriggerFor]="menu">Keeping …</button>
    <mat-menu #menu="matMenu">
      @if (!document().checkOut) {
        <button
          mat-menu-item
          type="button"
          role="menuitemcheckbox"
          [attr.aria-checked]="here()"
          (click)="hold(!here())"
        >
          @if (here()) {
            <mat-icon svgIcon="done" />
          }
          <ng-container i18n> Hold my writing back in this document </ng-container>
        </button>
      }
      <button
        mat-menu-item
        type="button"
        role="menuitemcheckbox"
        [attr.aria-checked]="holding.inNewOnes()"
        (click)="holdInNewOnes(!holding.inNewOnes())"
      >
        @if (holding.inNewOnes()) {
          <mat-icon svgIcon="done" />
        }
        <ng-container i18n> Hold it back in documents I make from now on </ng-container>
      </button>
      @if (document().role === 'owner') {
        <button
          mat-menu-item
          type="button"
          role="menuitemcheckbox"
          [attr.aria-checked]="document().checkOut !== null"
          (click)="ask(document().checkOut === null)"
        >
          @if (document().checkOut) {
            <mat-icon svgIcon="done" />
          }
          <ng-container i18n> Ask for check-out: one person writes at a time </ng-container>
        </button>
      }
      <a mat-menu-item [routerLink]="['/documents', document().id, 'keeping']">{{ acts.keeping.label }}</a>
      @if (document().role === 'owner') {
        <button
          mat-menu-item
          type="button"
          [disabled]="!acting.can('erase')"
          [title]="acts.erase.about"
          (click)="acting.do('erase')"
        >
          {{ acts.erase.label }}
        </button>
      }
    </mat-menu>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepingMenu {
  readonly document = input.required<DocumentSummary>();

  protected readonly acting = inject(Acting);
  protected readonly acts = ACTS;
  private readonly api = inject(Api);
  private readonly live = inject(LiveDocument);
  private readonly words = inject(Words);
  private readonly preferring = inject(Preferring);
  protected readonly holding = inject(Holding);
  protected readonly here = computed(() => this.live.holding());

  protected async hold(hold: boolean): Promise<void> {
    this.holding.choose(this.document().id, hold);
    if (hold) this.words.say($localize`What you write here stays on this device until you publish it.`);
    else if (await this.live.putIn()) this.words.say($localize`Every edit is kept as you write again.`);
  }

  protected async holdInNewOnes(holdBack: boolean): Promise<void> {
    try {
      await firstValueFrom(this.preferring.change({ holdBack }));
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  protected async ask(asked: boolean): Promise<void> {
    try {
      await firstValueFrom(this.api.askForCheckOut(this.document().id, asked));
      this.words.say(
        asked
          ? $localize`This document is written in by one person at a time now: whoever has it checked out.`
          : $localize`Everybody who may write here can do so again, at the same time.`,
      );
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }
}
