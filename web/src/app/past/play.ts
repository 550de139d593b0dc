import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import type { Person, WireEdit } from '@oxbow/contract';
import { documentOf, kindOf } from '@oxbow/core/kinds';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';
import { colourOf } from '../look/colours';
import { keysAreTaken } from '../look/keys';
import { fullTime } from '../look/time';
import { Who } from '../look/who';
import type { Pick } from '../tideline/tideline';
import type { Frame, Pace } from './frames';
import { framesOf } from './frames';
import { DrawnStage } from './drawn-stage';
import { Replay } from './replay';
import { Room } from './room';
import { WrittenStage } from './written-stage';

/** Edits fetched at once, as many as the server gives. */
const PORTION = 2000;
/** Most edits that are played; what lies before them is where playing begins. */
const MOST = 20_000;
const PACES: readonly Chosen<Pace>[] = [
  ['edit', $localize`edit`],
  ['sentence', $localize`sentence`],
  ['sitting', $localize`sitting`],
];
const SPEEDS: readonly Chosen<number>[] = [
  [0.5, '½ ×'],
  [1, '1 ×'],
  [3, '3 ×'],
  [10, '10 ×'],
];
/** Milliseconds a step is shown for, at single speed. */
const SHOWN: Record<Pace, number> = { edit: 120, sentence: 900, sitting: 1800 };

/** The document re-enacted between two moments, with who is writing. Only what changes on the page is drawn anew. */
@Component({
  selector: 'ox-play',
  imports: [Choice, FormsModule, MatButtonModule, MatCheckboxModule, Room, Who],
  templateUrl: './play.html',
  styleUrl: './play.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'key($event)' },
})
export class Play {
  readonly document = input.required<string>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  /** The moments to play between. */
  readonly between = input.required<Pick>();
  readonly gone = output<Pick>();
  readonly closed = output();

  protected readonly paces = PACES;
  protected readonly speeds = SPEEDS;
  private readonly api = inject(Api);
  private readonly kinds = inject(KINDS_ON_SCREEN);
  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly edits = signal<readonly WireEdit[]>([]);
  private replay: Replay | null = null;
  /** How often it was asked what to play; only the last answer counts. */
  private loads = 0;
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** Whether what is to be played is still being fetched. */
  protected readonly busy = signal(true);
  protected readonly trouble = signal('');
  protected readonly pace = signal<Pace>('sentence');
  protected readonly speed = signal(1);
  protected readonly follow = signal(true);
  protected readonly playing = signal(false);
  /** How many steps were made. */
  protected readonly at = signal(0);
  protected readonly frames = computed(() => framesOf(this.edits(), this.pace()));
  protected readonly frame = computed<Frame | null>(() => this.frames()[this.at() - 1] ?? null);
  protected readonly last = computed(() => {
    const frame = this.frame();
    return frame ? (this.edits()[frame.end] ?? null) : null;
  });
  protected readonly writers = computed(() => {
    const frame = this.frame();
    if (!frame) return [];
    return [
      ...new Set(
        this.edits()
          .slice(frame.start, frame.end + 1)
          .map(({ author }) => author),
      ),
    ];
  });
  protected readonly fullTime = fullTime;

  constructor() {
    effect(() => {
      const [document, between] = [this.document(), this.between()];
      untracked(() => void this.load(document, between));
    });
    inject(DestroyRef).onDestroy(() => {
      this.pause();
      this.replay?.end();
    });
  }

  protected async load(document = this.document(), between = this.between()): Promise<void> {
    this.pause();
    const load = ++this.loads;
    this.busy.set(true);
    this.trouble.set('');
    const start = Math.max(between.earlier, between.later - MOST);
    try {
      const edits: WireEdit[] = [];
      const moment = await firstValueFrom(this.api.moment(document, start));
      for (let after = start; after < between.later; after += PORTION)
        edits.push(
          ...(await firstValueFrom(
            this.api.edits(document, after, Math.min(between.later, after + PORTION)),
          )),
        );
      if (load !== this.loads) return;
      this.replay?.end();
      const doc = documentOf(moment.content);
      const colour = (author: string): string => colourOf(this.people().get(author)?.colour ?? 0);
      const draw = await this.kinds[kindOf(doc).name]?.drawn?.();
      if (load !== this.loads) return;
      const page = this.page().nativeElement;
      const stage = draw ? new DrawnStage(page, doc, draw, document) : new WrittenStage(page, document, doc);
      this.replay = new Replay(stage, colour);
      this.edits.set(edits.filter(({ steps }) => steps.length > 0));
      this.at.set(0);
      if (edits.length > 0) this.play();
    } catch (error) {
      if (load === this.loads) this.trouble.set(saidOf(error));
    } finally {
      if (load === this.loads) this.busy.set(false);
    }
  }

  protected play(): void {
    if (this.at() >= this.frames().length) this.goTo(0);
    this.playing.set(true);
    this.next();
  }

  protected pause(): void {
    this.playing.set(false);
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
  }

  private next(): void {
    this.timer = setTimeout(() => {
      if (!this.playing()) return;
      this.step(1);
      if (this.at() >= this.frames().length) this.pause();
      else this.next();
    }, SHOWN[this.pace()] / this.speed());
  }

  protected toggle(): void {
    if (this.playing()) this.pause();
    else this.play();
  }

  protected stepByHand(direction: 1 | -1): void {
    this.pause();
    this.step(direction);
  }

  private step(direction: 1 | -1): void {
    this.goTo(this.at() + direction);
  }

  /** Shows the document after a number of steps. */
  protected goTo(to: number): void {
    const target = Math.max(0, Math.min(this.frames().length, to));
    this.replay?.goTo(target, this.frames(), this.edits(), this.follow());
    this.at.set(target);
  }

  protected repace(pace: Pace): void {
    const seq = this.last()?.seq ?? null;
    this.pace.set(pace);
    this.replay?.restart();
    const at =
      seq === null ? 0 : this.frames().findIndex(({ end }) => (this.edits()[end]?.seq ?? 0) >= seq) + 1;
    this.goTo(at);
    if (this.playing()) {
      this.pause();
      this.play();
    }
  }

  /** Leaves playing for the moment that is shown. */
  protected openMoment(): void {
    const [frame, last] = [this.frame(), this.last()];
    const first = frame ? this.edits()[frame.start] : null;
    if (first && last) this.gone.emit({ earlier: first.seq - 1, later: last.seq });
  }

  protected key(event: KeyboardEvent): void {
    if (
      keysAreTaken(event) ||
      /^(input|select|button|textarea)$/i.test((event.target as HTMLElement).tagName)
    )
      return;
    const acts: Record<string, () => void> = {
      ' ': () => this.toggle(),
      ArrowRight: () => this.stepByHand(1),
      ArrowLeft: () => this.stepByHand(-1),
    };
    const act = event.ctrlKey || event.metaKey || event.altKey ? undefined : acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }
}
