import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { Discard } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { KeepingApi } from '../api/keeping-api';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';
import { KeepingRoom } from './keeping-room';

/** Versions that owners discarded: seen here by owners, and put back from here. */
@Component({
  selector: 'ox-discards',
  imports: [MatButtonModule, RouterLink],
  template: `
    <section aria-labelledby="discards-title">
      <h2 i18n id="discards-title">Discarded versions</h2>
      <p i18n class="soft">
        Out of sight for everybody else; their numbers are never used again. Their text is still in the
        history, until it is erased.
      </p>
      <ul>
        @for (discard of room.discards(); track discard.version.number) {
          <li>
            <span class="number">{{ discard.version.number }}</span>
            <span class="soft when">{{ dayAndTime(discard.version.at) }}</span>
            <span class="gist">{{ discard.version.gist }}</span>
            <span i18n class="soft">discarded {{ dayAndTime(discard.at) }} by {{ nameOf(discard) }}</span>
            <span class="acts">
              <a
                i18n
                matButton
                type="button"
                [routerLink]="['/documents', room.what().id, 'moments', discard.version.seq]"
              >
                Look at it
              </a>
              <button
                i18n
                matButton="outlined"
                type="button"
                [disabled]="room.busy()"
                (click)="putBack(discard)"
              >
                Put back
              </button>
            </span>
          </li>
        }
      </ul>
      @if (room.discards().length === 0) {
        <p i18n class="soft">There are none. A version is discarded from the card of its moment.</p>
      }
    </section>
  `,
  styleUrl: './keeping.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Discards {
  private readonly api = inject(KeepingApi);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  protected readonly room = inject(KeepingRoom);
  protected readonly dayAndTime = dayAndTime;

  protected nameOf({ by }: Discard): string {
    return this.people().get(by)?.name ?? $localize`somebody`;
  }

  protected putBack({ version: { number } }: Discard): void {
    void this.room.doing(
      this.api.putBack(this.room.what().id, number),
      $localize`Version ${number} stands where it stood.`,
    );
  }
}
