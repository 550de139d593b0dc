import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  linkedSignal,
  resource,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { NgComponentOutlet } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type { Outcome } from '@oxbow/contract';
import { kindOf } from '@oxbow/core/kinds';
import { Store } from '@ngrx/store';
import { ACTS } from '../acting/acts';
import { Assembled } from '../assemble/assembled';
import { Assembling } from '../assemble/assembling';
import { AssemblyBar } from '../assemble/assembly-bar';
import { Begun } from '../assemble/begun';
import { Carry } from '../carry/carry';
import { PutBack } from '../carry/put-back';
import { DraftActs } from '../drafts/draft-acts';
import { Stranded } from '../drafts/stranded';
import { CheckOutBand } from '../holding/check-out-band';
import { HoldingBand } from '../holding/holding-band';
import { KeepForm } from '../holding/keep-form';
import { KeepingMenu } from '../holding/keeping-menu';
import { Rooms } from '../past/rooms';
import { Comparing } from '../reading/comparing';
import { Comparison } from '../reading/comparison';
import { Choosing } from '../reading/choosing';
import { placeOf } from '../tideline/layout';
import { Tideline } from '../tideline/tideline';
import { Comparer } from '../worker/comparer';
import type { Preview } from '../document/acts';
import { DeskActs } from '../document/acts';
import { AboutDocument } from '../document/about';
import type { Look } from '../reading/look';
import type { TakenBack } from '../reading/note';
import { cameInto } from '../session/recent';
import { session } from '../session/session.store';
import type { PageInputs, Standpoint } from '../document/kinds';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { DeskAddress } from './address';
import { Frame } from './frame';
import { Going } from './going';
import { Hearing } from './hearing';
import { DeskOffers } from './offers';
import { keepPlace, recallPlace } from './place';
import { DeskBar } from './desk-bar';
import { Fresh } from './fresh';
import { DeskHistory } from '../document/history';
import { LastLook } from './last-look';
import { LedgerBar } from '../ledger/ledger-bar';
import { DeskLedger } from '../ledger/ledger-state';
import { DeviceCopy } from '../document/device-copy';
import { LiveDocument } from '../document/live-document';
import { Log } from '../log/log';
import { MomentCard } from '../moment/moment-card';
import type { Word } from '../document/words';
import { WaysBack } from '../moment/ways-back';
import { Words } from '../document/words';

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
    Fresh,
    HoldingBand,
    KeepForm,
    KeepingMenu,
    LedgerBar,
    Log,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    MomentCard,
    NgComponentOutlet,
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
    Frame,
    Going,
    Hearing,
    DeskOffers,
    DeviceCopy,
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
  protected readonly table = ACTS;
  private readonly kinds = inject(KINDS_ON_SCREEN);
  private readonly pageTitle = inject(Title);
  private readonly store = inject(Store);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly stage = viewChild<ElementRef<HTMLElement>>('stage');
  private readonly tideline = viewChild(Tideline);
  private readonly card = viewChild<MomentCard>('card');
  protected readonly about = inject(AboutDocument);
  protected readonly acts = inject(DeskActs);
  protected readonly address = inject(DeskAddress);
  protected readonly assembling = inject(Assembling);
  protected readonly choosing = inject(Choosing);
  protected readonly comparer = inject(Comparer);
  protected readonly comparing = inject(Comparing);
  protected readonly draftActs = inject(DraftActs);
  protected readonly frame = inject(Frame);
  protected readonly going = inject(Going);
  protected readonly lastLook = inject(LastLook);
  protected readonly ledger = inject(DeskLedger);
  protected readonly live = inject(LiveDocument);
  protected readonly log = inject(DeskHistory);
  protected readonly offers = inject(DeskOffers);
  protected readonly words = inject(Words);

  protected readonly fetching = $localize`Fetching the page`;

  protected readonly id = this.address.document;
  protected readonly people = this.store.selectSignal(session.selectPeopleById);
  private readonly me = this.store.selectSignal(session.selectPerson);
  protected readonly hereNow = computed(() => {
    const me = this.live.start() ? [this.me()?.id ?? ''] : [];
    const ids = new Set([...me, ...[...this.live.others().values()].map((presence) => presence.person)]);
    return [...ids].flatMap((id) => this.people().get(id) ?? []);
  });
  protected readonly look = this.comparing.look;
  protected readonly pick = this.address.pick;
  protected readonly mode = this.address.mode;
  protected readonly place = this.address.place;
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
  /** Why something of the desk cannot be shown; empty while all is well. */
  protected readonly trouble = computed(
    () =>
      this.live.trouble() ||
      this.comparing.trouble() ||
      this.about.trouble() ||
      this.log.trouble() ||
      this.lastLook.trouble(),
  );
  protected readonly preview = linkedSignal<Look | null, Preview | null>({
    source: this.look,
    computation: () => null,
  });
  protected readonly cardLeft = computed(() => {
    const line = this.tideline();
    const pick = this.pick();
    if (!line || !pick) return 16;
    const width = this.element.nativeElement.clientWidth;
    const card = this.mode() === 'flowing' ? CARD : BRIEF_CARD;
    return Math.max(8, Math.min(width - card - 8, 16 + placeOf(line.layout(), pick.later) - card / 2));
  });
  protected readonly recalled = computed(() => recallPlace(this.id()));
  /** The past moment that stands beside the page, to carry from. */
  protected readonly carrying = computed(() =>
    this.place()?.room === 'carry' ? (this.pick()?.later ?? null) : null,
  );
  /** The edit that changes of sections are told since: one's last look, or the version before. */
  protected readonly since = computed(() =>
    this.log.hidden() ? null : this.lastLook.look()?.seq || (this.log.versions()[1]?.seq ?? null),
  );
  /** Whether the page as it is now is in view. */
  protected readonly pageInView = computed(() => this.carrying() !== null || (!this.look() && !this.place()));
  /** Where the caret stands in the present page. */
  protected readonly caret = signal<number | null>(null);
  /** What the document is; null until it is there. */
  private readonly kind = computed(() => {
    const start = this.live.start();
    return start ? this.kinds[kindOf(start.state.doc).name] : null;
  });
  protected readonly onPaper = computed(() => this.kind()?.paper ?? true);
  /** The page one writes on, fetched when it is known what it is. */
  protected readonly page = resource({
    params: () => this.kind() ?? undefined,
    loader: ({ params }) => params.page(),
  });
  protected readonly pageInputs = computed<Record<string, unknown> | null>(() => {
    const start = this.live.start();
    if (!start) return null;
    const inputs: PageInputs = {
      id: this.id(),
      start: start.state,
      writable: this.writable() && this.pageInView(),
      inView: this.pageInView(),
      selection: this.recalled().selection,
      since: this.since(),
      head: this.log.head(),
      selected: this.rememberSelection,
      toLife: this.toLife,
    };
    return { ...inputs };
  });

  constructor() {
    inject(Hearing);
    effect(() => untracked(() => this.begin(this.id())));
    effect(() => {
      const stage = this.stage();
      if (stage) this.frame.scrollsIn(stage.nativeElement);
    });
    effect(() => {
      const document = this.about.document();
      if (document) this.pageTitle.setTitle(`${document.title} · Oxbow Tide`);
    });
    effect(() => {
      const card = this.comparing.looking() ? undefined : this.card();
      if (!card || !this.going.wantsName()) return;
      untracked(() => {
        card.doing.set('naming');
        this.going.named();
      });
    });
    effect(() => {
      if (!this.offers.wantsLine() || !this.log.ready()) return;
      const line = this.pick() ? this.tideline() : undefined;
      const nothing = this.log.head() === 0;
      untracked(() => (line || nothing ? this.focusLine() : this.going.openLastSitting()));
    });
    effect(() => {
      if (this.page.hasValue() && !untracked(this.pick)) this.frame.backToPlace();
    });
  }

  private begin(id: string): void {
    this.live.open(id);
    cameInto(this.me()?.id ?? '', id);
    this.about.open(id);
    void this.lastLook.load(id);
    void this.log.load(id);
  }

  protected actOn(word: Word): void {
    this.words.hush(word);
    word.act?.run();
  }

  private readonly rememberSelection = (selection: Standpoint): void => {
    this.caret.set(selection.head);
    keepPlace(this.id(), { selection });
  };

  private readonly toLife = (position: number): void =>
    this.going.enter({ room: 'life', passage: `${this.log.head()}.${position}` });

  protected async takeChangeBack(change: TakenBack): Promise<void> {
    const look = this.look();
    if (look)
      await this.acts.offerTakeBack(this.id(), {
        earlier: look.earlier.seq,
        later: look.later.seq,
        ...change,
      });
  }

  protected async askPreview(): Promise<void> {
    const look = this.look();
    if (look) this.preview.set(await this.acts.preview(this.id(), look.later.seq, this.log.head()));
  }

  protected async restore(note: string): Promise<void> {
    const look = this.look();
    if (look && (await this.acts.restore(this.id(), look.later.seq, this.version(), note)))
      this.going.go(null);
  }

  protected assembled({ seq, version }: Outcome): void {
    this.going.go(null);
    this.words.say($localize`What you assembled is on top, as version ${version.number}.`, {
      label: $localize`Take it back`,
      run: () => void this.acts.takeBack(this.id(), { seqs: [seq] }),
    });
  }

  /** Keeps what is written as a version; the form stays when that fails, so that its words do. */
  protected async keep({ comment, major }: { comment: string; major: boolean }): Promise<void> {
    if (await this.acts.keep(this.id(), comment, major)) this.offers.keeping.set(false);
  }

  protected async rename(title: string): Promise<void> {
    const renamed = await this.acts.rename(this.id(), title);
    if (renamed) this.about.changed(renamed);
  }

  private focusLine(): void {
    this.offers.wantsLine.set(false);
    setTimeout(() => this.element.nativeElement.querySelector<SVGElement>('[data-handle="later"]')?.focus());
  }
}
