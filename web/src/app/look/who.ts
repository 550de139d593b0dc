import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Person } from '@oxbow/contract';
import { colourOf } from './colours';

/** A person as a small tab with their colour at its side: the name, or the initials where room is short. */
@Component({
  selector: 'ox-who',
  template: `<span class="tab" [style.--who]="colour()" [title]="name()">{{
    short() ? initials() : name()
  }}</span>`,
  styles: `
    .tab {
      font-size: 12px;
      font-weight: 500;
      padding: 0 6px;
      background: var(--sand);
      border-inline-start: 4px solid var(--who);
      border-radius: 2px;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Who {
  readonly id = input.required<string>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly short = input(false);

  private readonly person = computed(() => this.people().get(this.id()));
  protected readonly name = computed(() => this.person()?.name ?? $localize`somebody`);
  protected readonly initials = computed(() => this.person()?.initials ?? '?');
  protected readonly colour = computed(() => colourOf(this.person()?.colour ?? 0));
}
