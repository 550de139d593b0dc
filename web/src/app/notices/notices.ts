import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { OverlayModule } from '@angular/cdk/overlay';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { SessionEvents, session } from '../session/session.store';
import { NoticeList } from './notice-list';
import { notices } from './notices.store';

/** Word of changes to what one watches, and of lost writing, with the way to it and the way back. */
@Component({
  selector: 'ox-notices',
  imports: [MatButtonModule, NoticeList, OverlayModule],
  template: `
    @if (list().length > 0) {
      <button
        i18n
        matButton="outlined"
        type="button"
        cdkOverlayOrigin
        #origin="cdkOverlayOrigin"
        [class.urgent]="lost()"
        [attr.aria-expanded]="open()"
        (click)="open.set(!open())"
      >
        {list().length, plural, =1 {1 notice} other {{{ list().length }} notices}}
      </button>
      <ng-template
        cdkConnectedOverlay
        [cdkConnectedOverlayOrigin]="origin"
        [cdkConnectedOverlayOpen]="open()"
        [cdkConnectedOverlayHasBackdrop]="true"
        cdkConnectedOverlayBackdropClass="cdk-overlay-transparent-backdrop"
        (backdropClick)="open.set(false)"
        (detach)="open.set(false)"
      >
        @defer (on immediate) {
          <ox-notice-list (closed)="open.set(false)" />
        } @error {
          <p class="panel trouble" role="alert" i18n>
            The notices could not be fetched. Load the page anew to try again.
          </p>
        }
      </ng-template>
    }
  `,
  styleUrl: './notices.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Notices {
  private readonly store = inject(Store);

  protected readonly list = this.store.selectSignal(notices.selectList);
  private readonly people = this.store.selectSignal(session.selectPeopleById);
  protected readonly open = signal(false);
  protected readonly lost = computed(() => this.list().some(({ kind }) => kind === 'lost'));

  constructor() {
    effect(() => {
      const stranger = this.list()
        .flatMap(({ by }) => by)
        .find((id) => !this.people().has(id));
      if (stranger !== undefined)
        untracked(() => this.store.dispatch(SessionEvents.strangerMet({ id: stranger })));
    });
  }
}
