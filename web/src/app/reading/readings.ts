import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import type { Person } from '@oxbow/contract';
import { isRename } from '@oxbow/core/compare';
import type { Family } from '@oxbow/core/compare';
import type { RedlineFormat } from '@oxbow/core/formats';
import { ACTS } from '../acting/acts';
import { colourOf } from '../look/colours';
import { Comparing } from './comparing';
import { EVERYTHING } from './filter';
import { renameOf } from './look';
import type { Mode } from './look';

const FAMILIES: readonly [Family, string, string][] = [
  ['text', $localize`Text`, $localize`changes of the text`],
  ['moved', $localize`Moved`, $localize`what moved or was copied`],
  ['form', $localize`Form`, $localize`changes of form only`],
  ['typography', $localize`Typography`, $localize`quotes, dashes and blanks that were set otherwise`],
];

/** Above a comparison: how to read it, which changes to see, and where one is in them. */
@Component({
  selector: 'ox-readings',
  imports: [MatButtonModule, MatButtonToggleModule, MatIconModule, MatMenuModule],
  templateUrl: './readings.html',
  styleUrl: './readings.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', '[attr.aria-label]': 'ownName' },
})
export class Readings {
  protected readonly acts = ACTS;
  protected readonly ownName = $localize`How to read this comparison`;
  readonly mode = input.required<Mode>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  /** What the two ends are, in words. */
  readonly earlier = input.required<string>();
  readonly later = input.required<string>();
  readonly assembling = input(false);
  readonly assembleAsked = output();
  readonly modeChosen = output<Mode>();
  readonly stepped = output<1 | -1>();
  readonly endsAsked = output();
  readonly printed = output();
  readonly sent = output();
  /** Whether both ends are on the server, so that the comparison can be sent. */
  readonly maySend = input(false);
  readonly saved = output<RedlineFormat>();

  protected readonly comparing = inject(Comparing);
  protected readonly families = computed(() =>
    FAMILIES.flatMap(([family, name, what]) => {
      const count = this.comparing.counts().families.get(family) ?? 0;
      const on = !this.comparing.filter().hidden.has(family);
      const title = on ? $localize`Hide ${what}` : $localize`Show ${what}`;
      return count === 0 ? [] : [{ family, name, title, count, on }];
    }),
  );
  /** Words that were renamed throughout, with in how many places. */
  protected readonly renames = computed(() =>
    [...this.comparing.counts().groups].flatMap(([group, count]) =>
      isRename(group)
        ? [{ group, count, says: renameOf(group), on: this.comparing.filter().group === group }]
        : [],
    ),
  );
  protected readonly writers = computed(() => {
    const counted = [...this.comparing.counts().people].sort((a, b) => b[1] - a[1]);
    return counted.flatMap(([id, count]) => {
      const person = this.people().get(id);
      return person ? [{ person, count, on: this.comparing.filter().person === id }] : [];
    });
  });
  protected readonly places = computed(() =>
    this.comparing
      .sections()
      .map(({ title }, index) => ({
        index,
        title: title || $localize`Before the first heading`,
        count: this.comparing.counts().sections.get(index) ?? 0,
      }))
      .filter(({ count }) => count > 0),
  );
  protected readonly everywhere = computed(() =>
    this.comparing.kind() === 'deck' ? $localize`All slides` : $localize`All sections`,
  );
  protected readonly place = computed(() => {
    const { section } = this.comparing.filter();
    return section === null
      ? this.everywhere()
      : (this.places().find(({ index }) => index === section)?.title ?? '');
  });
  protected readonly all = computed(() => this.comparing.look()?.comparison.changes.length ?? 0);
  protected readonly colourOf = colourOf;

  protected toggle(family: Family): void {
    this.comparing.filter.update((filter) => {
      const hidden = new Set(filter.hidden);
      if (!hidden.delete(family)) hidden.add(family);
      return { ...filter, hidden };
    });
  }

  protected only(person: string): void {
    this.comparing.filter.update((filter) => ({
      ...filter,
      person: filter.person === person ? null : person,
    }));
  }

  protected onlyRename(group: string): void {
    this.comparing.filter.update((filter) => ({ ...filter, group: filter.group === group ? null : group }));
  }

  protected within(section: number | null): void {
    this.comparing.filter.update((filter) => ({ ...filter, section }));
  }

  protected showAll(): void {
    this.comparing.filter.set(EVERYTHING);
  }
}
