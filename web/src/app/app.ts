import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { wearTheme, wornTheme } from './look/theme';
import { SessionEvents, session } from './session/session.store';

/** The whole app: whatever room the address names. */
@Component({
  selector: 'ox-app',
  imports: [RouterOutlet],
  template: '<router-outlet />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class App {
  constructor() {
    const store = inject(Store);
    const me = store.selectSignal(session.selectPerson);
    wearTheme(wornTheme());
    effect(() => {
      const theme = me()?.preferences.theme;
      if (theme) wearTheme(theme);
    });
    store.dispatch(SessionEvents.appOpened());
  }
}
