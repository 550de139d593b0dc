import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import type { Notice, Role } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { fullTime } from '../look/time';
import { Who } from '../look/who';
import { session } from '../session/session.store';
import { SharingApi } from '../sharing/sharing-api';
import { NoticeEvents, notices } from './notices.store';

/** One's notices, each with the way to what it is about. Fetched when it is first opened. */
@Component({
  selector: 'ox-notice-list',
  imports: [MatButtonModule, Who],
  template: `
    <section class="panel" aria-label="Notices" i18n-aria-label>
      @if (trouble()) {
        <p class="trouble" role="alert">{{ trouble() }}</p>
      }
      <ul>
        @for (notice of list(); track notice.id) {
          <li [class.lost]="notice.kind === 'lost'">
            <p class="title">{{ notice.title }}</p>
            <p>
              @for (who of notice.by; track who) {
                <ox-who [id]="who" [people]="people()" />
              }
              {{ deed(notice) }}
              <span class="time">{{ fullTime(notice.at) }}</span>
            </p>
            @if (notice.text) {
              <p class="text">“{{ notice.text }}”</p>
            }
            <div class="acts">
              @if (notice.kind === 'lost') {
                <button i18n matButton="filled" type="button" (click)="bringBack(notice)">
                  Bring it back
                </button>
              }
              @if (notice.kind === 'asked') {
                <button i18n matButton="filled" type="button" (click)="share(notice, 'viewer')">
                  Share it to read
                </button>
                <button i18n matButton="outlined" type="button" (click)="share(notice, 'editor')">
                  To read and write
                </button>
                <button i18n matButton type="button" (click)="openSharing(notice)">Otherwise …</button>
              } @else if (notice.kind === 'erasure') {
                <button i18n matButton="filled" type="button" (click)="openKeeping(notice)">
                  Look at what is asked
                </button>
              } @else {
                <button i18n matButton="outlined" type="button" (click)="look(notice)">
                  Look at what changed
                </button>
              }
              <button i18n matButton type="button" (click)="putAway(notice)">Dismiss</button>
            </div>
          </li>
        }
      </ul>
    </section>
  `,
  styleUrl: './notices.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoticeList {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly sharing = inject(SharingApi);
  private readonly router = inject(Router);

  /** One goes elsewhere: the list is to be closed. */
  readonly closed = output();

  protected readonly list = this.store.selectSignal(notices.selectList);
  private readonly failed = this.store.selectSignal(notices.selectTrouble);
  protected readonly people = this.store.selectSignal(session.selectPeopleById);
  private readonly wrong = signal('');
  protected readonly trouble = computed(() => this.wrong() || this.failed());
  protected readonly fullTime = fullTime;

  protected deed({ kind, words }: Notice): string {
    switch (kind) {
      case 'lost':
        return $localize`took out ${words} words that you wrote`;
      case 'passage':
        return $localize`changed a passage that you watch`;
      case 'asked':
        return $localize`asks you to share it with them`;
      case 'erasure':
        return $localize`asks you to agree to erasing something`;
      case 'changed':
        return $localize`wrote or took out ${words === 1 ? $localize`1 word` : $localize`${words} words`}`;
    }
  }

  protected look({ id, document, first, last }: Notice): void {
    this.closed.emit();
    this.store.dispatch(NoticeEvents.putAway({ id }));
    void this.router.navigate(['/documents', document], {
      queryParams: { earlier: first - 1, later: last },
    });
  }

  protected putAway({ id }: Notice): void {
    this.store.dispatch(NoticeEvents.putAway({ id }));
  }

  protected openKeeping({ document }: Notice): void {
    this.closed.emit();
    void this.router.navigate(['/documents', document, 'keeping']);
  }

  protected openSharing({ document }: Notice): void {
    this.closed.emit();
    void this.router.navigate(['/documents', document, 'sharing']);
  }

  /** Shares a document with whoever asks for it, with all of its history. */
  protected async share({ document, by }: Notice, role: Role): Promise<void> {
    this.wrong.set('');
    try {
      await firstValueFrom(
        this.sharing.change({ kind: 'documents', id: document }, by[0] ?? '', { role, history: 'all' }),
      );
      this.store.dispatch(NoticeEvents.stale());
    } catch (error) {
      this.wrong.set(saidOf(error));
    }
  }

  /** Takes back the edits that took the text out; what came after them stays. */
  protected async bringBack({ document, undo }: Notice): Promise<void> {
    this.wrong.set('');
    try {
      await firstValueFrom(this.api.takeBack(document, { seqs: undo }));
      this.closed.emit();
      this.store.dispatch(NoticeEvents.stale());
    } catch (error) {
      this.wrong.set(saidOf(error));
    }
  }
}
