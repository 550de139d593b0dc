import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import type { Outcome, WireEdit } from '@oxbow/contract';
import { sittings } from '@oxbow/core/history';
import { Store } from '@ngrx/store';
import { Acting } from '../acting/acting';
import type { Found } from '../acting/acting';
import { Assembled } from '../assemble/assembled';
import { Assembling } from '../assemble/assembling';
import { AssemblyBar } from '../assemble/assembly-bar';
import { Begun } from '../assemble/begun';
import type { Kept as Assembly } from '../assemble/kept';
import { Carry } from '../carry/carry';
import { PutBack } from '../carry/put-back';
import { placePlugin } from '../carry/place-mark';
import { DraftActs } from '../drafts/draft-acts';
import { Stranded } from '../drafts/stranded';
import { CheckOutBand } from '../holding/check-out-band';
import { HoldingBand } from '../holding/holding-band';
import { KeepingMenu } from '../holding/keeping-menu';
import type { Place } from '../past/rooms';
import { Rooms } from '../past/rooms';
import { dayAndTime } from '../look/time';
import { Comparing } from '../reading/comparing';
import { Comparison } from '../reading/comparison';
import { Choosing } from '../reading/choosing';
import type { Look, Mode } from '../reading/look';
import { SessionEvents, session } from '../session/session.store';
import { shelf } from '../shelf/shelf.store';
import type { Range } from '../tideline/layout';
import { placeOf } from '../tideline/layout';
import type { Pick } from '../tideline/tideline';
import { Tideline } from '../tideline/tideline';
import { Comparer } from '../worker/comparer';
import type { Preview } from './acts';
import { saidOf } from '../api/api';
import { DeskActs } from './acts';
import { AboutDocument } from './about';
import { DeskAddress } from './address';
import { Editor } from './editor';
import { DeskBar } from './desk-bar';
import { Fresh } from './fresh';
import { DeskHistory } from './history';
import { writingPlugins } from './keys';
import { LastLook } from './last-look';
import { ledgerPlugin } from './ledger';
import { LedgerBar } from './ledger-bar';
import { DeskLedger } from './ledger-state';
import { LiveDocument } from './live-document';
import { Log } from './log';
import { MomentCard } from './moment-card';
import { keepPlace, recallPlace } from './place';
import { presencePlugin } from './presence';
import type { Word } from './words';
import { WaysBack } from './ways-back';
import { Words } from './words';

const SITTING = 10 * 60_000;
/** Width of the moment card, in full and in brief. */
const CARD = 520;
const BRIEF_CARD = 640;

/** A document open: the page in the middle, its history along the bottom. */
@Component({
  selector: 'ox-desk',
  imports: [
    Assembled,
    AssemblyBar,
    Begun,
    Carry,
    CheckOutBand,
    Comparison,
    DeskBar,
    Editor,
    FormsModule,
    Fresh,
    HoldingBand,
    KeepingMenu,
    LedgerBar,
    Log,
    MatButtonModule,
    MatCheckboxModule,
    MatIconModule,
    MatProgressBarModule,
    MomentCard,
    ReactiveFormsModule,
    Rooms,
    RouterLink,
    Stranded,
    Tideline,
    WaysBack,
  ],
  providers: [
    AboutDocument,
    DraftActs,
    Assembling,
    DeskAddress,
    LiveDocument,
    DeskHistory,
    DeskActs,
    DeskLedger,
    Words,
    Comparing,
    Choosing,
    LastLook,
    PutBack,
  ],
  templateUrl: './desk.html',
  styleUrl: './desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Desk {
  readonly id = input.required<string>();

  protected readonly address = inject(DeskAddress);
  protected readonly assembling = inject(Assembling);
  private readonly acting = inject(Acting);
  private readonly router = inject(Router);
  private readonly pageTitle = inject(Title);
  private readonly store = inject(Store);
  protected readonly live = inject(LiveDocument);
  protected readonly log = inject(DeskHistory);
  protected readonly words = inject(Words);
  protected readonly acts = inject(DeskActs);
  protected readonly comparing = inject(Comparing);
  protected readonly choosing = inject(Choosing);
  protected readonly comparer = inject(Comparer);
  protected readonly ledger = inject(DeskLedger);
  protected readonly lastLook = inject(LastLook);
  private readonly stage = viewChild<ElementRef<HTMLElement>>('stage');
  private readonly tideline = viewChild(Tideline);
  private readonly card = viewChild(MomentCard);
  private readonly bar = viewChild(AssemblyBar);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);

  protected readonly people = this.store.selectSignal(session.selectPeopleById);
  private readonly me = this.store.selectSignal(session.selectPerson);
  private readonly documents = this.store.selectSignal(shelf.selectDocuments);
  protected readonly about = inject(AboutDocument);
  protected readonly draftActs = inject(DraftActs);
  protected readonly pick = this.address.pick;
  private readonly wanted = signal<Range | null>(null);
  protected readonly range = computed<Range>(
    () => this.wanted() ?? { first: 1, last: Math.max(1, this.log.head()) },
  );
  protected readonly hereNow = computed(() => {
    const me = this.live.start() ? [this.me()?.id ?? ''] : [];
    const ids = new Set([...me, ...[...this.live.others().values()].map((presence) => presence.person)]);
    return [...ids].flatMap((id) => this.people().get(id) ?? []);
  });
  protected readonly folded = signal(false);
  protected readonly showLog = signal(false);
  protected readonly look = this.comparing.look;
  protected readonly mode = this.address.mode;
  /** What the tideline shows: of two documents, the moment of this one. */
  protected readonly linePick = computed(() => {
    const pick = this.pick();
    return pick && this.address.other() ? { earlier: pick.later, later: pick.later } : pick;
  });
  protected readonly version = computed(() => {
    const look = this.look();
    return look && !look.file ? this.log.versionAt(look.later.seq) : null;
  });
  protected readonly isNow = computed(() => this.pick()?.later === this.log.head());
  protected readonly mayWrite = this.about.mayWrite;
  protected readonly writable = computed(() => this.mayWrite() && !this.live.trouble());
  protected readonly preview = linkedSignal<Look | null, Preview | null>({
    source: this.look,
    computation: () => null,
  });
  /** Whether the picked moment is to be named as soon as it is in view. */
  private readonly wantsName = signal(false);
  /** Whether the tideline is to have the focus as soon as the history has come. */
  private readonly wantsLine = signal(false);
  protected readonly keeping = signal(false);
  protected readonly comment = new FormControl('', { nonNullable: true });
  protected readonly major = new FormControl(false, { nonNullable: true });
  protected readonly cardLeft = computed(() => {
    const line = this.tideline();
    const pick = this.pick();
    if (!line || !pick) return 16;
    const width = this.element.nativeElement.clientWidth;
    const card = this.mode() === 'flowing' ? CARD : BRIEF_CARD;
    return Math.max(8, Math.min(width - card - 8, 16 + placeOf(line.layout(), pick.later) - card / 2));
  });
  /** How far down the page the reader is, from 0 to 1. */
  protected readonly depth = signal(0);
  protected readonly recalled = computed(() => recallPlace(this.id()));
  protected readonly place = this.address.place;
  /** The past moment that stands beside the page, to carry from. */
  protected readonly carrying = computed(() =>
    this.place()?.room === 'carry' ? (this.pick()?.later ?? null) : null,
  );
  /** What this document was copied from, where it was. */
  protected readonly origin = computed(() => {
    const first = this.log.causes().get(1);
    return first?.kind === 'copy' ? first : null;
  });
  /** Where the caret stands in the present page. */
  protected readonly caret = signal<number | null>(null);

  constructor() {
    this.offerActs();
    effect(() => untracked(() => this.begin(this.id())));
    effect(() => {
      const [document, pick, other] = [this.id(), this.pick(), this.address.other()];
      untracked(() => this.comparing.open(pick && { document, other, ...pick }));
    });
    this.live.edits.pipe(takeUntilDestroyed()).subscribe((edits) => this.heard(edits));
    this.live.said.pipe(takeUntilDestroyed()).subscribe((text) => this.words.say(text));
    effect(() => {
      const document = this.about.document();
      if (document) this.pageTitle.setTitle(`${document.title} · Oxbow Tide`);
    });
    effect(() => {
      const card = this.comparing.looking() ? undefined : this.card();
      if (!card || !this.wantsName()) return;
      untracked(() => {
        card.doing.set('naming');
        this.wantsName.set(false);
      });
    });
    effect(() => {
      if (!this.wantsLine() || !this.log.ready()) return;
      const line = this.pick() ? this.tideline() : undefined;
      const nothing = this.log.head() === 0;
      untracked(() => (line || nothing ? this.focusLine() : this.openLastSitting()));
    });
    effect(() => this.assembling.on.set(this.address.assembling()));
    effect(() => {
      const crowded = this.address.assembling() || this.carrying() !== null;
      const id = untracked(this.id);
      untracked(() => this.folded.set(crowded || recallPlace(id).folded));
    });
    effect(() => {
      const said = this.address.said();
      if (said) untracked(() => this.words.say(said));
    });
    effect(() => {
      if (this.live.start()) setTimeout(() => this.pick() ?? this.backToPlace());
    });
    effect(() => {
      const authors = this.log.versions().flatMap((version) => version.authors);
      const id = authors.find((author) => !this.people().has(author));
      if (id !== undefined) this.store.dispatch(SessionEvents.strangerMet({ id }));
    });
    effect(() => {
      const arrival = this.address.arrival();
      const head = this.log.head();
      if (arrival && head > 0) untracked(() => void this.compareArrived(arrival, head));
    });
    effect(() => {
      if (this.address.lastSitting() && this.log.head() > 0) untracked(() => this.openLastSitting());
    });
  }

  private begin(id: string): void {
    const place = recallPlace(id);
    this.wanted.set(place.range);
    this.folded.set(place.folded);
    this.showLog.set(place.log);
    this.live.open(id, [
      ...writingPlugins({
        undo: (which) => this.live.acts.undo(which),
        toTools: () => this.toTools(),
        toLife: (position) => this.enter({ room: 'life', passage: `${this.log.head()}.${position}` }),
      }),
      presencePlugin(),
      ledgerPlugin(),
      placePlugin(),
    ]);
    this.about.open(id);
    void this.lastLook.load(id);
    void this.log.load(id);
  }

  private heard(edits: readonly WireEdit[]): void {
    const [head, wanted] = [this.log.head(), this.wanted()];
    this.log.add(edits);
    if (!this.pick() && !this.place() && document.visibilityState === 'visible') this.lastLook.watched(head);
    if (wanted?.last === head) this.wanted.set({ ...wanted, last: this.log.head() });
    for (const edit of edits) {
      const name = this.people().get(edit.author)?.name ?? 'Somebody';
      const look = {
        label: 'Look at what that changed',
        run: () => this.go({ earlier: edit.seq - 1, later: edit.seq }),
      };
      const by = edit.cause.kind === 'filing' ? edit.cause.by : undefined;
      if ([edit.author, by].includes(this.me()?.id)) continue;
      if (edit.cause.kind === 'restore') {
        const what = edit.cause.number === undefined ? 'an earlier moment' : `version ${edit.cause.number}`;
        this.words.say(`${name} brought back ${what}.`, look);
      }
      if (edit.cause.kind === 'takeBack') this.words.say(`${name} took a change back.`, look);
      if (edit.cause.kind === 'filing')
        this.words.say(`${name} filed ${edit.cause.file} as the next version.`, look);
    }
  }

  protected actOn(word: Word): void {
    this.words.hush(word);
    word.act?.run();
  }

  /** Goes to a pair of moments, or back to now; the address bar holds where one is. */
  protected go(pick: Pick | null, other: string | null = null): void {
    if (pick && !this.pick()) this.rememberScroll();
    if (!pick && this.look()?.file) this.comparing.open(null);
    if (!pick) this.wantsName.set(false);
    this.address.go(pick, other);
    if (!pick) setTimeout(() => this.backToPlace());
  }

  private openLastSitting(): void {
    const last = sittings(this.log.traces(), SITTING).at(-1);
    if (last) this.go({ earlier: last.first - 1, later: last.last });
  }

  protected zoomTo(range: Range): void {
    const whole = range.first === 1 && range.last === this.log.head();
    this.wanted.set(whole ? null : range);
    keepPlace(this.id(), { range: whole ? null : range });
  }

  protected fold(): void {
    this.folded.update((folded) => !folded);
    keepPlace(this.id(), { folded: this.folded() });
  }

  protected toggleLog(): void {
    this.showLog.update((shown) => !shown);
    this.folded.set(false);
    keepPlace(this.id(), { log: this.showLog(), folded: false });
  }

  protected rememberSelection(selection: { anchor: number; head: number }): void {
    this.caret.set(selection.head);
    keepPlace(this.id(), { selection });
  }

  protected rememberScroll(): void {
    const stage = this.stage()?.nativeElement;
    if (!stage || this.pick()) return;
    this.depth.set(stage.scrollTop / Math.max(1, stage.scrollHeight));
    keepPlace(this.id(), { scroll: stage.scrollTop });
  }

  private backToPlace(): void {
    this.stage()?.nativeElement.scrollTo({ top: recallPlace(this.id()).scroll });
  }

  protected stepChange(direction: 1 | -1): void {
    const word = this.comparing.step(direction);
    if (word) this.words.say(word);
  }

  protected read(mode: Mode): void {
    this.address.read(mode);
  }

  /** Compares with a file that came in a message, once. */
  private async compareArrived(arrival: { letter: string; index: number }, head: number): Promise<void> {
    this.address.go(null, null);
    try {
      await this.choosing.arrived(this.id(), head, arrival);
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  protected async fileIt(): Promise<void> {
    try {
      const ends = await this.choosing.file(this.about.document()?.title ?? '');
      if (ends) this.go(ends);
    } catch (error) {
      this.words.say(saidOf(error));
    }
  }

  /** Asks what to compare, and compares it. */
  protected async chooseEnds(): Promise<void> {
    const [head, versions] = [this.log.head(), this.log.versions()];
    const pick = this.pick() ?? { earlier: versions[1]?.seq ?? 0, later: head };
    const ends = await this.choosing.ask({
      document: this.id(),
      head,
      versions,
      people: this.people(),
      documents: this.documents(),
      ends: { document: this.id(), other: this.address.other(), ...pick },
      landmarks: this.log.landmarks(),
      seen: this.lastLook.look()?.seq ?? null,
    });
    if (!ends) return;
    this.comparing.stay();
    this.go({ earlier: ends.earlier, later: ends.later }, ends.other);
  }

  /** Compares the present page with the moment it was copied from. */
  protected compareOrigin(): void {
    const origin = this.origin();
    if (origin) this.go({ earlier: origin.moment, later: this.log.head() }, origin.document);
  }

  /** Goes to the last edit that had a hand in the change in hand. */
  private goToChange(): void {
    const change = this.look()?.comparison.changes.find(({ id }) => id === this.comparing.at());
    const last = Math.max(0, ...(change?.credits.map(({ seq }) => seq) ?? []));
    if (last > 0) this.go({ earlier: last - 1, later: last });
  }

  /** Names the picked moment, or now. */
  private nameMoment(): void {
    if (!this.look()) this.go({ earlier: this.log.head(), later: this.log.head() });
    this.wantsName.set(true);
  }

  /** Goes to the life of the passage that the change in hand is in. */
  private lifeOfChange(): void {
    const look = this.look();
    const change = look?.comparison.changes.find(({ id }) => id === this.comparing.at());
    if (!look || !change || look.file || this.address.other()) return;
    const gone = change.later === '';
    const [moment, place] = gone ? [look.earlier, change.place.earlier] : [look.later, change.place.later];
    this.enter({ room: 'life', passage: `${moment.seq}.${place.from}` });
  }

  protected async takeChangeBack(id: number): Promise<void> {
    const look = this.look();
    if (look)
      await this.acts.offerTakeBack(this.id(), { earlier: look.earlier.seq, later: look.later.seq, id });
  }

  protected async askPreview(): Promise<void> {
    const look = this.look();
    if (look) this.preview.set(await this.acts.preview(this.id(), look.later.seq, this.log.head()));
  }

  protected async restore(note: string): Promise<void> {
    const look = this.look();
    if (look && (await this.acts.restore(this.id(), look.later.seq, this.version(), note))) this.go(null);
  }

  /** Goes on with an assembly that was begun before. */
  protected goOn({ earlier, later, other, document }: Assembly): void {
    this.address.go({ earlier, later }, other === document ? null : other, true);
  }

  protected assembled({ seq, version }: Outcome): void {
    this.go(null);
    this.words.say(`What you assembled is on top, as version ${version.number}.`, {
      label: 'Take it back',
      run: () => void this.acts.takeBack(this.id(), { seqs: [seq] }),
    });
  }

  protected async keep(): Promise<void> {
    this.keeping.set(false);
    if (await this.acts.keep(this.id(), this.comment.value.trim(), this.major.value))
      this.comment.setValue('');
  }

  protected async rename(title: string): Promise<void> {
    const renamed = await this.acts.rename(this.id(), title);
    if (renamed) this.about.changed(renamed);
  }

  /** Goes into a room off the desk, or back to the page. */
  protected enter(place: Place | null): void {
    if (place && !this.place()) this.rememberScroll();
    this.address.enter(place);
    if (!place) setTimeout(() => this.backToPlace());
  }

  private toTools(): boolean {
    this.element.nativeElement.querySelector<HTMLElement>('ox-tools [data-first]')?.focus();
    return true;
  }

  /** What can be done on this desk, by buttons, keys and the list of commands alike. */
  private offerActs(): void {
    const past = (): boolean => !this.log.hidden();
    const reads = (): boolean => this.look() !== null;
    const decides = (): boolean => this.assembling.on();
    this.acting.offer(
      { share: () => void this.router.navigate(['/documents', this.id(), 'sharing']) },
      () => this.about.document()?.role === 'owner',
    );
    this.acting.offer({ print: () => print() }, () => !this.look() && !this.place());
    this.acting.offer({ backToNow: () => this.go(null) }, () => reads() && !this.place());
    this.acting.offer({ leaveRoom: () => this.enter(null) }, () => this.place() !== null);
    this.acting.offer(
      {
        toTideline: () => this.toTideline(),
        ledger: () => this.ledger.toggle(this.id()),
        compare: () => void this.chooseEnds(),
        find: () => this.enter({ room: 'find' }),
        removed: () => this.enter({ room: 'removed' }),
        contributors: () => this.enter({ room: 'contributors' }),
        play: () => this.enter({ room: 'play' }),
        log: () => this.toggleLog(),
        fold: () => this.fold(),
      },
      past,
    );
    this.acting.offer(
      { nameMoment: () => this.nameMoment() },
      () => past() && this.mayWrite() && !this.look()?.file,
    );
    this.acting.offer(
      { keepVersion: () => this.keeping.set(true) },
      () => past() && this.mayWrite() && !this.look() && !this.about.checkedOut(),
    );
    this.acting.offer(
      {
        nextChange: () => this.stepChange(1),
        previousChange: () => this.stepChange(-1),
        marks: () => this.comparing.marked.update((marked) => !marked),
        goToChange: () => this.goToChange(),
        life: () => this.lifeOfChange(),
      },
      reads,
    );
    this.acting.offer(
      { assemble: () => this.address.assemble(!this.assembling.on()) },
      () => reads() && !this.look()?.file,
    );
    this.acting.offer(
      { carry: () => this.enter({ room: 'carry' }) },
      () => this.mayWrite() && reads() && !this.isNow(),
    );
    this.acting.offer(
      {
        takeEarlier: () => this.bar()?.take('earlier'),
        takeBoth: () => this.bar()?.take('both'),
        takeLater: () => this.bar()?.take('later'),
      },
      decides,
    );
    this.acting.offerFinding(() => this.places());
  }

  /** Moments of this document that have a number or a name. */
  private places(): Found[] {
    const open = (seq: number): void => this.go({ earlier: Math.max(0, seq - 1), later: seq });
    return [
      ...this.log.landmarks().map(({ name, note, seq }) => ({
        label: name,
        about: note ? `Landmark: ${note}` : 'Landmark',
        run: () => open(seq),
      })),
      ...this.log.versions().map(({ number, gist, at, seq }) => ({
        label: `Version ${number}`,
        about: `${dayAndTime(at)}: ${gist}`,
        run: () => open(seq),
      })),
    ];
  }

  private toTideline(): void {
    this.folded.set(false);
    this.showLog.set(false);
    this.wantsLine.set(true);
  }

  private focusLine(): void {
    this.wantsLine.set(false);
    setTimeout(() => this.element.nativeElement.querySelector<SVGElement>('[data-handle="later"]')?.focus());
  }
}
