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
import type { Landmark, Person } from '@oxbow/contract';
import type { Cause, Sitting, Trace } from '@oxbow/core/history';
import { What } from '../acting/what';
import { colourOf } from '../look/colours';
import { keysAreTaken } from '../look/keys';
import { dayAndTime, fullTime } from '../look/time';
import type { Arrangement } from './bars';
import { frameOf, partsOf } from './bars';
import type { Bar, Range } from './layout';
import {
  Levels,
  grainName,
  layOut,
  momentAt,
  placeOf,
  rangeBetween,
  shifted,
  stepFrom,
  zoomed,
} from './layout';
import { Peek } from './peek';
import { LinePointer } from './pointer';
import { arcsOf, postsOf, signsOf } from './signs';

/** Two moments: the page shows the later one, with marks for what came after the earlier. */
export interface Pick {
  readonly earlier: number;
  readonly later: number;
}

const [LOWEST, USUAL, HIGHEST] = [104, 132, 320];
const NOW_ROOM = 84;
const STRIDE = 0.5;
/** Room that the word at a handle takes. */
const LABEL = 44;
const PEEK_WIDTH = 250;

/** The document's life along the bottom: words in rise above the line, words out fall below it, by person. */
@Component({
  selector: 'ox-tideline',
  imports: [What, MatButtonModule, MatIconModule, Peek],
  templateUrl: './tideline.html',
  styleUrl: './tideline.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'key($event)' },
})
export class Tideline {
  readonly document = input.required<string>();
  readonly traces = input.required<readonly Trace[]>();
  readonly causes = input.required<ReadonlyMap<number, Cause>>();
  readonly landmarks = input.required<readonly Landmark[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly pick = input.required<Pick | null>();
  readonly range = input.required<Range>();
  readonly here = input.required<readonly Person[]>();
  readonly saved = input.required<string>();
  /** What is new to the reader: drawn as a band. */
  readonly fresh = input<Range | null>(null);
  /** How far down the page the reader is, from 0 to 1. */
  readonly depth = input(0);
  readonly picked = output<Pick | null>();
  readonly ranged = output<Range>();

  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly width = signal(900);
  private readonly byHand = signal(false);
  private readonly pointer = new LinePointer({
    dragged: (which, x) => this.drag(which, x),
    brushing: (area) => this.brush.set(area),
    brushed: (from, to) => this.zoomBetween(from, to),
    pushed: (by) => this.push(by),
    looked: (x) => this.look(x),
  });
  /** Of what was pushed, what has not yet come to a whole edit. */
  private rest = 0;

  protected readonly height = signal(USUAL);
  protected readonly bounds = { lowest: LOWEST, highest: HIGHEST };
  protected readonly arrangement = signal<Arrangement>('stack');
  protected readonly lineWidth = computed(() => Math.max(200, this.width() - NOW_ROOM));
  protected readonly fullWidth = this.width.asReadonly();
  protected readonly head = computed(() => this.traces().at(-1)?.seq ?? 0);
  private readonly levels = computed(() => new Levels(this.traces()));
  /** Where everything stands on the line. */
  readonly layout = computed(() => layOut(this.levels(), this.range(), this.lineWidth()));
  protected readonly frame = computed(() => frameOf(this.height(), this.arrangement(), this.layout()));
  protected readonly grain = computed(() => grainName(this.layout().grain));
  protected readonly title = computed(() => {
    const bars = this.layout().bars;
    const [first, last] = [bars[0]?.sitting, bars.at(-1)?.sitting];
    if (!first || !last) return $localize`nothing written yet`;
    const end = last.last === this.head() ? $localize`now` : dayAndTime(last.to);
    return $localize`${dayAndTime(first.from)} to ${end}, ${this.grain()}`;
  });
  protected readonly columns = computed(() => {
    const layout = this.layout();
    const parts = partsOf(layout, this.frame(), this.arrangement());
    return layout.bars.map((bar, i) => ({
      bar,
      label: this.describe(bar.sitting),
      parts: (parts[i] ?? []).map((part) => ({
        ...part,
        colour: colourOf(this.people().get(part.author)?.colour ?? 0),
      })),
    }));
  });
  protected readonly posts = computed(() => postsOf(this.layout(), this.landmarks(), this.lineWidth()));
  protected readonly signs = computed(() => signsOf(this.layout(), this.causes()));
  protected readonly arcs = computed(() => arcsOf(this.layout(), this.causes()));
  protected readonly band = computed(() => {
    const fresh = this.fresh();
    if (!fresh || this.layout().bars.length === 0) return null;
    const [from, to] = [placeOf(this.layout(), fresh.first - 1), placeOf(this.layout(), fresh.last)];
    return { x: from, width: Math.max(2, to - from) };
  });
  protected readonly handles = computed(() => {
    const pick = this.pick();
    if (!pick) return null;
    const layout = this.layout();
    const later = placeOf(layout, pick.later);
    return { earlier: placeOf(layout, pick.earlier), later, crowded: later > this.lineWidth() - LABEL };
  });
  protected readonly brush = signal<{ x: number; width: number } | null>(null);
  protected readonly peek = signal<{ seq: number; left: number } | null>(null);
  protected readonly summary = computed(() => {
    const { bars } = this.layout();
    const total = (side: 'wordsIn' | 'wordsOut'): number =>
      bars.reduce((sum, { sitting }) => sum + sitting[side], 0);
    const busiest = [...bars].sort((a, b) => b.sitting.wordsIn - a.sitting.wordsIn)[0];
    return [
      $localize`${bars.length} bars from ${this.title()}; ${total('wordsIn')} words in and ${total('wordsOut')} words out.`,
      ...(busiest ? [$localize`The fullest bar is ${this.describe(busiest.sitting)}.`] : []),
      ...this.posts().map(({ landmark }) => $localize`Landmark ${landmark.name}.`),
      ...this.signs().map(({ label }) => `${label.charAt(0).toUpperCase()}${label.slice(1)}.`),
    ].join(' ');
  });
  protected readonly colourOf = colourOf;
  protected readonly canZoomIn = computed(() => this.range().last - this.range().first > 4);
  protected readonly canZoomOut = computed(() => this.range().last - this.range().first + 1 < this.head());

  constructor() {
    new ResizeObserver(
      ([entry]) => entry && this.width.set(Math.max(0, entry.contentRect.width - 32)),
    ).observe(this.element.nativeElement);
  }

  protected initials(author: string): string {
    return this.people().get(author)?.initials ?? '';
  }

  private describe(sitting: Sitting): string {
    const names = sitting.shares
      .map((share) => this.people().get(share.author)?.name ?? $localize`somebody`)
      .join(', ');
    return $localize`${fullTime(sitting.to)}\: ${names}, +${sitting.wordsIn} −${sitting.wordsOut} words`;
  }

  protected landmarkSaid({ name, note }: Landmark): string {
    return note ? `${name}: ${note}` : name;
  }

  protected gapSaid(length: string): string {
    return $localize`${length} without a word`;
  }

  protected hereSaid(name: string): string {
    return $localize`${name} has this document open`;
  }

  protected momentLabel(seq: number): string {
    const first = this.traces()[0]?.seq ?? 1;
    const trace = this.traces()[Math.min(seq, this.head()) - first];
    const landmark = this.landmarks().find((one) => one.seq === seq);
    const name = landmark ? `${landmark.name}, ` : '';
    return trace
      ? `${name}${fullTime(trace.at)}, ${this.people().get(trace.author)?.name ?? $localize`somebody`}`
      : $localize`${name}the blank beginning`;
  }

  /** Picking a bar puts Later at its end and Earlier on the moment before it. */
  protected pickBar(bar: Bar): void {
    if (this.pointer.didMore) return;
    this.byHand.set(false);
    this.picked.emit({ earlier: bar.sitting.first - 1, later: bar.sitting.last });
  }

  /** Picking a landmark shows the page as it was then, with what came since the step before. */
  protected pickPost(landmark: Landmark): void {
    this.byHand.set(false);
    this.picked.emit({
      earlier: stepFrom(this.layout(), landmark.seq, -1) ?? landmark.seq,
      later: landmark.seq,
    });
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

  private stepLandmark(direction: 1 | -1): void {
    const at = this.pick()?.later ?? this.head() + 1;
    const seqs = this.landmarks().map(({ seq }) => seq);
    const to = direction === 1 ? seqs.find((seq) => seq > at) : seqs.findLast((seq) => seq < at);
    const landmark = this.landmarks().find(({ seq }) => seq === to);
    if (!landmark) return;
    const { first, last } = this.range();
    if (landmark.seq < first || landmark.seq > last) this.ranged.emit({ first: 1, last: this.head() });
    this.pickPost(landmark);
  }

  protected zoom(factor: number, around = this.pick()?.later ?? this.range().last): void {
    this.ranged.emit(zoomed(this.range(), factor, around, this.head()));
  }

  protected key(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (keysAreTaken(event) || /^(input|textarea)$/i.test(target.tagName)) return;
    const which = event.shiftKey || target.dataset['handle'] === 'earlier' ? 'earlier' : 'later';
    const first = this.layout().bars[0];
    const acts: Record<string, () => void> = {
      ArrowLeft: () => this.step(-1, which),
      ArrowRight: () => this.step(1, which),
      PageUp: () => this.pan(-0.8),
      PageDown: () => this.pan(0.8),
      Home: () => first && this.pickBar(first),
      End: () => this.picked.emit(null),
      '+': () => this.zoom(STRIDE),
      '=': () => this.zoom(STRIDE),
      '-': () => this.zoom(1 / STRIDE),
      '[': () => this.stepLandmark(-1),
      ']': () => this.stepLandmark(1),
    };
    const act = acts[event.key];
    if (!act || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    act();
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) this.pan(event.deltaX / this.lineWidth());
    else this.zoom(event.deltaY > 0 ? 1 / 0.8 : 0.8, momentAt(this.layout(), this.at(event)) ?? undefined);
  }

  /** Moves along the history by a share of what is shown. */
  private pan(share: number): void {
    const range = this.range();
    const by = Math.round(share * (range.last - range.first));
    const moved = shifted(range, by, this.head());
    if (moved.first !== range.first) this.ranged.emit(moved);
  }

  private at(event: MouseEvent): number {
    const svg = this.element.nativeElement.querySelector(':scope > svg');
    return event.clientX - (svg?.getBoundingClientRect().left ?? 0);
  }

  protected grab(event: PointerEvent, which: 'earlier' | 'later'): void {
    event.preventDefault();
    event.stopPropagation();
    this.pointer.grab(which);
    (event.target as Element).setPointerCapture(event.pointerId);
  }

  protected press(event: PointerEvent): void {
    this.rest = 0;
    this.pointer.press(event, this.at(event));
  }

  protected move(event: PointerEvent): void {
    this.pointer.move(event, this.at(event));
  }

  protected letGo(event: PointerEvent): void {
    this.pointer.letGo(this.at(event));
    // What was picked is on the page itself.
    this.peek.set(null);
  }

  protected left(): void {
    this.pointer.leave();
  }

  private look(x: number | null): void {
    const seq = x !== null && x <= this.lineWidth() ? momentAt(this.layout(), x) : null;
    const left = Math.max(8, Math.min(this.width() - PEEK_WIDTH, (x ?? 0) - PEEK_WIDTH / 2));
    this.peek.set(seq === null ? null : { seq, left });
  }

  private drag(which: 'earlier' | 'later', x: number): void {
    const pick = this.pick();
    const seq = momentAt(this.layout(), x);
    if (!pick || seq === null) return;
    this.peek.set(null);
    if (which === 'earlier') {
      this.byHand.set(true);
      this.picked.emit({ earlier: Math.min(seq, pick.later), later: pick.later });
    } else this.picked.emit({ earlier: Math.min(pick.earlier, seq), later: seq });
  }

  private zoomBetween(from: number, to: number): void {
    const range = rangeBetween(this.layout(), from, to);
    if (range) this.ranged.emit(range);
  }

  /** Moves the line along under a finger, by whole edits. */
  private push(by: number): void {
    const { first, last } = this.range();
    const edits = ((by + this.rest) / this.lineWidth()) * (last - first);
    const whole = Math.trunc(edits);
    this.rest = whole === 0 ? this.rest + by : 0;
    if (whole !== 0) this.pan(whole / Math.max(1, last - first));
  }

  protected arrange(): void {
    this.arrangement.update((now) => (now === 'stack' ? 'lanes' : 'stack'));
  }

  /** Drags the upper edge, or moves it by key. */
  protected resize(event: PointerEvent): void {
    const edge = event.target as Element;
    const [from, height] = [event.clientY, this.height()];
    edge.setPointerCapture(event.pointerId);
    const moved = (move: Event): void => this.resizeTo(height + from - (move as PointerEvent).clientY);
    edge.addEventListener('pointermove', moved);
    edge.addEventListener('pointerup', () => edge.removeEventListener('pointermove', moved), { once: true });
  }

  protected resizeByKey(event: KeyboardEvent): void {
    const by = { ArrowUp: 12, ArrowDown: -12 }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    this.resizeTo(this.height() + by);
  }

  private resizeTo(height: number): void {
    this.height.set(Math.max(LOWEST, Math.min(HIGHEST, height)));
  }
}
