import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Accepted, EditsMessage, Joined, WireEdit } from '@oxbow/contract';
import { textSchema } from '@oxbow/core/kinds/text';
import { mapsOf, orderBatch, readSteps } from '@oxbow/core/history';
import { Store, provideState, provideStore } from '@ngrx/store';
import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { EditorView } from 'prosemirror-view';
import { Subject } from 'rxjs';
import { LiveChannel, Refused } from '../live/channel';
import { Api } from '../api/api';
import { Holding } from '../session/holding';
import type { Kept } from '../live/kept';
import { Outbox } from '../live/outbox';
import { SessionEvents, session } from '../session/session.store';
import { DeviceCopy } from './device-copy';
import { LiveDocument } from './live-document';
import { pageOf } from './page-view';
import { meOf } from '../session/testing';
import { Copies } from '../live/copies';
import type { Copy } from '../live/device';
import { summaryOf } from '../documents/testing';

const summary = summaryOf('guide', { title: 'Guide' });

/** A server in the same page: it orders edits as the real one does, and can be unreachable. */
class FakeChannel {
  readonly connected = signal(true);
  readonly heard = new Subject<{ document: string; edits: readonly WireEdit[] }>();
  readonly revoked = new Subject<{ document: string }>();
  readonly log: WireEdit[] = [];
  doc: Node = textSchema.node('doc', null, [textSchema.node('paragraph', null, [textSchema.text('tide')])]);
  sends = 0;
  refuse: Refused | null = null;
  private connect: () => void = () => undefined;

  on(event: string) {
    return event === 'edits' ? this.heard : event === 'revoked' ? this.revoked : new Subject();
  }
  whenConnected(act: () => void): () => void {
    this.connect = act;
    act();
    return () => undefined;
  }
  reconnect(): void {
    this.connected.set(true);
    this.connect();
  }
  leave(): void {}
  readonly places: string[] = [];
  presence({ seq, head }: { readonly seq: number; readonly head: number }): void {
    this.places.push(`${head} at ${seq}`);
  }
  async join(_document: string, since?: number): Promise<Joined> {
    const edits = since === undefined ? [] : this.log.filter((edit) => edit.seq > since);
    return {
      seq: this.log.length,
      content: this.doc.toJSON() as unknown,
      edits,
      title: 'Guide',
      role: 'editor',
      history: 'all',
      erased: 0,
      here: [],
    };
  }
  async send(message: EditsMessage): Promise<Accepted> {
    this.sends++;
    if (this.refuse) throw this.refuse;
    return {
      results: message.edits.map((edit) => ({
        counter: edit.counter,
        seq: this.take(message.client, edit, message.base),
      })),
    };
  }
  take(client: string, edit: EditsMessage['edits'][number], base: number): number | null {
    const known = this.log.find((one) => one.client === client && one.counter === edit.counter);
    if (known) return known.seq;
    const between = this.log
      .slice(base)
      .filter((one) => one.client !== client)
      .flatMap((one) => mapsOf(readSteps(textSchema, [...one.steps])));
    const [verdict] = orderBatch(
      this.doc,
      [{ steps: readSteps(textSchema, edit.steps), sources: [] }],
      between,
    );
    if (!verdict?.taken) return null;
    this.doc = verdict.doc;
    const steps = verdict.steps.map((step) => step.toJSON()) as WireEdit['steps'];
    const accepted: WireEdit = {
      seq: this.log.length + 1,
      author: 'x',
      acceptedAt: 1,
      writtenAt: 1,
      client,
      counter: edit.counter,
      schema: 1,
      steps,
      sources: [],
      cause: { kind: 'writing' },
      wordsIn: 0,
      wordsOut: 0,
    };
    this.log.push(accepted);
    this.heard.next({ document: 'guide', edits: [accepted] });
    return accepted.seq;
  }
}

describe('a document as it lives on the desk', () => {
  let channel: FakeChannel;
  let live: LiveDocument;
  let view: EditorView;
  let boxes: Kept[];
  let taken: [string, Kept][];
  let copies: Copy[];
  let dropped: number;
  /** Milliseconds that it takes this browser to lay something aside. */
  let laying: number;

  beforeEach(async () => {
    copies = [];
    dropped = laying = 0;
    channel = new FakeChannel();
    boxes = [];
    taken = [];
    localStorage.clear();
    sessionStorage.clear();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideStore(),
        provideState(session),
        DeviceCopy,
        LiveDocument,
        { provide: LiveChannel, useValue: channel },
        {
          provide: Outbox,
          useValue: {
            stranded: async () => [],
            claim: async () => () => undefined,
            keep: async (kept: Kept) => void boxes.push(kept),
            clear: async () => undefined,
            takeOver: async (from: string, kept: Kept) => {
              if (laying > 0) await settle(laying);
              taken.push([from, kept]);
            },
          },
        },
        { provide: Api, useValue: {} },
        {
          provide: Copies,
          useValue: {
            keep: async (copy: Copy) => void copies.push(copy),
            of: async () => copies.at(-1) ?? null,
            drop: async () => void dropped++,
          },
        },
      ],
    });
    live = TestBed.inject(LiveDocument);
    TestBed.inject(Store).dispatch(
      SessionEvents.signInDone({
        person: meOf({ id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }),
        people: [],
        then: null,
      }),
    );
    live.open('guide');
    await live.describe({ title: 'Guide', checkedOut: false, summary });
    await settle();
    const start = live.start();
    if (!start) throw new Error('The document did not open');
    view = new EditorView(document.createElement('div'), {
      state: start.state,
      dispatchTransaction: (tr) => {
        view.updateState(view.state.apply(tr));
        live.wrote(tr);
      },
    });
    live.attach(pageOf(view));
  });
  afterEach(() => view.destroy());

  const settle = (milliseconds = 20): Promise<void> =>
    new Promise((resolve) => setTimeout(resolve, milliseconds));
  const type = (text: string, at = 1): void => view.dispatch(view.state.tr.insertText(text, at));
  const theirs = (text: string): void =>
    void channel.take(
      'other-window',
      {
        counter: channel.log.length + 1,
        steps: [{ stepType: 'replace', from: 1, to: 1, slice: { content: [{ type: 'text', text }] } }],
        sources: [],
        writtenAt: 0,
        cause: { kind: 'writing' },
      },
      channel.log.length,
    );

  it('tells where one stands in what is accepted: carried back while something waits, and anew when nothing does', async () => {
    type('The ');
    const { head } = view.state.selection;
    live.present(head, head);
    expect(channel.places.at(-1)).toBe('1 at 0');
    live.present(head + 3, head + 3);
    expect(channel.places.at(-1)).toBe('4 at 0');
    await settle(700);
    expect(channel.log.length).toBe(1);
    expect(channel.places.at(-1)).toBe(`${head} at 1`);
    // What others write is no reason to tell it again: each of many windows would, for each edit.
    const told = channel.places.length;
    theirs('> ');
    theirs('> ');
    await settle();
    expect(channel.places.length).toBe(told);
  });

  it('sends what is typed, takes in what others type, and says that all is kept', async () => {
    type('The ');
    theirs('> ');
    expect(view.state.doc.textContent).toContain('> ');
    await settle(700);
    expect(view.state.doc.eq(channel.doc)).toBe(true);
    expect(channel.sends).toBe(1);
    expect(live.saved()).toMatch(/^every edit kept, \d\d:\d\d:\d\d$/);
  });

  it('goes on writing while the server is away, and catches up', async () => {
    channel.connected.set(false);
    type('offline ');
    expect(live.saved()).toContain('1 edit waits on this device');
    await settle(600);
    expect(channel.sends).toBe(0);
    theirs('meanwhile ');
    channel.reconnect();
    await settle(100);
    expect(view.state.doc.eq(channel.doc)).toBe(true);
    expect(channel.doc.textContent).toContain('offline');
  });

  it('notices that it missed something, and fetches it', async () => {
    const missed = channel.heard;
    const quiet = channel.log.length;
    theirs('one ');
    const last = channel.log[quiet];
    if (!last) throw new Error('Nothing was accepted');
    channel.log.push({ ...last, seq: 2, counter: 2 }, { ...last, seq: 3, counter: 3 });
    missed.next({ document: 'guide', edits: channel.log.slice(2) });
    await settle();
    expect(view.state.doc.textContent).toBe('one one one tide');
  });

  it('undoes its own typing and not that of others', async () => {
    type('mine ');
    await settle(700);
    theirs('theirs ');
    expect(live.acts.undo('undo')).toBe(true);
    expect(view.state.doc.textContent).toBe('theirs tide');
    expect(live.acts.undo('redo')).toBe(true);
    expect(view.state.doc.textContent).toContain('mine ');
  });

  it('says plainly why writing has ended', async () => {
    channel.refuse = new Refused(403, 'You may read this document, not change it');
    type('x');
    await settle(700);
    expect(live.trouble()).toContain('not change it');
    channel.revoked.next({ document: 'guide' });
    expect(live.trouble()).toContain('no longer shared');
  });

  it('holds writing back until it is put in, while others’ arrives beneath it', async () => {
    TestBed.inject(Holding).choose('guide', true);
    type('mine ');
    await settle(700);
    theirs('theirs ');
    expect([channel.sends, live.waiting()]).toEqual([0, 1]);
    expect(live.saved()).toBe('held back: 1 edit on this device');
    expect(boxes.at(-1)?.standing).toBe('held');
    expect(view.state.doc.textContent).toContain('theirs');
    channel.connected.set(false);
    expect(await live.putIn()).toBe(false);
    channel.reconnect();
    await settle();
    expect(channel.doc.textContent).not.toContain('mine ');
    expect(await live.putIn()).toBe(true);
    expect(channel.doc.textContent).toContain('mine ');
    expect(live.saved()).toBe('held back: nothing waits');
  });

  it('keeps what was written in a check-out as a stranded draft when that is ended', async () => {
    await live.describe({ title: 'Guide', checkedOut: true, summary });
    type('mine ');
    await settle(700);
    expect(boxes.at(-1)?.standing).toBe('out');
    const said: string[] = [];
    live.said.subscribe((text) => said.push(text));
    await live.describe({ title: 'Guide', checkedOut: false, summary });
    expect(view.state.doc.textContent).toBe('tide');
    expect(taken.length).toBe(1);
    const [from, kept] = taken[0] as [string, Kept];
    expect([kept.standing, kept.message.edits.length, kept.message.base]).toEqual(['ended', 1, 0]);
    expect(kept.client).not.toBe(from);
    expect(said[0]).toContain('stranded draft');
  });

  it('strands once and whole what is refused, or written, while it is being laid aside', async () => {
    await live.describe({ title: 'Guide', checkedOut: true, summary });
    type('mine ');
    await settle(700);
    const said: string[] = [];
    live.said.subscribe((text) => said.push(text));
    channel.refuse = new Refused(423, 'It is written in by one person at a time.');
    laying = 400;
    const ended = live.describe({ title: 'Guide', checkedOut: false, summary });
    await live.describe({ title: 'Guide', checkedOut: false, summary });
    await settle(100);
    type('too ');
    await ended;
    await settle(100);
    expect(view.state.doc.textContent).toBe('tide');
    expect(new Set(taken.map(([, { client }]) => client)).size).toBe(1);
    expect(taken.at(-1)?.[1].message.edits.length).toBe(2);
    expect(said.length).toBe(1);
  });

  it('sends nothing that would break the line, and keeps it as a stranded draft instead', async () => {
    const words: string[] = [];
    live.said.subscribe((text) => words.push(text));
    const before = channel.sends;
    type('x'.repeat(600_000));
    await settle(900);
    expect(channel.sends).toBe(before);
    expect(words.join()).toContain('too much at once');
    expect(words.join()).toContain('stranded draft');
    expect(view.state.doc.textContent).toBe('tide');
    type('ebb ');
    await settle(700);
    expect(channel.sends).toBe(before + 1);
  });

  it('strands what the server does not take because somebody has the document checked out', async () => {
    channel.refuse = new Refused(423, 'Jun Asari has this document checked out.');
    type('late ');
    await settle(700);
    expect(view.state.doc.textContent).toBe('tide');
    expect(taken[0]?.[1].standing).toBe('ended');
    expect(live.trouble()).toBe('');
  });

  it('puts a draft on top of what is being written, as writing of its own', async () => {
    type('> ');
    const edits = [
      {
        counter: 4,
        steps: [Step.fromJSON(textSchema, { stepType: 'replace', from: 5, to: 5, slice: slice(' table') })],
        sources: [],
        writtenAt: 1,
        cause: { kind: 'writing' as const },
      },
    ];
    live.putOnTop(edits, { ...(boxes[0] as Kept), client: 'gone-window' });
    expect(view.state.doc.textContent).toBe('> tide table');
    expect(taken[0]?.[0]).toBe('gone-window');
    await settle(700);
    expect(channel.doc.textContent).toBe('> tide table');
    expect(live.acts.undo('undo')).toBe(true);
  });

  it('keeps the document on the device once all is accepted, and lets go of one that is not shared any more', async () => {
    view.dispatch(view.state.tr.insertText('high ', 1));
    await new Promise((done) => setTimeout(done, 3600));
    expect(copies.at(-1)).toEqual(
      jasmine.objectContaining({
        person: 'ines',
        document: 'guide',
        seq: channel.log.length,
        about: summary,
      }),
    );
    expect(JSON.stringify(copies.at(-1)?.content)).toContain('high tide');
    channel.revoked.next({ document: 'guide' });
    expect([live.trouble(), dropped]).toEqual(['This document is no longer shared with you.', 1]);
  });

  it('keeps the writers of what is copied here and pasted', async () => {
    live.acts.tookHere(1, 5);
    const tr = view.state.tr.insertText('tide', 5);
    view.dispatch(tr.setMeta('uiEvent', 'paste'));
    expect(view.state.doc.textContent).toBe('tidetide');
    expect(boxes.at(-1)?.message.edits[0]?.sources).toEqual([
      { step: 0, at: 0, length: 4, moment: 0, position: 1 },
    ]);
  });
});

function slice(text: string): object {
  return { content: [{ type: 'text', text }] };
}
