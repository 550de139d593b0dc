import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { Share } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { dayAndTime } from '../look/time';
import { session } from '../session/session.store';
import { How, howFields, howOf } from './how';
import { SharingApi } from './sharing-api';
import { SharingRoom } from './sharing-room';
import { holderKind, historyName, roleName } from './words';

/** Asked about before it is done: that everybody loses it. */
const ALL = 'all';

/** With whom something is shared: changing how, writing to them again, and ending it. */
@Component({
  selector: 'ox-shares',
  imports: [How, MatButtonModule, ReactiveFormsModule, RouterLink],
  templateUrl: './shares.html',
  styleUrl: './sharing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Shares {
  private readonly api = inject(SharingApi);
  protected readonly room = inject(SharingRoom);
  protected readonly me = inject(Store).selectSignal(session.selectPerson);
  /** Whose share is being changed, by id. */
  protected readonly changing = signal<string | null>(null);
  /** Whose share is about to be ended, by id, or everybody’s. */
  protected readonly asked = signal<string | null>(null);
  protected readonly change = new FormGroup(howFields());
  protected readonly own = computed(
    () => this.room.told()?.shares.filter(({ through }) => through === null) ?? [],
  );
  protected readonly through = computed(
    () => this.room.told()?.shares.filter(({ through }) => through !== null) ?? [],
  );
  protected readonly others = computed(() => this.own().filter(({ role }) => role !== 'owner'));
  protected readonly all = ALL;
  protected readonly holderKind = holderKind;
  protected readonly roleName = roleName;
  protected readonly dayAndTime = dayAndTime;

  protected sentSaid({ sent }: Share): string {
    return sent ? $localize`Last written to ${dayAndTime(sent)}` : $localize`Not written to yet`;
  }

  protected reach({ history, since, until }: Share): string {
    const end = until ? $localize`, until ${dayAndTime(until)}` : '';
    return `${historyName(history, since)}${end}`;
  }

  protected beginChange({ holder, role, history, until }: Share): void {
    this.change.setValue({ role, history, until: until === null ? null : new Date(until) });
    this.changing.set(holder.id);
  }

  protected keepChange({ holder }: Share): void {
    const input = howOf(this.change.controls);
    this.room.doing(
      this.api.change(this.room.what(), holder.id, input),
      () => {
        this.changing.set(null);
        this.room.done($localize`${holder.name} has it as ${roleName(input.role)} now.`);
      },
      this.change,
    );
  }

  protected sendAgain({ holder }: Share): void {
    this.room.doing(this.api.sendAgain(this.room.what(), holder.id), () =>
      this.room.done($localize`${holder.name} was written to again.`),
    );
  }

  protected end({ holder }: Share): void {
    this.asked.set(null);
    this.room.doing(this.api.end(this.room.what(), holder.id), () =>
      this.room.done($localize`It is not shared with ${holder.name} any more.`),
    );
  }

  protected endAll(): void {
    this.asked.set(null);
    this.room.doing(this.api.endAll(this.room.what()), () =>
      this.room.done($localize`Only its owners have it now.`),
    );
  }
}
