import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { Drafts } from '../live/drafts';
import type { Kept } from '../live/kept';
import { SessionEvents, session } from '../session/session.store';

/** Signs out; where drafts of one's own are on the device, asks in place whether they stay there. */
@Component({
  selector: 'ox-signing-out',
  imports: [MatButtonModule],
  template: `
    @if (trouble()) {
      <p i18n class="trouble" role="alert">You are still signed in: {{ trouble() }}</p>
    }
    @if (left(); as drafts) {
      <div class="band" role="group" aria-label="Before signing out" i18n-aria-label>
        <p i18n>
          {drafts.length, plural, =1 {A draft of yours is} other {{{ drafts.length }} drafts of yours are}} on
          this device. Kept, nobody else who signs in here sees
          {drafts.length, plural, =1 {it} other {them}} in the app.
        </p>
        <button i18n matButton="filled" type="button" (click)="go()">Keep and sign out</button>
        <button i18n matButton="outlined" type="button" (click)="clear(drafts)">Discard and sign out</button>
        <button i18n matButton type="button" (click)="left.set(null)">Stay</button>
      </div>
    }
  `,
  styleUrl: '../look/band.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SigningOut {
  private readonly store = inject(Store);
  private readonly drafts = inject(Drafts);
  protected readonly trouble = this.store.selectSignal(session.selectTrouble);
  private readonly me = this.store.selectSignal(session.selectPerson);
  /** Drafts that are asked about; null while nothing is. */
  protected readonly left = signal<readonly Kept[] | null>(null);

  /** Signs out, or asks first. */
  async ask(): Promise<void> {
    const drafts = await this.drafts.list(this.me()?.id ?? '');
    if (drafts.length === 0) return this.go();
    this.left.set(drafts);
  }

  protected async clear(drafts: readonly Kept[]): Promise<void> {
    await Promise.all(drafts.map((draft) => this.drafts.discard(draft)));
    this.go();
  }

  protected go(): void {
    this.store.dispatch(SessionEvents.signOutAsked());
  }
}
