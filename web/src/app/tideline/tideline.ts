import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { Person } from '@oxbow/contract';
import type { Cause, Share, Sitting, Trace } from '@oxbow/core/history';
import { colourOf } from '../look/colours';
import { dayAndTime, fullTime } from '../look/time';
import type { Bar, Range } from './layout';
import { grainName, layOut, momentAt, placeOf, stepFrom, usual, zoomed } from './layout';

/** Two moments: the page shows the later one, with marks for what came after the earlier. */
export interface Pick {
  readonly earlier: number;
  readonly later: number;
}

const HEIGHT = 132;
const AXIS = 82;
const ABOVE = 64;
const BELOW = 30;
const NOW_ROOM = 84;
const STRIDE = 0.5;
/** Room that the word at a handle takes. */
const LABEL = 44;

/** The document's life along the bottom: words in rise above the line, words out fall below it, by person. */
@Component({
  selector: 'ox-tideline',
  imports: [MatButtonModule, MatIconModule],
  templateUrl: './tideline.html',
  styleUrl: './tideline.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'key($event)' },
})
export class Tideline {
  readonly traces = input.required<readonly Trace[]>();
  readonly causes = input.required<ReadonlyMap<number, Cause>>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly pick = input.required<Pick | null>();
  readonly range = input.required<Range>();
  readonly here = input.required<readonly Person[]>();
  readonly saved = input.required<string>();
  readonly picked = output<Pick | null>();
  readonly ranged = output<Range>();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly width = signal(900);
  private readonly byHand = signal(false);
  private dragging: 'earlier' | 'later' | null = null;

  protected readonly height = HEIGHT;
  protected readonly axis = AXIS;
  protected readonly lineWidth = computed(() => Math.max(200, this.width() - NOW_ROOM));
  protected readonly fullWidth = this.width.asReadonly();
  protected readonly head = computed(() => this.traces().at(-1)?.seq ?? 0);
  /** Where everything stands on the line. */
  readonly layout = computed(() => layOut(this.traces(), this.range(), this.lineWidth()));
  protected readonly grain = computed(() => grainName(this.layout().grain));
  protected readonly title = computed(() => {
    const bars = this.layout().bars;
    const [first, last] = [bars[0]?.sitting, bars.at(-1)?.sitting];
    if (!first || !last) return 'nothing written yet';
    const end = last.last === this.head() ? 'now' : dayAndTime(last.to);
    return `${dayAndTime(first.from)} to ${end}, ${this.grain()}`;
  });
  protected readonly columns = computed(() => {
    const { bars } = this.layout();
    const most = usual(bars.map(({ sitting }) => Math.max(sitting.wordsIn, sitting.wordsOut)));
    return bars.map((bar) => ({
      bar,
      label: this.describe(bar.sitting),
      parts: [...this.stack(bar, 'wordsIn', most, ABOVE), ...this.stack(bar, 'wordsOut', most, BELOW)],
    }));
  });
  protected readonly glyphs = computed(() =>
    this.layout().bars.flatMap((bar) => {
      const found: { x: number; kind: 'restore' | 'filing'; label: string }[] = [];
      for (const [seq, cause] of this.causes()) {
        if (seq < bar.sitting.first || seq > bar.sitting.last) continue;
        if (cause.kind === 'restore' || cause.kind === 'takeBack')
          found.push({
            x: bar.x + bar.width / 2,
            kind: 'restore',
            label:
              cause.kind === 'restore'
                ? `restored${cause.number ? ` version ${cause.number}` : ''}`
                : 'taken back',
          });
        if (cause.kind === 'filing')
          found.push({ x: bar.x + bar.width / 2, kind: 'filing', label: `filed ${cause.file}` });
      }
      return found.slice(0, 1);
    }),
  );
  protected readonly handles = computed(() => {
    const pick = this.pick();
    if (!pick) return null;
    const layout = this.layout();
    const later = placeOf(layout, pick.later);
    return { earlier: placeOf(layout, pick.earlier), later, crowded: later > this.lineWidth() - LABEL };
  });
  protected readonly summary = computed(() => {
    const { bars } = this.layout();
    const total = (side: 'wordsIn' | 'wordsOut'): number =>
      bars.reduce((sum, { sitting }) => sum + sitting[side], 0);
    return `${bars.length} bars from ${this.title()}; ${total('wordsIn')} words in and ${total('wordsOut')} words out.`;
  });
  protected readonly colourOf = colourOf;
  protected readonly canZoomIn = computed(() => this.range().last - this.range().first > 4);
  protected readonly canZoomOut = computed(() => this.range().last - this.range().first + 1 < this.head());

  constructor() {
    new ResizeObserver(([entry]) => entry && this.width.set(entry.contentRect.width - 32)).observe(
      this.element.nativeElement,
    );
  }

  private stack(bar: Bar, side: 'wordsIn' | 'wordsOut', most: number, room: number) {
    const all = bar.sitting[side];
    const height = Math.sqrt(Math.min(1, all / most)) * room;
    let from = 0;
    return bar.sitting.shares
      .filter((share) => share[side] > 0)
      .map((share) => {
        const part = (share[side] / all) * height;
        from += part;
        return {
          y: side === 'wordsIn' ? AXIS - 1 - from : AXIS + 1 + from - part,
          height: Math.max(1, part),
          colour: this.colour(share),
          faded: side === 'wordsOut',
        };
      });
  }

  private colour(share: Share): string {
    return colourOf(this.people().get(share.author)?.colour ?? 0);
  }

  private describe(sitting: Sitting): string {
    const names = sitting.shares
      .map((share) => this.people().get(share.author)?.name ?? 'somebody')
      .join(', ');
    return `${fullTime(sitting.to)}: ${names}, +${sitting.wordsIn} −${sitting.wordsOut} words`;
  }

  protected momentLabel(seq: number): string {
    const trace = this.traces().findLast((one) => one.seq <= seq);
    return trace
      ? `${fullTime(trace.at)}, ${this.people().get(trace.author)?.name ?? 'somebody'}`
      : 'the blank beginning';
  }

  /** Picking a bar puts Later at its end and Earlier on the moment before it. */
  protected pickBar(bar: Bar): void {
    this.byHand.set(false);
    this.picked.emit({ earlier: bar.sitting.first - 1, later: bar.sitting.last });
  }

  protected step(direction: 1 | -1, which: 'earlier' | 'later'): void {
    const pick = this.pick() ?? { earlier: this.head(), later: this.head() };
    const layout = this.layout();
    if (which === 'earlier') {
      const earlier = stepFrom(layout, pick.earlier, direction);
      if (earlier === null || earlier > pick.later) return;
      this.byHand.set(true);
      this.picked.emit({ earlier, later: pick.later });
      return;
    }
    const later = this.pick()
      ? stepFrom(layout, pick.later, direction)
      : direction === -1
        ? this.head()
        : null;
    if (later === null) return;
    this.picked.emit({
      earlier: this.byHand() ? Math.min(pick.earlier, later) : (stepFrom(layout, later, -1) ?? later),
      later,
    });
  }

  protected zoom(factor: number): void {
    this.ranged.emit(zoomed(this.range(), factor, this.pick()?.later ?? this.range().last, this.head()));
  }

  protected key(event: KeyboardEvent): void {
    const which =
      event.shiftKey || (event.target as HTMLElement).dataset['handle'] === 'earlier' ? 'earlier' : 'later';
    const first = this.layout().bars[0];
    const acts: Record<string, () => void> = {
      ArrowLeft: () => this.step(-1, which),
      ArrowRight: () => this.step(1, which),
      Home: () => first && this.pickBar(first),
      End: () => this.picked.emit(null),
      '+': () => this.zoom(STRIDE),
      '=': () => this.zoom(STRIDE),
      '-': () => this.zoom(1 / STRIDE),
    };
    const act = acts[event.key];
    if (!act || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    act();
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) this.pan(event.deltaX);
    else this.zoom(event.deltaY > 0 ? 1 / 0.8 : 0.8);
  }

  private pan(pixels: number): void {
    const { first, last } = this.range();
    const by = Math.round((pixels / this.lineWidth()) * (last - first));
    const shift = Math.max(1 - first, Math.min(this.head() - last, by));
    if (shift !== 0) this.ranged.emit({ first: first + shift, last: last + shift });
  }

  protected grab(event: PointerEvent, which: 'earlier' | 'later'): void {
    event.preventDefault();
    this.dragging = which;
    (event.target as Element).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    const pick = this.pick();
    const svg = (event.currentTarget as Element).closest('svg');
    if (!this.dragging || !pick || !svg) return;
    const seq = momentAt(this.layout(), event.clientX - svg.getBoundingClientRect().left);
    if (seq === null) return;
    if (this.dragging === 'earlier') {
      this.byHand.set(true);
      this.picked.emit({ earlier: Math.min(seq, pick.later), later: pick.later });
    } else this.picked.emit({ earlier: Math.min(pick.earlier, seq), later: seq });
  }

  protected letGo(): void {
    this.dragging = null;
  }
}
