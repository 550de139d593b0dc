import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Accepted, EditsMessage, Joined, WireEdit } from '@oxbow/contract';
import { textSchema } from '@oxbow/core/content';
import { orderBatch, readSteps } from '@oxbow/core/history';
import { provideStore, provideState } from '@ngrx/store';
import type { Node } from 'prosemirror-model';
import { EditorView } from 'prosemirror-view';
import { Subject } from 'rxjs';
import { LiveChannel, Refused } from '../live/channel';
import { Outbox } from '../live/outbox';
import { session } from '../session/session.store';
import { LiveDocument } from './live-document';

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
  presence(): void {}
  async join(_document: string, since?: number): Promise<Joined> {
    const edits = since === undefined ? [] : this.log.filter((edit) => edit.seq > since);
    return {
      seq: this.log.length,
      content: this.doc.toJSON() as unknown,
      edits,
      title: 'Guide',
      role: 'editor',
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
      .flatMap((one) => readSteps(textSchema, [...one.steps]));
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

  beforeEach(async () => {
    channel = new FakeChannel();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideStore(),
        provideState(session),
        LiveDocument,
        { provide: LiveChannel, useValue: channel },
        {
          provide: Outbox,
          useValue: {
            stranded: async () => [],
            claim: () => () => undefined,
            keep: async () => undefined,
            clear: async () => undefined,
          },
        },
      ],
    });
    live = TestBed.inject(LiveDocument);
    live.open('guide', []);
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
    live.attach(view);
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
    expect(live.undo('undo')).toBe(true);
    expect(view.state.doc.textContent).toBe('theirs tide');
    expect(live.undo('redo')).toBe(true);
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
});
