import { Injectable, inject } from '@angular/core';
import type { DocumentSummary } from '@oxbow/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import { LiveChannel } from './channel';
import type { Kept } from './kept';
import { Outbox } from './outbox';

/** Unsent work of a window that closed this long ago goes on by itself; older work is asked about. */
const FRESH = 10 * 60_000;

/** Work that did not reach the server: found again, looked at, put on top, set apart or discarded. */
@Injectable({ providedIn: 'root' })
export class Drafts {
  private readonly api = inject(Api);
  private readonly channel = inject(LiveChannel);
  private readonly outbox = inject(Outbox);

  /** What a person left behind, in one document or in all, latest first. */
  list(person: string, document?: string): Promise<Kept[]> {
    return this.outbox.stranded(person, document);
  }

  /** A draft that a window opening a document goes on with by itself: what is held back, or was just about to be sent. */
  async own(
    person: string,
    document: string,
    holding: boolean,
  ): Promise<{ kept: Kept; release: () => void } | null> {
    for (const kept of await this.list(person, document)) {
      const { standing } = kept;
      const fresh = (standing === 'sending' || standing === 'away') && Date.now() - kept.at < FRESH;
      const goesOn = standing === 'out' || fresh || (standing === 'held' && holding);
      if (!goesOn) continue;
      const release = await this.outbox.claim(kept.client);
      if (release) return { kept, release };
    }
    return null;
  }

  /** Makes a document of its own of a draft, as it was written, and drops the draft. */
  async aside(kept: Kept, title: string): Promise<DocumentSummary> {
    const { document, base } = kept.message;
    const made = await firstValueFrom(this.api.copyMoment(document, base, title, null));
    const edits = kept.message.edits.map((edit) => ({ ...edit, sources: [] }));
    await this.channel.send({ document: made.id, client: kept.client, base: made.seq, edits });
    await this.outbox.clear(kept.client);
    return made;
  }

  discard(kept: Kept): Promise<void> {
    return this.outbox.clear(kept.client);
  }

  /** Keeps a discarded draft again. */
  bringBack(kept: Kept): Promise<void> {
    return this.outbox.keep(kept);
  }
}

/** A node of ProseMirror JSON, or a step of it, as far as its text is looked for. */
interface Told {
  readonly type?: string;
  readonly text?: string;
  readonly content?: readonly Told[];
}

/** What a draft brings, as text, and how many letters and boundaries it takes out. */
export function wordsOf({ message }: Pick<Kept, 'message'>): { brings: string; removes: number } {
  let [brings, removes] = ['', 0];
  for (const { steps } of message.edits)
    for (const step of steps as readonly { stepType: string; from?: number; to?: number; slice?: Told }[]) {
      if (step.stepType === 'replace') removes += (step.to ?? 0) - (step.from ?? 0);
      const { content = [] } = step.slice ?? {};
      const text = content.map(textOf).join('');
      if (text && brings && content[0]?.text === undefined) brings += '\n';
      brings += text.replace(/\n$/, '');
    }
  return { brings, removes };
}

/** The text of a node; each that has others in it is a line of its own. */
function textOf({ text, content }: Told): string {
  if (text !== undefined) return text;
  const inside = (content ?? []).map(textOf).join('');
  return content === undefined || inside.endsWith('\n') ? inside : `${inside}\n`;
}
