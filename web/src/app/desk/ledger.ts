import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Person } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { fullTime } from '../look/time';

/** A changed passage's tab: who and when, in line with the text it is about. */
export interface Tab {
  readonly change: number;
  readonly top: number;
  readonly people: readonly string[];
  readonly at: string;
  readonly label: string;
}

/** The narrow margin left of the page, with a tab for each changed passage. */
@Component({
  selector: 'ox-ledger',
  template: `
    @for (tab of tabs(); track tab.change) {
      <button
        type="button"
        [style.top.px]="tab.top"
        [title]="title(tab)"
        [attr.aria-label]="title(tab)"
        (click)="chosen.emit(tab.change)"
      >
        <span class="time">{{ tab.label }}</span>
        @for (id of tab.people.slice(0, 3); track id) {
          <span class="who" [style.--who]="colour(id)">{{ people().get(id)?.initials }}</span>
        }
      </button>
    }
  `,
  styleUrl: './ledger.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', 'aria-label': 'Ledger: who changed what, and when' },
})
export class Ledger {
  readonly tabs = input.required<readonly Tab[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly chosen = output<number>();

  protected colour(id: string): string {
    return colourOf(this.people().get(id)?.colour ?? 0);
  }

  protected title(tab: Tab): string {
    return `${tab.people.map((id) => this.people().get(id)?.name ?? 'somebody').join(' and ')}, ${fullTime(tab.at)}`;
  }
}
