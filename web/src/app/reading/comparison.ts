import { NgComponentOutlet } from '@angular/common';
import { CdkConnectedOverlay } from '@angular/cdk/overlay';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  resource,
} from '@angular/core';
import type { Moment, Person, Version } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import { FORMATS } from '@oxbow/core/formats/about';
import type { RedlineFormat } from '@oxbow/core/formats';
import { saidOf } from '../api/api';
import { Send } from '../arrivals/send';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { saveFile } from '../look/save';
import { dayAndTime, shortTime } from '../look/time';
import { Comparing } from './comparing';
import { Digest } from './digest';
import type { Look, Mode } from './look';
import { Minimap } from './minimap';
import { Note } from './note';
import type { TakenBack } from './note';
import { Reading } from './reading';
import type { ReadingInputs } from './reading-inputs';
import { Readings } from './readings';

/** How long the pointer rests on a mark before its note comes, and how long the note stays without it. */
const REST = 350;

/** A comparison on the desk in one of its three readings. */
@Component({
  selector: 'ox-comparison',
  imports: [CdkConnectedOverlay, Digest, Minimap, NgComponentOutlet, Note, Reading, Readings],
  templateUrl: './comparison.html',
  styleUrl: './comparison.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.deciding]': 'decisions() !== null' },
})
export class Comparison {
  readonly look = input.required<Look>();
  readonly mode = input.required<Mode>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly versions = input.required<readonly Version[]>();
  /** Title of the document on the desk. */
  readonly title = input.required<string>();
  /** What was decided about each change, while one assembles; null otherwise. */
  readonly decisions = input<ReadonlyMap<number, Decision> | null>(null);
  readonly decided = output<{ change: number; take: Decision }>();
  readonly assembleAsked = output();
  /** Whether changes can be taken back here, one by one. */
  readonly mayTakeBack = input(false);
  readonly takeBackAsked = output<TakenBack>();
  readonly modeChosen = output<Mode>();
  readonly stepped = output<1 | -1>();
  readonly endsAsked = output();
  /** Asks to go to another pair of moments. */
  readonly gone = output<{ earlier: number; later: number }>();
  /** Something to say, such as why a page could not be saved. */
  readonly said = output<string>();

  protected readonly comparing = inject(Comparing);
  private readonly sending = inject(Send);
  protected readonly noted = linkedSignal<Look, { element: HTMLElement; change: number } | null>({
    source: this.look,
    computation: () => null,
  });
  protected readonly note = computed(() => {
    const noted = this.noted();
    return noted ? (this.look().comparison.changes.find(({ id }) => id === noted.change) ?? null) : null;
  });
  protected readonly shown = computed(() => (this.comparing.marked() ? this.comparing.shown() : []));
  protected readonly earlier = computed(() => this.name(this.look().earlier, dayAndTime));
  protected readonly later = computed(() => this.look().file ?? this.name(this.look().later, dayAndTime));
  protected readonly ends = computed(() => {
    const { earlier, later, file } = this.look();
    return [this.name(earlier, shortTime), file ?? this.name(later, shortTime)] as const;
  });
  private readonly kinds = inject(KINDS_ON_SCREEN);
  /** Whether the kind of document has a reading of its own. */
  protected readonly hasOwn = computed(() => this.kinds[this.comparing.kind()]?.reading !== undefined);
  protected readonly own = resource({
    params: () => this.kinds[this.comparing.kind()]?.reading,
    loader: ({ params }) => params(),
  });
  protected readonly ownInputs = computed<Record<string, unknown>>(() => {
    const inputs: ReadingInputs = {
      look: this.look(),
      mode: this.mode(),
      shown: this.shown(),
      people: this.people(),
      at: this.comparing.at(),
      decisions: this.decisions(),
      changed: this.take,
      decided: this.decide,
      noted: this.point,
      opened: this.open,
    };
    return { ...inputs };
  });
  private readonly take = (change: number): void => this.comparing.at.set(change);
  private readonly decide = (decision: { change: number; take: Decision }): void =>
    this.decided.emit(decision);
  private readonly point = (noted: { element: HTMLElement; change: number }): void => this.wait(noted);
  private readonly open = (change: number): void => this.showInText(change);
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** "Version 11, 3 Feb, 17:20", with the title when it is another document's. */
  private name(moment: Moment, time: (at: string) => string): string {
    const what =
      moment.version === null ? $localize`Edit ${moment.seq}` : $localize`Version ${moment.version}`;
    const where = moment.document === this.look().later.document ? '' : `${moment.title}: `;
    return `${where}${what}, ${time(moment.at)}`;
  }

  protected wait(noted: { element: HTMLElement; change: number } | null): void {
    if (this.timer !== null) clearTimeout(this.timer);
    if (noted && this.noted()?.change === noted.change) return;
    this.timer = setTimeout(() => this.noted.set(noted), REST);
  }

  /** Stays while the pointer is on the note itself. */
  protected stay(): void {
    if (this.timer !== null) clearTimeout(this.timer);
  }

  protected left(event: MouseEvent): void {
    if (!(event.target as HTMLElement).closest('[data-change]')) this.wait(null);
  }

  protected showInText(change: number): void {
    this.comparing.at.set(change);
    this.modeChosen.emit('flowing');
  }

  protected async print(): Promise<void> {
    const page = await this.redline('html');
    if (!page) return;
    const frame = document.createElement('iframe');
    frame.hidden = true;
    frame.srcdoc = await page.text();
    frame.addEventListener('load', () => {
      frame.contentWindow?.addEventListener('afterprint', () => frame.remove());
      frame.contentWindow?.print();
    });
    document.body.append(frame);
  }

  protected async send(): Promise<void> {
    const { earlier, later } = this.look();
    const end = ({ version, seq }: Moment): string =>
      version === null ? $localize`edit ${seq}` : $localize`version ${version}`;
    const said = await this.sending.ask({
      document: later.document,
      title: later.title,
      kind: this.comparing.kind(),
      what: $localize`${end(earlier)} to ${end(later)}`,
      later: later.seq,
      earlier: earlier.seq,
      other: earlier.document === later.document ? null : earlier.document,
    });
    if (said) this.said.emit(said);
  }

  protected async save(format: RedlineFormat): Promise<void> {
    const file = await this.redline(format);
    if (file) saveFile($localize`${this.title()} compared.${FORMATS[format].endings[0]}`, file);
  }

  private async redline(format: RedlineFormat): Promise<Blob | null> {
    try {
      return await this.comparing.redline(format, this.people(), (moment) => this.name(moment, dayAndTime));
    } catch (error) {
      this.said.emit(saidOf(error));
      return null;
    }
  }
}
