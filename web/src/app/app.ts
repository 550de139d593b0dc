import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Router, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { Acting } from './acting/acting';
import { Guide } from './guide/guide';
import { GuideCard } from './guide/guide-card';
import { wearTheme, wornTheme } from './look/theme';
import { offerNewer } from './newer';
import { SessionEvents, session } from './session/session.store';
import { shelf } from './documents/shelf.store';

/** Milliseconds after which the list of commands is fetched, so that it opens at once when it is asked for. */
const SOON = 2000;

/** The whole app: whatever room the address names. */
@Component({
  selector: 'ox-app',
  imports: [GuideCard, RouterOutlet],
  template: `
    @if (status() === 'unknown' && trouble()) {
      <p class="away" role="alert">{{ trouble() }}</p>
    }
    <router-outlet /><ox-guide-card />
  `,
  styles: '.away { padding: 48px; text-align: center; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'acting.key($event)' },
})
export class App {
  protected readonly acting = inject(Acting);
  private readonly dialog = inject(MatDialog);
  protected readonly status = inject(Store).selectSignal(session.selectStatus);
  protected readonly trouble = inject(Store).selectSignal(session.selectTrouble);

  constructor() {
    const store = inject(Store);
    const router = inject(Router);
    const goes = (to: string) => () => void router.navigateByUrl(to);
    this.acting.offer(
      {
        shelf: goes('/'),
        arrivals: goes('/arrivals'),
        bin: goes('/bin'),
        account: goes('/account'),
        people: goes('/people'),
      },
      (id) => me() !== null && (id !== 'people' || me()?.mayInvite === true),
    );
    const documents = store.selectSignal(shelf.selectDocuments);
    this.acting.offerFinding(() =>
      documents().map(({ id, title }) => ({
        label: title,
        about: 'Document',
        run: goes(`/documents/${id}`),
      })),
    );
    const guide = inject(Guide);
    this.acting.offer({ guide: () => guide.go(0) }, () => me() !== null);
    this.acting.offer({
      help: () => void this.openHelp(),
      commands: () => void this.openCommands(),
    });
    const me = store.selectSignal(session.selectPerson);
    wearTheme(wornTheme());
    effect(() => {
      const theme = me()?.preferences.theme;
      if (theme) wearTheme(theme);
    });
    offerNewer();
    store.dispatch(SessionEvents.appOpened());
    setTimeout(() => void import('./acting/commands'), SOON);
  }

  private async openHelp(): Promise<void> {
    const { Help } = await import('./acting/help');
    this.dialog.open(Help, { data: null, autoFocus: 'dialog', maxWidth: '760px' });
  }

  private async openCommands(): Promise<void> {
    const { Commands } = await import('./acting/commands');
    this.dialog.open(Commands, { position: { top: '80px' }, width: '640px', maxWidth: '92vw' });
  }
}
