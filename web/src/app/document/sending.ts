import { computed, signal } from '@angular/core';
import { BUDGETS } from '@oxbow/contract';
import type { Accepted, EditsMessage } from '@oxbow/contract';
import type { LiveChannel } from '../live/channel';
import { Refused } from '../live/channel';
import type { LivePage } from './live-page';
import { messageOf } from './live-page';

type Results = Accepted['results'];

/** What sending asks of the document it sends for. */
export interface SendsFor {
  /** Under which document and window edits go out. */
  address(): { document: string; client: string };
  /** Whether anything may go out now: the document is there, and described. */
  ready(): boolean;
  /** Whether what is written stays on the device until it is put in. */
  holding(): boolean;
  /** The server has answered for each edit of a message. */
  answered(results: Results): void;
  /** The server did not take a message. */
  turnedAway(error: Refused): Promise<void>;
  /** The line broke in the middle of a message; what the server has of it is asked. */
  lost(): void;
}

/** A message, if the line takes it: it would break at a larger one, each time anew. Throws `Refused`, as the server would. */
function fitting(message: EditsMessage): EditsMessage {
  if (new Blob([JSON.stringify(message)]).size <= BUDGETS.messageBytes) return message;
  throw new Refused(413, $localize`That is too much at once. Bring a large text in as a file.`);
}

/** Sends what waits on a page, a message at a time. */
export class Sending {
  private timer: ReturnType<typeof setTimeout> | null = null;
  private busy = false;
  private readonly let = signal(false);
  private readonly state = signal<{ sending: boolean; at: number | null }>({ sending: false, at: null });

  /** Whether a message is on its way, and when the last one was kept (milliseconds since the epoch). */
  readonly saving = this.state.asReadonly();
  /** Whether what is held back goes out all the same. */
  readonly letting = computed(() => this.let());

  constructor(
    private readonly channel: LiveChannel,
    private readonly page: LivePage,
    private readonly document: SendsFor,
  ) {}

  /** Sends what waits after some milliseconds; a call in between changes that only when it asks for at once. */
  soon(delay: number): void {
    if (this.timer !== null && delay > 0) return;
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.flush();
    }, delay);
  }

  /** After the line was there anew: what was on its way is sent again. */
  again(): void {
    this.busy = false;
    this.soon(0);
  }

  /** What is held back stays held back from here on. */
  rest(): void {
    this.let.set(false);
  }

  /** Puts in what is held back, up to now and while that lasts. Answers whether all of it is accepted. */
  async putIn(ended: () => boolean): Promise<boolean> {
    const { writer } = this.page;
    if (!writer || writer.waiting.length === 0) return true;
    this.let.set(true);
    this.soon(0);
    await new Promise<void>((done) => {
      const look = (): void => {
        if (!this.let() || ended() || !this.channel.connected()) done();
        else setTimeout(look, 40);
      };
      look();
    });
    this.let.set(false);
    return writer.waiting.length === 0;
  }

  private async flush(): Promise<void> {
    if (this.busy || !this.channel.connected() || !this.document.ready()) return;
    if (this.document.holding() && !this.let()) return;
    const { writer } = this.page;
    const out = writer?.outgoing((edit) => JSON.stringify(edit.steps).length, BUDGETS.messageBytes / 2);
    if (!out || !writer) return;
    this.busy = true;
    this.state.update(({ at }) => ({ sending: true, at }));
    try {
      const { results } = await this.channel.send(fitting(this.message(out)));
      this.document.answered(results);
      this.state.set({ sending: false, at: Date.now() });
      this.busy = false;
      if (writer.waiting.length > 0) this.soon(0);
      else this.rest();
    } catch (error) {
      this.busy = false;
      if (error instanceof Refused) await this.document.turnedAway(error);
      else if (this.channel.connected()) this.document.lost();
    }
  }

  private message(out: Parameters<typeof messageOf>[2]): EditsMessage {
    const { document, client } = this.document.address();
    return messageOf(document, client, out);
  }
}
