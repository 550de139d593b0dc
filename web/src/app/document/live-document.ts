import type { Signal } from '@angular/core';
import { DestroyRef, Injectable, computed, inject, signal } from '@angular/core';
import { BUDGETS } from '@oxbow/contract';
import type { DocumentSummary, EditsMessage, Joined, Role, WireEdit } from '@oxbow/contract';
import { EDIT_SPAN, Gap } from '@oxbow/core/history';
import type { SentEdit, Writer } from '@oxbow/core/history';
import { Store } from '@ngrx/store';
import { EditorState } from 'prosemirror-state';
import type { Plugin, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { Subject } from 'rxjs';
import { Anew } from '../live/anew';
import { LiveChannel, Refused } from '../live/channel';
import { Copies } from '../live/copies';
import { Drafts, acceptedOf } from '../live/drafts';
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
import { onTop } from './on-top';
import type { OwnMeta } from './own-acts';
import { OWN, OwnActs, ownTransaction } from './own-acts';
import { REMOTE } from './remote';
import { savedWords } from './saved-words';
import { keepActs } from './undo-memory';

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

type Saving = { readonly kind: 'kept'; readonly at: number | null } | { readonly kind: 'sending' };

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
  private readonly saving = signal<Saving>({ kind: 'kept', at: null });
  private readonly opened = signal<{ state: EditorState; role: Role } | null>(null);
  private readonly failed = signal('');
  private readonly held = signal(0);
  private readonly first = signal<number | null>(null);
  private readonly carets = new Carets();
  private readonly incoming = new Subject<readonly WireEdit[]>();
  private readonly stops: (() => void)[] = [];
  private writer: Writer | null = null;
  private view: EditorView | null = null;
  private id = '';
  private joining: readonly WireEdit[][] | null = null;
  private sending: ReturnType<typeof setTimeout> | null = null;
  private summary: DocumentSummary | null = null;
  private busy = false;
  /** How often something had been erased in the document when it was fetched. */
  private erased = 0;
  private plugins: Plugin[] = [];

  private name = crypto.randomUUID().replaceAll('-', '').slice(0, 12);
  private readonly letting = signal(false);
  private readonly out = signal(false);
  private readonly about = signal<About | null>(null);

  /** What the writer does on the page other than typing. */
  readonly acts = new OwnActs(
    () => (this.view && this.writer ? { view: this.view, writer: this.writer } : null),
    (text) => this.said.next(text),
  );
  /** The state the editor starts with, and what one may do; null until the document is there. */
  readonly start = this.opened.asReadonly();
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
  readonly waiting = this.held.asReadonly();
  /** What is saved, in words. */
  readonly saved = computed(() => {
    const saving = this.saving();
    return savedWords({
      connected: this.channel.connected(),
      waiting: this.held(),
      holding: this.holding() && !this.letting(),
      sending: saving.kind === 'sending',
      at: saving.kind === 'kept' ? saving.at : null,
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
    this.flushSoon(0);
  }

  /** Opens a document; the editor's plugins come with it. */
  open(id: string, plugins: Plugin[]): void {
    this.id = id;
    this.plugins = plugins;
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
    if (this.writer || this.joining || this.channel.connected()) return;
    const begun = await beginAway({
      drafts: this.drafts,
      copies: this.copies,
      person: this.me()?.id ?? '',
      document: this.id,
      client: this.name,
      holding: this.holding(),
    });
    if (this.writer || this.joining || !begun) return begun?.draft?.release();
    const { writer, view, draft, copy } = begun;
    this.startWith(writer, draft);
    this.erased = copy.about.erased;
    this.first.set(copy.seq);
    this.opened.set({
      state: EditorState.create({ doc: view, plugins: this.plugins }),
      role: copy.about.role,
    });
  }

  private startWith(writer: Writer, draft: Begun['draft']): void {
    this.writer = writer;
    this.name = writer.client;
    if (draft) {
      this.stops.push(draft.release);
      this.out.set(draft.kept.standing === 'out');
    }
    this.held.set(writer.waiting.length);
  }

  /** Keeps the document on the device as it was accepted, once nothing has changed for a while. */
  private copySoon(): void {
    this.copy.soon(() => {
      const [about, seq] = [this.summary, this.settled()];
      const doc = this.view?.state.doc ?? this.opened()?.state.doc;
      if (!about || seq === null || !doc || this.failed()) return null;
      return { document: this.id, seq, doc, about };
    });
  }

  /** The editor shows itself, and what comes in goes to it. */
  attach(view: EditorView): void {
    this.view = view;
    this.present(view.state.selection.anchor, view.state.selection.head);
  }

  private close(): void {
    this.flushSoon(0);
    this.copy.rest();
    for (const stop of this.stops) stop();
    this.channel.leave(this.id);
  }

  /** Takes in a transaction of the editor: own writing is kept and sent. */
  wrote(tr: Transaction): void {
    if (!tr.docChanged || tr.getMeta(REMOTE) || !this.writer) return;
    const own = (tr.getMeta(OWN) as OwnMeta | undefined) ?? this.acts.pasted(tr);
    this.writer.write(tr.before, tr.steps, Date.now(), own);
    this.keep();
    this.flushSoon(EDIT_SPAN);
  }

  /** Where a position of the document at an accepted edit is on the page now. */
  here(position: number, seq: number): number | null {
    return this.writer?.here(position, seq) ?? null;
  }

  /** The last accepted edit that the page has; null before there is a page. */
  get confirmed(): number | null {
    return this.writer?.confirmed ?? null;
  }

  /** The editor that shows the page; null before there is one. */
  get page(): EditorView | null {
    return this.view;
  }

  /** The edit that the page is at, when nothing of one's own waits; else null. */
  settled(): number | null {
    return this.writer && this.writer.waiting.length === 0 ? this.writer.confirmed : null;
  }

  /** Tells others where this writer's caret stands. */
  present(anchor: number, head: number): void {
    if (this.writer && this.channel.connected())
      this.channel.presence({
        document: this.id,
        client: this.name,
        seq: this.writer.confirmed,
        anchor,
        head,
      });
  }

  private async join(): Promise<void> {
    this.joining = [];
    try {
      const joined = this.writer ? await this.rejoin(this.writer) : await this.begin();
      this.carets.begin(joined.here, this.name);
      for (const edits of this.joining) this.take(edits);
      this.failed.set('');
    } catch (error) {
      this.fail(error);
    } finally {
      this.joining = null;
    }
    this.busy = false;
    this.flushSoon(0);
    if (this.view) this.present(this.view.state.selection.anchor, this.view.state.selection.head);
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
    this.erased = joined.erased;
    this.first.set(joined.seq);
    this.copySoon();
    this.opened.set({ state: EditorState.create({ doc: view, plugins: this.plugins }), role: joined.role });
    return joined;
  }

  /** Something was erased: all that this window has of the document is let go of and fetched again; what waits is on the device. */
  private async beginAnew(): Promise<void> {
    await this.copy.drop(this.id);
    if (this.writer) await this.outbox.keep(this.box(this.writer, this.standing()));
    this.anew.load();
  }

  private hear(edits: readonly WireEdit[]): void {
    if (this.joining) this.joining = [...this.joining, [...edits]];
    else this.take(edits);
  }

  private take(edits: readonly WireEdit[]): void {
    const { view, writer } = this;
    if (!writer || edits.length === 0) return;
    const fresh = edits.filter((edit) => edit.seq > writer.confirmed);
    const state = view?.state ?? this.opened()?.state;
    if (!state) return;
    try {
      const tr = state.tr;
      writer.receive(fresh.map(acceptedOf), tr);
      this.show(tr);
    } catch (error) {
      if (!(error instanceof Gap)) throw error;
      void this.join();
      return;
    }
    if (writer.waiting.length === 0) this.letting.set(false);
    this.copySoon();
    this.keep();
    this.incoming.next(fresh);
  }

  private show(tr: Transaction): void {
    if (tr.steps.length === 0) return;
    tr.setMeta(REMOTE, true);
    if (this.view) this.view.dispatch(tr);
    else this.opened.update((opened) => opened && { ...opened, state: opened.state.apply(tr) });
  }

  private flushSoon(delay: number): void {
    if (this.sending !== null && delay > 0) return;
    if (this.sending !== null) clearTimeout(this.sending);
    this.sending = setTimeout(() => {
      this.sending = null;
      void this.flush();
    }, delay);
  }

  private async flush(): Promise<void> {
    if (this.busy || this.joining || !this.channel.connected()) return;
    if (!this.about() || (this.holding() && !this.letting())) return;
    const out = this.writer?.outgoing((edit) => JSON.stringify(edit.steps).length, BUDGETS.messageBytes / 2);
    if (!out || !this.writer) return;
    this.busy = true;
    this.saving.set({ kind: 'sending' });
    try {
      const { results } = await this.channel.send(this.message(out));
      this.adopt(results);
      this.saving.set({ kind: 'kept', at: Date.now() });
      this.busy = false;
      if (this.writer.waiting.length > 0) this.flushSoon(0);
      else this.letting.set(false);
    } catch (error) {
      this.busy = false;
      if (error instanceof Refused) await this.turnedAway(error);
      else if (this.channel.connected()) void this.join();
    }
  }

  private adopt(
    results: readonly { counter: number; seq: number | null; refusal?: { message: string } }[],
  ): void {
    const gone = results.filter((result) => result.seq === null);
    const state = this.view?.state ?? this.opened()?.state;
    if (gone.length > 0 && state && this.writer) {
      const tr = state.tr;
      this.writer.refused(
        gone.map((result) => result.counter),
        tr,
      );
      this.show(tr);
      const why = gone.find((result) => result.refusal)?.refusal;
      if (why) this.said.next($localize`The last change could not be taken: ${why.message}`);
    }
    this.keep();
  }

  private message({ base, edits }: ReturnType<Writer['unsent']>): EditsMessage {
    const plain = edits.map((edit) => ({
      ...edit,
      steps: edit.steps.map((step) => step.toJSON() as unknown),
    }));
    return { document: this.id, client: this.name, base, edits: plain as unknown as EditsMessage['edits'] };
  }

  private keep(): void {
    const person = this.me()?.id;
    if (!this.writer) return;
    this.held.set(this.writer.waiting.length);
    if (!person) return;
    keepActs(person, this.id, this.writer.acts(), this.writer.confirmed);
    this.outbox
      .keep(this.box(this.writer, this.standing()))
      .catch(() => this.said.next($localize`This browser does not let anything be kept on the device.`));
  }

  private standing(): Standing {
    if (this.out()) return 'out';
    if (this.holding()) return 'held';
    return this.channel.connected() ? 'sending' : 'away';
  }

  private box(writer: Writer, standing: Standing): Kept {
    return {
      client: this.name,
      person: this.me()?.id ?? '',
      message: this.message(writer.unsent()),
      standing,
      erased: this.erased,
      title: this.about()?.title ?? '',
      at: Date.now(),
    };
  }

  /** Puts in what was held back, up to now and while that lasts. Answers whether all of it is accepted. */
  async putIn(): Promise<boolean> {
    if (!this.writer || this.writer.waiting.length === 0) return true;
    this.letting.set(true);
    this.flushSoon(0);
    await new Promise<void>((done) => {
      const look = (): void => {
        if (!this.letting() || this.failed() || !this.channel.connected()) done();
        else setTimeout(look, 40);
      };
      look();
    });
    this.letting.set(false);
    return this.writer.waiting.length === 0;
  }

  /** Puts a draft, carried to the last accepted edit, on top of the page as one's own writing. */
  putOnTop(edits: readonly SentEdit[], from: Kept): void {
    const { view, writer } = this;
    if (!view || !writer) return;
    const waiting = writer.waiting.flatMap(({ steps }) => [...steps]);
    for (const { steps, sources, cause } of onTop(view.state.doc, edits, waiting))
      view.dispatch(ownTransaction(view, steps, { cause, sources }));
    this.outbox
      .takeOver(from.client, this.box(writer, this.standing()))
      .catch(() => this.said.next($localize`The draft is on top; this browser does not let go of its copy.`));
  }

  /** Takes what waits off the page; it stays on the device as a stranded draft. Answers whether there was any. */
  async strand(): Promise<boolean> {
    const { writer } = this;
    const state = this.view?.state ?? this.opened()?.state;
    if (!writer || !state || writer.waiting.length === 0) return false;
    const box = this.box(writer, 'ended');
    const client = crypto.randomUUID().replaceAll('-', '').slice(0, 12);
    await this.outbox.takeOver(this.name, { ...box, client, message: { ...box.message, client } });
    this.clearPage(writer, state);
    return true;
  }

  /** Takes what waits off the page for good. */
  drop(): void {
    const state = this.view?.state ?? this.opened()?.state;
    if (this.writer && state) this.clearPage(this.writer, state);
  }

  private clearPage(writer: Writer, state: EditorState): void {
    const tr = state.tr;
    writer.refused(
      writer.waiting.map(({ counter }) => counter),
      tr,
    );
    this.show(tr);
    this.letting.set(false);
    this.keep();
  }

  /** The server does not take what is written here, or not like this. */
  private async turnedAway(error: Refused): Promise<void> {
    if (error.status === FETCH_FIRST) return this.join();
    this.letting.set(false);
    if (!KEPT_BACK.has(error.status)) return this.fail(error);
    await this.strand();
    this.said.next($localize`${error.message} What you wrote is kept as a stranded draft.`);
  }

  private fail(error: unknown): void {
    if (error instanceof Refused)
      this.failed.set(
        error.status !== 404
          ? error.message
          : this.opened()
            ? NO_LONGER
            : $localize`There is no such document, or it is not shared with you.`,
      );
  }
}
