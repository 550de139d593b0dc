import { kindOf } from '@oxbow/core/kinds';
import type { Outbox } from '../live/outbox';
import type { Kept, Standing } from '../live/kept';
import type { LivePage } from './live-page';
import { messageOf } from './live-page';
import { keepActs } from './undo-memory';

/** Whose edits wait, on which document, and how it stands with them. */
export interface WaitsFor {
  readonly document: string;
  /** The window's name. */
  readonly client: string;
  readonly person: string;
  readonly title: string;
  /** How often something had been erased in the document when it was fetched. */
  readonly erased: number;
  readonly standing: Standing;
}

/** A name for a window, under which its edits go out. */
export function windowName(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 12);
}

/** What is not acknowledged yet, as it is kept on the device. */
export class WaitingBox {
  private laying = false;

  constructor(
    private readonly outbox: Outbox,
    private readonly page: LivePage,
    private readonly about: () => WaitsFor,
  ) {}

  /** Keeps all that waits. @throws when the browser keeps nothing. */
  async keep(): Promise<void> {
    const { writer } = this.page;
    const { person, document } = this.about();
    if (!writer || !person) return;
    keepActs(person, document, writer.acts(), writer.confirmed);
    await this.outbox.keep(this.box());
  }

  /** Whether what waits is being laid aside: nothing of it may go out any more. */
  get stranding(): boolean {
    return this.laying;
  }

  /**
   * Lays aside all that waits as a stranded draft, also what is written as long as that takes, and lets it be taken off the page. Answers whether
   * there was any: none for whoever asks while it is being laid aside.
   */
  async strand(drop: () => void): Promise<boolean> {
    const { writer } = this.page;
    if (!writer || writer.waiting.length === 0 || this.laying) return false;
    this.laying = true;
    try {
      const client = windowName();
      let laid;
      do {
        laid = this.page.doc;
        const box = this.box('ended');
        await this.outbox.takeOver(box.client, { ...box, client, message: { ...box.message, client } });
      } while (laid !== this.page.doc);
      drop();
    } finally {
      this.laying = false;
    }
    return true;
  }

  /** Takes the place of a draft whose edits stand on the page now. */
  async takeOver(from: Kept): Promise<void> {
    await this.outbox.takeOver(from.client, this.box());
  }

  private box(standing?: Standing): Kept {
    const { writer, doc } = this.page;
    if (!writer || !doc) throw new Error('Nothing is kept of a document that is not there yet.');
    const { document, client, person, title, erased, standing: now } = this.about();
    const message = messageOf(document, client, writer.unsent());
    const kind = kindOf(doc).name;
    return { client, person, message, standing: standing ?? now, erased, kind, title, at: Date.now() };
  }
}
