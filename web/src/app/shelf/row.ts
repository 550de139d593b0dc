import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import type { MatMenu } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import type { DocumentSummary } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { dayAndTime } from '../look/time';
import { Now } from '../look/now';
import { session } from '../session/session.store';
import { Gauge } from './gauge';

/** A document on the shelf: what it is called, what happened to it last, and what can be done with it. */
@Component({
  selector: 'ox-shelf-row',
  imports: [Gauge, MatButtonModule, MatIconModule, MatMenuModule, RouterLink],
  templateUrl: './row.html',
  styleUrl: './row.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.dense]': 'dense()' },
})
export class ShelfRow {
  readonly document = input.required<DocumentSummary>();
  readonly dense = input.required<boolean>();
  readonly favourite = input.required<boolean>();
  /** Marks it, or takes the mark off. */
  readonly marked = output<boolean>();
  /** What can be done with it. */
  readonly menu = input.required<MatMenu>();

  private readonly store = inject(Store);
  private readonly kinds = inject(KINDS_ON_SCREEN);
  /** What it is, where it is no text. */
  protected readonly kind = computed(() => {
    const { kind } = this.document();
    return kind === 'text' ? null : (this.kinds[kind] ?? null);
  });
  private readonly now = inject(Now);
  private readonly me = this.store.selectSignal(session.selectPerson);
  protected readonly people = this.store.selectSignal(session.selectPeopleById);
  protected readonly dayAndTime = dayAndTime;
  protected readonly favouriteSaid = computed(() =>
    this.favourite() ? $localize`Take it off your favourites` : $localize`Make it a favourite`,
  );
  protected readonly changed = computed(() => {
    const { changedAt, changedBy } = this.document();
    const who = changedBy === this.me()?.id ? $localize`you` : this.nameOf(changedBy);
    return $localize`last changed by ${who}, ${this.now.ago(changedAt)}`;
  });
  /** What others wrote since one last looked, in words. */
  protected readonly fresh = computed(() => {
    const { people, sittings, wordsIn, wordsOut } = this.document().fresh;
    const names = people.map((id) => this.nameOf(id)).join(', ');
    const count = sittings === 1 ? $localize`1 sitting` : $localize`${sittings} sittings`;
    return $localize`New to you: ${count} by ${names}, +${wordsIn} −${wordsOut} words`;
  });

  protected nameOf(person: string): string {
    return this.people().get(person)?.name ?? $localize`somebody`;
  }
}
