import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { ComparedChange, Person } from '@oxbow/contract';
import { colourOf } from '../../../look/colours';
import { fullTime, shortTime } from '../../../look/time';
import { peopleOf } from '../../../reading/look';
import type { Values } from '../calculating';
import type { ComparedBooks } from './compared-books';
import type { Marks, Side } from './placed';
import { toldOf } from './told-change';

interface Entry {
  readonly change: ComparedChange;
  readonly where: string;
  readonly sheet: string;
  readonly row: string;
  readonly deed: string;
  readonly before: string;
  readonly after: string;
  readonly who: readonly Person[];
  readonly time: string;
  readonly title: string;
}

/** Only the changes of two books, each with where it is and what stood there: in the order of the sheets, by row or by person. */
@Component({
  selector: 'ox-sheet-digest',
  imports: [MatButtonToggleModule],
  templateUrl: './sheet-digest.html',
  styleUrl: '../../../reading/digest.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetDigest {
  readonly books = input.required<ComparedBooks>();
  readonly shown = input.required<readonly ComparedChange[]>();
  readonly marks = input.required<Marks>();
  readonly values = input.required<Readonly<Record<Side, Values>>>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly at = input.required<number | null>();
  readonly changed = output<number>();
  readonly opened = output<number>();

  protected readonly by = signal<'place' | 'row' | 'person'>('place');
  protected readonly colourOf = colourOf;
  private readonly entries = computed(() =>
    this.shown().map((change): Entry => {
      const { where, sheet, row, deed, before, after } = toldOf(
        change,
        this.marks(),
        this.books(),
        this.values(),
      );
      const last = change.credits.at(-1);
      const who = peopleOf(change).flatMap((id) => this.people().get(id) ?? []);
      return {
        change,
        where,
        sheet,
        row,
        deed,
        before,
        after,
        who,
        time: last ? shortTime(last.at) : '',
        title: last ? `${who.map(({ name }) => name).join(', ')}, ${fullTime(last.at)}` : '',
      };
    }),
  );
  protected readonly groups = computed(() => {
    const groups = new Map<string, Entry[]>();
    for (const entry of this.entries())
      for (const name of this.groupsOf(entry)) groups.set(name, [...(groups.get(name) ?? []), entry]);
    return [...groups].map(([title, entries]) => ({ title, entries }));
  });

  private groupsOf({ sheet, row, who }: Entry): string[] {
    if (this.by() === 'place') return [sheet];
    if (this.by() === 'row') return [row];
    return who.length > 0 ? who.map(({ name }) => name) : [$localize`From outside`];
  }
}
