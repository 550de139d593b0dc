import type { WireEdit } from '@oxbow/contract';
import { documentOf, kindNamed } from '@oxbow/core/kinds';
import { Writer } from '@oxbow/core/history';
import type { AcceptedEdit, SentEdit } from '@oxbow/core/history';
import type { Node, Schema } from 'prosemirror-model';
import { Step, Transform } from 'prosemirror-transform';
import { firstValueFrom } from 'rxjs';
import type { Api } from '../api/api';
import type { Kept } from './kept';

/** Edits the server gives at once. */
const PAGE = 2000;

/** A draft carried over what was accepted since it was written. */
export interface Rebased {
  /** The document as it is, at edit `seq`, and as it would be with the draft put on top. */
  readonly seq: number;
  readonly now: Node;
  readonly drafted: Node;
  readonly edits: readonly SentEdit[];
}

/** Carries a draft over what was accepted since, up to edit `head`. */
export async function rebased(api: Api, kept: Kept, head: number): Promise<Rebased> {
  const { message } = kept;
  const { document, base } = message;
  const moment = await firstValueFrom(api.moment(document, base));
  const writer = new Writer(message.client, documentOf(moment.content), base);
  const tr = new Transform(writer.resume(editsOf(kept)));
  for (let after = base; after < head; after = writer.confirmed) {
    const edits = await firstValueFrom(api.edits(document, after, Math.min(head, after + PAGE)));
    writer.receive(
      edits.map((edit) => acceptedOf(edit, tr.doc.type.schema)),
      tr,
    );
  }
  const now = await firstValueFrom(api.moment(document, writer.confirmed));
  return {
    seq: writer.confirmed,
    now: documentOf(now.content),
    drafted: tr.doc,
    edits: writer.unsent().edits,
  };
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
