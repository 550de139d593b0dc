import type { Accepted, EditsMessage, Joined, WireEdit } from '@oxbow/contract';
import { textSchema } from '@oxbow/core/kinds/text';
import { Writer } from '@oxbow/core/history';
import type { AcceptedEdit, OwnCause, PendingEdit, SentEdit } from '@oxbow/core/history';
import { nanoid } from 'nanoid';
import { Node } from 'prosemirror-model';
import { Step, Transform } from 'prosemirror-transform';
import type { Caller, Client } from './server.js';
import { send } from './server.js';

/** A window of one person on one document, as the app's: it writes, sends, hears, crashes and is opened again. */
export class Window {
  private socket: Client | null = null;
  private writer: Writer;
  /** What an editor would show. */
  view: Node;

  private constructor(
    private readonly caller: Caller,
    private readonly document: string,
    private client: string,
    seq: number,
    doc: Node,
  ) {
    this.writer = new Writer(client, doc, seq);
    this.view = doc;
  }

  static async open(caller: Caller, document: string, client: string): Promise<Window> {
    const socket = await caller.live();
    const joined = await send<Joined>(socket, 'join', { document });
    if (!joined.ok) throw new Error(joined.problem.title);
    const doc = Node.fromJSON(textSchema, joined.value.content);
    const window = new Window(caller, document, client, joined.value.seq, doc);
    window.socket = socket;
    return window;
  }

  get seq(): number {
    return this.writer.confirmed;
  }

  get waits(): boolean {
    return this.writer.waiting.length > 0;
  }

  /** Does something to the page, with the server or without. */
  act(
    steps: readonly Step[],
    cause: OwnCause = { kind: 'writing' },
    sources: PendingEdit['sources'] = [],
  ): void {
    const tr = new Transform(this.view);
    for (const step of steps) tr.step(step);
    this.writer.write(this.view, steps, Date.now(), { cause, sources });
    this.view = tr.doc;
  }

  undo(which: 'undo' | 'redo'): void {
    const undo = this.writer[which](this.view);
    if (undo.kind === 'steps') this.act(undo.steps, { kind: which, of: undo.of }, undo.sources);
  }

  /** Takes in what was accepted meanwhile, then sends what waits. Answers why it was turned away, or null. */
  async sync(): Promise<number | null> {
    await this.hear();
    for (let out = this.writer.outgoing(); out; out = this.writer.outgoing()) {
      this.socket ??= await this.caller.live();
      const message = { document: this.document, client: this.client, ...out };
      const answer = await send<Accepted>(this.socket, 'edits', wire(message));
      if (!answer.ok) {
        this.writer.reconnected();
        return answer.problem.status;
      }
      await this.hear();
      const gone = answer.value.results.filter(({ seq }) => seq === null).map(({ counter }) => counter);
      this.take((tr) => this.writer.refused(gone, tr));
    }
    return null;
  }

  /** Takes back what waits. */
  drop(): void {
    const all = this.writer.waiting.map(({ counter }) => counter);
    this.take((tr) => this.writer.refused(all, tr));
  }

  /**
   * Sends what waits and is gone before the answer comes; opened again, it goes on under its name with what it had kept, or,
   * when that is nothing, as a new one.
   */
  async crash(): Promise<void> {
    const out = this.writer.outgoing();
    const kept = this.writer.unsent();
    if (out) {
      const socket = this.socket ?? (await this.caller.live());
      await send(socket, 'edits', wire({ document: this.document, client: this.client, ...out }));
    }
    this.socket?.disconnect();
    this.socket = null;
    const moment = await this.caller.get(`/api/documents/${this.document}/versions/@${kept.base}`);
    if (kept.edits.length === 0) this.client = `window-${nanoid(12)}`;
    this.writer = new Writer(this.client, Node.fromJSON(textSchema, moment.body.content), kept.base);
    this.view = this.writer.resume(kept.edits);
    await this.hear();
  }

  close(): void {
    this.socket?.disconnect();
  }

  private async hear(): Promise<void> {
    const { body } = await this.caller.get(
      `/api/documents/${this.document}/edits?after=${this.writer.confirmed}&upTo=${2 ** 30}`,
    );
    this.take((tr) => this.writer.receive((body as WireEdit[]).map(accepted), tr));
  }

  private take(act: (tr: Transform) => void): void {
    const tr = new Transform(this.view);
    act(tr);
    this.view = tr.doc;
  }
}

function wire(message: {
  document: string;
  client: string;
  base: number;
  edits: readonly SentEdit[];
}): EditsMessage {
  return JSON.parse(JSON.stringify(message)) as EditsMessage;
}

function accepted(edit: WireEdit): AcceptedEdit {
  return { ...edit, steps: edit.steps.map((step) => Step.fromJSON(textSchema, step)) };
}
