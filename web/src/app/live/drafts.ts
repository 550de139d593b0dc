import { Injectable, inject } from '@angular/core';
import type { DocumentSummary, WireEdit } from '@oxbow/contract';
import { documentOf, kindNamed } from '@oxbow/core/kinds';
import { Writer } from '@oxbow/core/history';
import type { AcceptedEdit, SentEdit } from '@oxbow/core/history';
import type { Node, Schema } from 'prosemirror-model';
import { ReplaceAroundStep, ReplaceStep, Step, Transform } from 'prosemirror-transform';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import { LiveChannel } from './channel';
import type { Kept } from './kept';
import { Outbox } from './outbox';

/** Edits the server gives at once. */
const PAGE = 2000;
/** Unsent work of a window that closed this long ago goes on by itself; older work is asked about. */
const FRESH = 10 * 60_000;

/** A draft carried over what was accepted since it was written. */
export interface Rebased {
  /** The document as it is, at edit `seq`, and as it would be with the draft put on top. */
  readonly seq: number;
  readonly now: Node;
  readonly drafted: Node;
  readonly edits: readonly SentEdit[];
}

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

  /** Carries a draft over what was accepted since, up to edit `head`. */
  async rebased(kept: Kept, head: number): Promise<Rebased> {
    const { message } = kept;
    const { document, base } = message;
    const moment = await firstValueFrom(this.api.moment(document, base));
    const writer = new Writer(message.client, documentOf(moment.content), base);
    const tr = new Transform(writer.resume(editsOf(kept)));
    for (let after = base; after < head; after = writer.confirmed) {
      const edits = await firstValueFrom(this.api.edits(document, after, Math.min(head, after + PAGE)));
      writer.receive(
        edits.map((edit) => acceptedOf(edit, tr.doc.type.schema)),
        tr,
      );
    }
    const now = await firstValueFrom(this.api.moment(document, writer.confirmed));
    return {
      seq: writer.confirmed,
      now: documentOf(now.content),
      drafted: tr.doc,
      edits: writer.unsent().edits,
    };
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

/** The edits that are kept, as a writer has them. */
export function editsOf({ kind = 'text', message }: Pick<Kept, 'kind' | 'message'>): SentEdit[] {
  const { schema } = kindNamed(kind);
  return message.edits.map((edit) => ({
    ...edit,
    steps: edit.steps.map((step) => Step.fromJSON(schema, step)),
  }));
}

/** An accepted edit of a document of a schema, as a writer takes it in. */
export function acceptedOf(edit: WireEdit, schema: Schema): AcceptedEdit {
  return { ...edit, steps: edit.steps.map((step) => Step.fromJSON(schema, step)) };
}

/** What a draft brings, as text, and how many letters it takes out. */
export function wordsOf(kept: Pick<Kept, 'kind' | 'message'>): { brings: string; removes: number } {
  let [brings, removes] = ['', 0];
  for (const { steps } of editsOf(kept))
    for (const step of steps) {
      if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) continue;
      const { content } = step.slice;
      if (step instanceof ReplaceStep) removes += step.to - step.from;
      if (content.size > 0 && brings && content.firstChild?.isBlock) brings += '\n';
      brings += content.textBetween(0, content.size, '\n');
    }
  return { brings, removes };
}
