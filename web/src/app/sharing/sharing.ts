import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Having, SharingEvent } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { colourOf } from '../look/colours';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';
import { ReadingLink } from './reading-link';
import { Shares } from './shares';
import { ShareWith } from './share-with';
import type { Shared } from './sharing-api';
import { SharingRoom } from './sharing-room';
import { eventSaid, historyName, roleName, wayName } from './words';

/** The sharing room: who has a document or a collection, and how; giving it to people and taking it back; what happened to that. */
@Component({
  selector: 'ox-sharing',
  imports: [MatButtonModule, MatIconModule, MatProgressBarModule, ReadingLink, RouterLink, ShareWith, Shares],
  providers: [SharingRoom],
  templateUrl: './sharing.html',
  styleUrl: './sharing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sharing {
  /** Of the document or collection. */
  readonly id = input.required<string>();
  readonly kind = input.required<Shared['kind']>();

  protected readonly room = inject(SharingRoom);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  protected readonly back = computed(() => (this.kind() === 'documents' ? ['/documents', this.id()] : ['/']));
  protected readonly wayBack = computed(() =>
    this.room.isDocument() ? $localize`To the document` : $localize`To the shelf`,
  );
  protected readonly colourOf = colourOf;
  protected readonly dayAndTime = dayAndTime;
  protected readonly roleName = roleName;
  protected readonly historyName = historyName;
  protected readonly wayName = wayName;

  constructor() {
    effect(() => {
      const what = { kind: this.kind(), id: this.id() };
      untracked(() => this.room.open(what));
    });
  }

  /** Those who have it in another way than by name. */
  protected readonly having = computed(
    () =>
      this.room
        .told()
        ?.having.filter(({ holder, through }) => holder.kind !== 'person' || through !== null) ?? [],
  );

  protected reach({ history, since }: Having): string {
    return historyName(history, since);
  }

  protected eventSaid(event: SharingEvent): string {
    return `${this.people().get(event.by)?.name ?? $localize`Somebody`} ${eventSaid(event)}`;
  }
}
