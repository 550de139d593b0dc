import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { SessionEvents } from './session/session.store';

/** The whole app: whatever room the address names. */
@Component({
  selector: 'ox-app',
  imports: [RouterOutlet],
  template: '<router-outlet />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class App {
  constructor() {
    inject(Store).dispatch(SessionEvents.appOpened());
  }
}
