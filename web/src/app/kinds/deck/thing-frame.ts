import { CdkDrag } from '@angular/cdk/drag-drop';
import type { CdkDragEnd, CdkDragMove } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
} from '@angular/core';
import { SLIDE } from '@oxbow/core/kinds/deck';
import { NodeSelection } from 'prosemirror-state';
import { DeckDesk } from './deck-desk';
import type { Placed, Thing } from './things';
import { placeOf, putAt, withinSlide } from './things';

/** Which edges a handle draws; none for the one that moves all of it. */
interface Handle {
  readonly name: string;
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

const EDGES: readonly Handle[] = ['n', 'ne', 'e', 'se', 's', 'sw', 'w', 'nw'].map((name) => ({
  name,
  x: name.includes('e') ? 1 : name.includes('w') ? -1 : 0,
  y: name.includes('s') ? 1 : name.includes('n') ? -1 : 0,
}));
const WHOLE: Handle = { name: 'move', x: 0, y: 0 };

/** The frame round the box or picture in hand: its edge moves it, its handles size it. */
@Component({
  selector: 'ox-thing-frame',
  imports: [CdkDrag],
  template: `
    @if (place(); as place) {
      <div
        class="frame"
        [class.picked]="isPicked()"
        [style.left.%]="(100 * place.x) / slide.width"
        [style.top.%]="(100 * place.y) / slide.height"
        [style.width.%]="(100 * place.width) / slide.width"
        [style.height.%]="(100 * place.height) / slide.height"
      >
        @if (isOver()) {
          <span i18n class="over">Goes beyond the slide</span>
        }
        @for (side of sides; track side) {
          <span
            class="side"
            [class]="side"
            cdkDrag
            [title]="moves"
            (pointerdown)="pick()"
            (cdkDragMoved)="drawn(whole, $event)"
            (cdkDragEnded)="put($event)"
          ></span>
        }
        @for (edge of edges; track edge.name) {
          <span
            class="edge"
            [class]="edge.name"
            cdkDrag
            (cdkDragMoved)="drawn(edge, $event)"
            (cdkDragEnded)="put($event)"
          ></span>
        }
      </div>
    }
  `,
  styleUrl: './thing-frame.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'aria-hidden': 'true' },
})
export class ThingFrame {
  private readonly desk = inject(DeckDesk);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected readonly slide = SLIDE;
  protected readonly edges = EDGES;
  protected readonly whole = WHOLE;
  protected readonly sides = ['top', 'right', 'bottom', 'left'] as const;
  protected readonly moves = $localize`Drag to move; Esc and arrow keys do it too`;
  private readonly thing = computed(() => (this.desk.writable() ? this.desk.thing() : null));
  protected readonly isPicked = computed(() => this.desk.state()?.selection instanceof NodeSelection);
  /** Where it is drawn to. */
  protected readonly place = linkedSignal<Thing | null, Placed | null>({
    source: this.thing,
    computation: (thing) => thing && placeOf(thing),
  });

  /** Whether what is in it reaches below the slide, where nobody who is shown it sees it. */
  protected readonly isOver = signal(false);

  constructor() {
    effect(() => {
      const [view, thing] = [this.desk.view(), this.thing()];
      const dom = view && thing && view.nodeDOM(thing.at);
      requestAnimationFrame(() =>
        this.isOver.set(
          dom instanceof HTMLElement &&
            dom.getBoundingClientRect().bottom > this.element.getBoundingClientRect().bottom + 2,
        ),
      );
    });
  }

  /** Selects it whole, so that keys move it and Delete takes it away. */
  protected pick(): void {
    const [view, thing] = [this.desk.view(), this.thing()];
    if (!view || !thing) return;
    view.dispatch(view.state.tr.setSelection(NodeSelection.create(view.state.doc, thing.at)));
    view.focus();
  }

  protected drawn({ x, y, name }: Handle, { distance, source }: CdkDragMove): void {
    const thing = this.thing();
    source.reset();
    if (!thing) return;
    const unit = SLIDE.width / Math.max(1, this.element.clientWidth);
    const [right, down] = [distance.x * unit, distance.y * unit];
    const was = placeOf(thing);
    const wide = (by: -1 | 0 | 1): number => was.width + by * right;
    const high = (by: -1 | 0 | 1): number => was.height + by * down;
    this.place.set(
      withinSlide(
        name === 'move'
          ? { ...was, x: was.x + right, y: was.y + down }
          : {
              x: x < 0 ? Math.min(was.x + right, was.x + was.width - 300) : was.x,
              y: y < 0 ? Math.min(was.y + down, was.y + was.height - 300) : was.y,
              width: wide(x),
              height: high(y),
            },
      ),
    );
  }

  /** Puts it where it was drawn to. */
  protected put({ source }: CdkDragEnd): void {
    source.reset();
    const [thing, place] = [this.thing(), this.place()];
    if (thing && place) this.desk.act((tr) => putAt(tr, thing, place));
    this.desk.focus();
  }
}
