import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  untracked,
} from '@angular/core';
import type { Person } from '@oxbow/contract';
import { DeskHistory } from '../document/history';
import { Words } from '../document/words';
import type { Pick } from '../tideline/tideline';
import { Contributors } from './contributors';
import { Find } from './find';
import { Home } from './home';
import { Life } from './life';
import { Play } from './play';
import { Removed } from './removed';
import { ReturnedFiles } from './returned';

/** Which room off the desk is open, as the address holds it. */
export interface Place {
  readonly room: string;
  readonly q?: string;
  readonly passage?: string;
}

/** The rooms off the desk in which one looks back. */
@Component({
  selector: 'ox-rooms',
  imports: [Contributors, Find, Home, Life, Play, Removed, ReturnedFiles],
  template: `
    @switch (place().room) {
      @case ('removed') {
        <ox-removed
          [document]="document()"
          [head]="log.head()"
          [mayWrite]="mayWrite()"
          [people]="people()"
          (gone)="gone.emit($event)"
          (lived)="openLife($event)"
          (said)="words.say($event)"
          (closed)="moved.emit(null)"
        />
      }
      @case ('find') {
        <ox-find
          [document]="document()"
          [query]="place().q ?? ''"
          [owns]="owns()"
          [traces]="log.traces()"
          [people]="people()"
          (queried)="moved.emit({ room: 'find', q: $event })"
          (gone)="gone.emit($event)"
          (lived)="openLife($event)"
          (closed)="moved.emit(null)"
        />
      }
      @case ('life') {
        <ox-life
          [document]="document()"
          [passage]="place().passage ?? '0.0'"
          [people]="people()"
          (gone)="gone.emit($event)"
          (closed)="moved.emit(null)"
        />
      }
      @case ('contributors') {
        <ox-contributors
          [document]="document()"
          [traces]="log.traces()"
          [people]="people()"
          [pick]="pick()"
          (lived)="openLife($event)"
          (closed)="moved.emit(null)"
        />
      }
      @case ('home') {
        <ox-home [document]="document()" [head]="log.head()" (closed)="moved.emit(null)" />
      }
      @case ('returned') {
        <ox-returned [document]="document()" [mayWrite]="mayWrite()" (closed)="moved.emit(null)" />
      }
      @case ('play') {
        @if (range(); as between) {
          <ox-play
            [document]="document()"
            [people]="people()"
            [between]="between"
            (gone)="gone.emit($event)"
            (closed)="moved.emit(null)"
          />
        }
      }
    }
  `,
  styles: ':host { display: grid; min-height: 0 } :host > * { min-height: 0 }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Rooms {
  readonly document = input.required<string>();
  readonly place = input.required<Place>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly mayWrite = input.required<boolean>();
  readonly owns = input(false);
  readonly pick = input.required<Pick | null>();
  /** The whole of what the tideline shows, to play when nothing is picked. */
  readonly shown = input.required<Pick>();
  readonly gone = output<Pick>();
  /** Asks for another room, or for the page. */
  readonly moved = output<Place | null>();

  protected readonly log = inject(DeskHistory);
  protected readonly words = inject(Words);
  private readonly picked = computed<Pick | null>(
    () => {
      const pick = this.pick();
      return pick && pick.earlier < pick.later ? pick : null;
    },
    { equal: (a, b) => a?.earlier === b?.earlier && a?.later === b?.later },
  );
  private readonly hasHistory = computed(() => this.log.ready() && this.log.head() > 0);
  /** What is played: what is picked, or all that the tideline showed when one came; what is written meanwhile does not begin it anew. */
  protected readonly range = computed<Pick | null>(() => {
    if (!this.hasHistory()) return null;
    return this.picked() ?? untracked(this.shown);
  });

  protected openLife({ seq, position }: { seq: number | null; position: number }): void {
    this.moved.emit({ room: 'life', passage: `${seq ?? this.log.head()}.${position}` });
  }
}
