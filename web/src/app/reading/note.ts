import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { ComparedChange, Person, Version } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { fullTime } from '../look/time';
import { deedOf, whereOf } from './look';

/** A change that is to be taken back, alone or with all of its group. */
export interface TakenBack {
  readonly id: number;
  readonly group?: boolean;
}

/** Beside a mark: what changed, who did it and when, in which version, and the way to that moment. */
@Component({
  selector: 'ox-note',
  imports: [MatButtonModule],
  template: `
    <p class="deed">{{ deed() }}</p>
    @for (line of lines(); track line.key) {
      <p>
        <span class="who" [style.--who]="colourOf(line.colour)">{{ line.name }}</span>
        {{ line.what }} {{ line.when }}
      </p>
      <button i18n matButton type="button" (click)="gone.emit(line.moment)">Go to that moment</button>
    } @empty {
      <p i18n>This comes from outside: nothing is known of who wrote it.</p>
    }
    @if (mayTakeBack()) {
      <button i18n matButton type="button" (click)="takeBackAsked.emit({ id: change().id })">
        Take this change back …
      </button>
      @if (companions() > 1) {
        <button i18n matButton type="button" (click)="takeBackAsked.emit({ id: change().id, group: true })">
          Take all {{ companions() }} of its group back …
        </button>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 340px;
      padding: 8px 12px;
      background: var(--page);
      border: 1px solid var(--line);
      border-radius: var(--corner);
      box-shadow: var(--float);
      font: 13px/19px var(--sans);
    }
    p {
      margin: 0;
    }
    .deed {
      color: var(--soft);
    }
    .who {
      font-weight: 600;
      padding-inline-start: 6px;
      border-inline-start: 4px solid var(--who);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'note' },
})
export class Note {
  readonly change = input.required<ComparedChange>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly versions = input.required<readonly Version[]>();
  /** Whether this one change can be taken back. */
  readonly mayTakeBack = input(false);
  readonly takeBackAsked = output<TakenBack>();
  /** How many changes are in its group, itself among them. */
  readonly companions = input(0);
  /** Asks to go to what was done then. */
  readonly gone = output<{ earlier: number; later: number }>();

  protected readonly deed = computed(() => {
    const where = this.change().kind === 'moved' ? whereOf(this.change(), 'later') : null;
    const deed = where ? `${deedOf(this.change())}, ${where}` : deedOf(this.change());
    return deed.charAt(0).toUpperCase() + deed.slice(1);
  });
  /** One line for each person and version that had a hand in it, the last three. */
  protected readonly lines = computed(() => {
    const lines = new Map<
      string,
      { credit: ComparedChange['credits'][number]; version: number | null; first: number }
    >();
    for (const credit of [...this.change().credits].sort((a, b) => a.seq - b.seq)) {
      const version = this.versions().findLast(({ seq }) => seq >= credit.seq)?.number ?? null;
      const key = `${credit.person} ${credit.writer} ${version}`;
      lines.set(key, { credit, version, first: lines.get(key)?.first ?? credit.seq });
    }
    return [...lines.values()].slice(-3).map(({ credit, version, first }) => {
      const person = this.people().get(credit.person);
      const writer = credit.writer === credit.person ? null : this.people().get(credit.writer);
      return {
        key: `${credit.person} ${credit.seq}`,
        moment: { earlier: first - 1, later: credit.seq },
        name: person?.name ?? $localize`Somebody`,
        colour: person?.colour ?? 0,
        what: writer ? $localize`brought back what ${writer.name} wrote,` : '',
        when: [
          fullTime(credit.at),
          ...(version ? [$localize`in version ${version}`] : []),
          ...(credit.file ? [$localize`with the file ${credit.file}`] : []),
        ].join(', '),
      };
    });
  });
  protected readonly colourOf = colourOf;
}
