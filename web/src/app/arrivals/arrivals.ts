import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { What } from '../acting/what';
import { ago, dayAndTime } from '../look/time';
import { ShelfEvents } from '../documents/shelf.store';
import { ArrivalEvents, arrivals } from './arrivals.store';
import { ArrivedFile } from './arrived-file';

/** Messages that came with files, waiting to be filed. */
@Component({
  selector: 'ox-arrivals',
  imports: [What, ArrivedFile, MatButtonModule, MatIconModule, MatProgressBarModule, RouterLink],
  templateUrl: './arrivals.html',
  styleUrl: './arrivals.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Arrivals {
  private readonly store = inject(Store);
  protected readonly status = this.store.selectSignal(arrivals.selectStatus);
  protected readonly letters = this.store.selectSignal(arrivals.selectLetters);
  protected readonly trouble = this.store.selectSignal(arrivals.selectTrouble);
  protected readonly noSubject = $localize`A message without a subject`;
  protected readonly ago = ago;
  protected readonly dayAndTime = dayAndTime;

  constructor() {
    this.again();
    this.store.dispatch(ShelfEvents.opened());
  }

  protected again(): void {
    this.store.dispatch(ArrivalEvents.opened());
  }

  protected putAway(id: string): void {
    this.store.dispatch(ArrivalEvents.putAway({ id }));
  }
}
