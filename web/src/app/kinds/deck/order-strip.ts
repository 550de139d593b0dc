import { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
import type { CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { ACTS } from '../../acting/acts';
import { colourOf } from '../../look/colours';
import { DeckActs } from './deck-acts';
import { DeckDesk } from './deck-desk';
import { SlidePicture } from './slide-picture';

/** The slides in their order, hung on a line above the one in hand, with who is on which. Drag one, or move it with keys. */
@Component({
  selector: 'ox-order-strip',
  imports: [CdkDrag, CdkDropList, MatIconModule, SlidePicture],
  templateUrl: './order-strip.html',
  styleUrl: './order-strip.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderStrip {
  readonly document = input.required<string>();
  protected readonly desk = inject(DeckDesk);
  protected readonly acts = inject(DeckActs);
  protected readonly add = ACTS.addSlide;
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected readonly cards = computed(() => {
    const guests = this.desk.guests();
    return this.desk.slides().map(({ id, node, title, hidden }, i) => {
      const here = guests.get(id) ?? [];
      const name = title || $localize`without a title`;
      const out = hidden ? $localize`, left out when showing` : '';
      const who = here.length > 0 ? $localize`, ${here.map((person) => person.name).join(', ')} here` : '';
      return { id, node, title, hidden, number: i + 1, guests: here, label: `${i + 1}, ${name}${out}${who}` };
    });
  });
  protected readonly colourOf = colourOf;

  constructor() {
    effect(() => {
      const index = this.desk.index();
      untracked(() =>
        requestAnimationFrame(() =>
          this.cardAt(index)?.scrollIntoView({ block: 'nearest', inline: 'nearest' }),
        ),
      );
    });
  }

  private cardAt(index: number): HTMLElement | null {
    return this.element.querySelectorAll<HTMLElement>('[role="option"]')[index] ?? null;
  }

  protected dropped({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.acts.move(previousIndex, currentIndex);
  }

  protected key(event: KeyboardEvent): void {
    const { key, altKey, ctrlKey, metaKey } = event;
    if (ctrlKey || metaKey) return;
    const [at, last] = [this.desk.index(), this.desk.slides().length - 1];
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[key];
    const acts: Record<string, () => void> = altKey
      ? {}
      : {
          Home: () => this.choose(0),
          End: () => this.choose(last),
          Enter: () => this.desk.focus(),
          Delete: () => this.acts.run('removeSlide'),
        };
    const act =
      by === undefined
        ? acts[key]
        : altKey
          ? () => this.move(at, at + by)
          : () => this.choose(Math.max(0, Math.min(last, at + by)));
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }

  private move(from: number, to: number): void {
    this.acts.move(from, to);
    this.focusSoon();
  }

  /** Takes a slide in hand; the focus stays in the strip. */
  private choose(index: number): void {
    this.desk.goTo(index);
    this.focusSoon();
  }

  private focusSoon(): void {
    setTimeout(() => this.cardAt(this.desk.index())?.focus());
  }

  protected pressed(index: number): void {
    this.desk.goTo(index);
    this.desk.focus();
  }
}
