import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import type { Claims, Person } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { fullTime } from '../look/time';
import { Who } from '../look/who';
import { SessionEvents } from '../session/session.store';

type Claim = Claims['items'][number];

/** Whom files and messages name in a document: who says so, who vouched for it, and for an owner the way to do that. */
@Component({
  selector: 'ox-claimed',
  imports: [MatButtonModule, Who],
  template: `
    @if (items().length > 0) {
      <h3 i18n>Named by a file or a message</h3>
      @if (unproven()) {
        <p i18n class="said">
          Nothing here proves who these people are. They are told as claimed until an owner of this document
          vouches for them.
        </p>
      }
      @for (claim of items(); track claim.person) {
        <div class="item">
          <p>
            <ox-who [id]="claim.person" [people]="people()" /> {{ claim.address }}
            @if (claim.vouched; as vouched) {
              <span i18n class="said">
                <ox-who [id]="vouched.by" [people]="people()" /> vouched for {{ claim.name }} on
                {{ fullTime(vouched.at) }}.
              </span>
            }
          </p>
          @if (!claim.vouched && mayVouch()) {
            <div class="acts">
              <button matButton="outlined" type="button" [disabled]="busy()" (click)="vouch(claim)">
                @if (claim.like; as like) {
                  <ng-container i18n> Vouch: this is {{ nameOf(like) }} </ng-container>
                } @else {
                  <ng-container i18n> Vouch for {{ claim.name }} </ng-container>
                }
              </button>
            </div>
          }
        </div>
      }
    }
    @if (trouble()) {
      <p class="said" role="alert">{{ trouble() }}</p>
    }
  `,
  styleUrl: './contributors.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Claimed {
  readonly document = input.required<string>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  /** Somebody is told otherwise from now on. */
  readonly vouched = output();

  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly found = rxResource({
    params: () => this.document(),
    stream: ({ params }) => this.api.claims(params),
  });
  protected readonly busy = signal(false);
  private readonly failed = signal('');
  protected readonly fullTime = fullTime;

  protected items(): Claim[] {
    return this.found.hasValue() ? this.found.value().items : [];
  }

  protected unproven(): boolean {
    return this.items().some(({ vouched }) => vouched === null);
  }

  protected mayVouch(): boolean {
    return this.found.hasValue() && this.found.value().mayVouch;
  }

  protected trouble(): string {
    return this.failed() || (this.found.error() ? saidOf(this.found.error()) : '');
  }

  protected nameOf(id: string): string {
    return this.people().get(id)?.name ?? $localize`somebody here`;
  }

  protected async vouch({ person }: Claim): Promise<void> {
    this.busy.set(true);
    this.failed.set('');
    try {
      await firstValueFrom(this.api.vouch(this.document(), person));
      this.found.reload();
      this.store.dispatch(SessionEvents.somebodyRenamed());
      this.vouched.emit();
    } catch (error) {
      this.failed.set(saidOf(error));
    } finally {
      this.busy.set(false);
    }
  }
}
