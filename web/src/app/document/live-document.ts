import type { Signal } from '@angular/core';
import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';
import type { Accepted, DocumentSummary, Joined, WireEdit } from '@oxbow/contract';
import { EDIT_SPAN, Gap } from '@oxbow/core/history';
import type { SentEdit, Writer } from '@oxbow/core/history';
import { Store } from '@ngrx/store';
import type { Transaction } from 'prosemirror-state';
import { Subject } from 'rxjs';
import { Anew } from '../live/anew';
import { waitBefore } from '../live/backoff';
import { LiveChannel, Refused } from '../live/channel';
import { Copies } from '../live/copies';
import { Drafts } from '../live/drafts';
import { Heeding } from '../live/heeding';
import { Holding } from '../session/holding';
import type { Kept, Standing } from '../live/kept';
import { Outbox } from '../live/outbox';
import { session } from '../session/session.store';
import { Api } from '../api/api';
import { begin, beginAway } from './beginning';
import type { Begun } from './beginning';
import { DeviceCopy } from './device-copy';
import { Carets } from './carets';
import type { PageView } from './page-view';
import { LivePage } from './live-page';
import { onTop } from './on-top';
import type { OwnMeta } from './own-acts';
import { OWN, OwnActs, ownTransaction } from './own-acts';
import { REMOTE } from './remote';
import { savedWords } from './saved-words';
import { Sending } from './sending';
import { WaitingBox, windowName } from './waiting-box';

/** Answers after which the same is tried again: the server has trouble, or too much to do. */
const isPassing = (error: unknown): boolean =>
  !(error instanceof Refused) || error.status >= 500 || error.status === 429 || error.status === 408;

/** The answer to what was written on a document too far back: what came since is fetched, and it is sent again. */
const FETCH_FIRST = 409;
/** Answers to what cannot be taken as it is, but is worth keeping: too much at once, not fitting, checked out by another. */
const KEPT_BACK: ReadonlySet<number> = new Set([413, 422, 423]);

/** Milliseconds without an answer before what is on the device is opened. */
const AWAY_AFTER = 1500;
const NO_LONGER = $localize`This document is no longer shared with you.`;

/** What a desk knows of its document as a whole. */
export interface About {
  readonly title: string;
  /** When it was made, milliseconds since the epoch, if one made it oneself. */
  readonly madeAt?: number;
  /** Whether one has it checked out. */
  readonly checkedOut: boolean;
  readonly summary: DocumentSummary;
}

/**
 * The document on the desk as it lives: what is typed goes out, what others type comes in, and what is not acknowledged
 * yet is kept on the device. One for each open desk.
 */
@Injectable()
export class LiveDocument {
  private readonly channel = inject(LiveChannel);
  private readonly outbox = inject(Outbox);
  private readonly copies = inject(Copies);
  private readonly copy = inject(DeviceCopy);
  private readonly anew = inject(Anew);
  private readonly drafts = inject(Drafts);
  private readonly heeding = inject(Heeding);
  private readonly holdings = inject(Holding);
  private readonly api = inject(Api);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  private readonly failed = signal('');
  private readonly first = signal<number | null>(null);
  private readonly carets = new Carets();
  private readonly incoming = new Subject<readonly WireEdit[]>();
  private readonly stops: (() => void)[] = [];
  private readonly live = new LivePage();
  private readonly sending = new Sending(this.channel, this.live, {
    address: () => ({ document: this.id, client: this.name }),
    ready: () => !this.joining && this.about() !== null && !this.box.stranding,
    holding: () => this.holding(),
    answered: (results) => this.adopt(results),
    turnedAway: (error) => this.turnedAway(error),
    lost: () => void this.join(),
  });
  private readonly box = new WaitingBox(inject(Outbox), this.live, () => ({
    document: this.id,
    client: this.name,
    person: this.me()?.id ?? '',
    title: this.about()?.title ?? this.title,
    erased: this.erased,
    standing: this.standing(),
  }));
  private id = '';
  /** What the document is called, as far as it is known before the document is described: by the draft, or by the server at joining. */
  private title = '';
  private joining: readonly WireEdit[][] | null = null;
  private summary: DocumentSummary | null = null;
  /** How often something had been erased in the document when it was fetched. */
  private erased = 0;
  /** Whether others were last told where one stands while something of one's own waited. */
  private toldWaiting = false;
  /** How often in a row joining failed in a way that passes, and when it is tried again. */
  private tries = 0;
  private retry: ReturnType<typeof setTimeout> | null = null;
  private readonly troubled = signal(false);

  private name = windowName();
  private readonly out = signal(false);
  private readonly about = signal<About | null>(null);

  /** What the writer does on the page other than typing. */
  readonly acts = new OwnActs(
    () => {
      const { view, writer } = this.live;
      return view && writer ? { view, writer } : null;
    },
    (text) => this.said.next(text),
  );
  /** The state the editor starts with, and what one may do; null until the document is there. */
  readonly start = this.live.start;
  /** Why the document cannot be shown or written in any more; empty while all is well. */
  readonly trouble: Signal<string> = this.failed.asReadonly();
  /** The moment at which the document was opened here; null before that. */
  readonly found = this.first.asReadonly();
  /** Who else has the document open, and where their carets stand, by window. */
  readonly others = this.carets.others;
  /** What others and oneself wrote, as the server accepted it. */
  readonly edits = this.incoming.asObservable();
  /** A word to the writer, such as why something could not be undone. */
  readonly said = new Subject<string>();
  /** Whether what one writes here stays on the device until it is put in. */
  readonly holding = computed(() => this.out() || this.holdings.in(this.id, this.about()?.madeAt));
  /** How many edits wait to be sent, or to be put in. */
  readonly waiting = this.live.waiting;
  /** What is saved, in words. */
  readonly saved = computed(() => {
    const { sending, at } = this.sending.saving();
    return savedWords({
      connected: this.channel.connected() && !this.troubled(),
      waiting: this.live.waiting(),
      holding: this.holding() && !this.sending.letting(),
      sending,
      at,
    });
  });

  constructor() {
    const troubled = this.copy.trouble.subscribe((why) => this.said.next(why));
    inject(DestroyRef).onDestroy(() => {
      troubled.unsubscribe();
      this.close();
    });
  }

  /** This window's name, under which its edits go out. */
  get client(): string {
    return this.name;
  }

  /** What is known of the document as a whole. Nothing is sent before that. */
  async describe(about: About): Promise<void> {
    this.about.set(about);
    this.summary = about.summary;
    this.copySoon();
    const ended = this.out() && !about.checkedOut;
    this.out.set(about.checkedOut);
    if (ended && (await this.strand()))
      this.said.next(
        $localize`Your check-out was ended. What you had not checked in is kept as a stranded draft.`,
      );
    this.sending.soon(0);
  }

  /** Opens a document. */
  open(id: string): void {
    this.id = id;
    void this.outbox.claim(this.name).then((release) => release && this.stops.push(release));
    const heard = this.channel
      .on('edits')
      .subscribe(({ document, edits }) => document === this.id && this.hear(edits));
    const revoked = this.channel.on('revoked').subscribe(({ document }) => {
      if (document !== this.id) return;
      this.failed.set(NO_LONGER);
      void this.copy.drop(this.id);
    });
    const erased = this.channel
      .on('erased')
      .subscribe(({ document }) => document === this.id && void this.beginAnew());
    this.stops.push(
      () => erased.unsubscribe(),
      () => heard.unsubscribe(),
      this.carets.listen(this.channel, this.id),
      () => revoked.unsubscribe(),
      this.channel.whenConnected(() => void this.join()),
    );
    setTimeout(() => void this.beginAway(), AWAY_AFTER);
  }

  /** Opens what is on the device when the server does not answer. */
  private async beginAway(): Promise<void> {
    if (this.live.writer || this.joining || this.channel.connected()) return;
    const begun = await beginAway({
      drafts: this.drafts,
      copies: this.copies,
      person: this.me()?.id ?? '',
      document: this.id,
      client: this.name,
      holding: this.holding(),
    });
    if (this.live.writer || this.joining || !begun) return begun?.draft?.release();
    const { writer, view, draft, copy } = begun;
    this.startWith(writer, draft);
    this.erased = copy.about.erased;
    this.first.set(copy.seq);
    this.live.begin(writer, view, copy.about.role);
  }

  private startWith(writer: Writer, draft: Begun['draft']): void {
    this.name = writer.client;
    if (draft) {
      this.stops.push(draft.release);
      this.title = draft.kept.title;
      this.out.set(draft.kept.standing === 'out');
    }
  }

  /** Keeps the document on the device as it was accepted, once nothing has changed for a while. */
  private copySoon(): void {
    this.copy.soon(() => {
      const [about, seq, doc] = [this.summary, this.live.settled, this.live.doc];
      if (!about || seq === null || !doc || this.failed()) return null;
      return { document: this.id, seq, doc, about };
    });
  }

  /** The editor shows itself, and what comes in goes to it; null when it is gone. */
  attach(view: PageView | null): void {
    this.live.attach(view);
    if (view) this.presentHere(view);
  }

  private close(): void {
    this.sending.soon(0);
    this.copy.rest();
    for (const stop of this.stops) stop();
    if (this.retry !== null) clearTimeout(this.retry);
    this.channel.leave(this.id);
  }

  /** Takes in a transaction of the editor: own writing is kept and sent. */
  wrote(tr: Transaction): void {
    if (!tr.docChanged || tr.getMeta(REMOTE) || !this.live.writer) return;
    const own = (tr.getMeta(OWN) as OwnMeta | undefined) ?? this.acts.pasted(tr);
    this.live.writer.write(tr.before, tr.steps, Date.now(), own);
    this.keep();
    this.sending.soon(EDIT_SPAN);
  }

  /** Where a position of the document at an accepted edit is on the page now. */
  here(position: number, seq: number): number | null {
    return this.live.writer?.here(position, seq) ?? null;
  }

  /** The last accepted edit that the page has; null before there is a page. */
  get confirmed(): number | null {
    return this.live.confirmed;
  }

  /** The editor that shows the page; null before there is one. */
  get page(): PageView | null {
    return this.live.view;
  }

  /** The edit that the page is at, when nothing of one's own waits; else null. */
  settled(): number | null {
    return this.live.settled;
  }

  /** Tells others where this writer's caret stands. */
  present(anchor: number, head: number): void {
    const { writer, confirmed: seq } = this.live;
    if (!writer || seq === null || !this.channel.connected()) return;
    this.toldWaiting = this.live.settled === null;
    const place = { anchor: writer.confirmedAt(anchor), head: writer.confirmedAt(head) };
    this.channel.presence({ document: this.id, client: this.name, seq, ...place });
  }

  private presentHere({ standpoint }: PageView): void {
    this.present(standpoint.anchor, standpoint.head);
  }

  private async join(): Promise<void> {
    this.joining = [];
    try {
      const { writer } = this.live;
      const joined = writer ? await this.rejoin(writer) : await this.begin();
      this.carets.begin(joined.here, this.name);
      for (const edits of this.joining) this.take(edits);
      this.failed.set('');
      this.tries = 0;
      this.troubled.set(false);
    } catch (error) {
      if (isPassing(error)) return this.joinLater();
      this.fail(error);
    } finally {
      this.joining = null;
    }
    this.sending.again();
    const { view } = this.live;
    if (view) this.presentHere(view);
  }

  /** Joins again after a wait that grows each time; the page stays writable, and what waits is on the device. */
  private joinLater(): void {
    if (this.tries === 0)
      this.said.next(
        $localize`The server has trouble. What you write is kept on this device, and sent when it answers.`,
      );
    this.troubled.set(true);
    if (this.retry !== null) return;
    this.retry = setTimeout(() => {
      this.retry = null;
      if (this.channel.connected()) void this.join();
    }, waitBefore(this.tries++));
  }

  private async rejoin(writer: Writer): Promise<Joined> {
    const joined = await this.channel.join(this.id, writer.confirmed);
    if (joined.erased !== this.erased) await this.beginAnew();
    this.take(joined.edits);
    writer.reconnected();
    return joined;
  }

  private async begin(): Promise<Joined> {
    const { writer, view, joined, draft } = await begin({
      api: this.api,
      channel: this.channel,
      drafts: this.drafts,
      heeding: this.heeding,
      person: this.me()?.id ?? '',
      document: this.id,
      client: this.name,
      holding: this.holding(),
    });
    this.startWith(writer, draft);
    this.title = joined.title;
    this.erased = joined.erased;
    this.first.set(joined.seq);
    this.copySoon();
    this.live.begin(writer, view, joined.role);
    return joined;
  }

  /** Something was erased: all that this window has of the document is let go of and fetched again; what waits is on the device. */
  private async beginAnew(): Promise<void> {
    await this.copy.drop(this.id);
    await this.box.keep();
    this.anew.load();
  }

  private hear(edits: readonly WireEdit[]): void {
    if (this.joining) this.joining = [...this.joining, [...edits]];
    else this.take(edits);
  }

  private take(edits: readonly WireEdit[]): void {
    if (!this.live.doc || edits.length === 0) return;
    let fresh: readonly WireEdit[];
    try {
      fresh = this.live.receive(edits);
    } catch (error) {
      if (!(error instanceof Gap)) throw error;
      void this.join();
      return;
    }
    if (this.live.settled !== null) this.settledDown();
    this.copySoon();
    this.keep();
    this.incoming.next(fresh);
  }

  /** Nothing waits any more: who was told where one stands while something did is told anew. */
  private settledDown(): void {
    this.sending.rest();
    const { view } = this.live;
    if (view && this.toldWaiting) this.presentHere(view);
  }

  private adopt(results: Accepted['results']): void {
    const gone = results.filter((result) => result.seq === null);
    if (gone.length > 0) {
      this.live.refuse(gone.map((result) => result.counter));
      const why = gone.find((result) => result.refusal)?.refusal;
      if (why) this.said.next($localize`The last change could not be taken: ${why.message}`);
    }
    this.keep();
  }

  private keep(): void {
    this.live.count();
    this.box
      .keep()
      .catch(() => this.said.next($localize`This browser does not let anything be kept on the device.`));
  }

  private standing(): Standing {
    if (this.out()) return 'out';
    if (this.holding()) return 'held';
    return this.channel.connected() ? 'sending' : 'away';
  }

  /** Puts in what was held back, up to now and while that lasts. Answers whether all of it is accepted. */
  putIn(): Promise<boolean> {
    return this.sending.putIn(() => this.failed() !== '');
  }

  /** Puts a draft, carried to the last accepted edit, on top of the page as one's own writing. */
  putOnTop(edits: readonly SentEdit[], from: Kept): void {
    const { view, writer } = this.live;
    if (!view || !writer) return;
    const waiting = writer.waiting.flatMap(({ steps }) => [...steps]);
    for (const { steps, sources, cause } of onTop(view.state.doc, edits, waiting))
      view.dispatch(ownTransaction(view, steps, { cause, sources }));
    this.box
      .takeOver(from)
      .catch(() => this.said.next($localize`The draft is on top; this browser does not let go of its copy.`));
  }

  /** Takes what waits off the page; it stays on the device as a stranded draft. Answers whether there was any. */
  private strand(): Promise<boolean> {
    return this.box.strand(() => this.drop());
  }

  /** Takes what waits off the page for good. */
  drop(): void {
    this.live.clear();
    this.sending.rest();
    this.keep();
  }

  /** The server does not take what is written here, or not like this. */
  private async turnedAway(error: Refused): Promise<void> {
    if (error.status === FETCH_FIRST) return this.join();
    if (isPassing(error)) return this.joinLater();
    this.sending.rest();
    if (!KEPT_BACK.has(error.status)) return this.fail(error);
    if (await this.strand())
      this.said.next($localize`${error.message} What you wrote is kept as a stranded draft.`);
  }

  private fail(error: unknown): void {
    if (error instanceof Refused)
      this.failed.set(
        error.status !== 404
          ? error.message
          : this.start()
            ? NO_LONGER
            : $localize`There is no such document, or it is not shared with you.`,
      );
  }
}
