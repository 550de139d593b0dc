import type { Joined, WireEdit } from '@oxbow/contract';
import { documentOf } from '@oxbow/core/kinds';
import { Writer } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { firstValueFrom } from 'rxjs';
import type { Api } from '../api/api';
import type { LiveChannel } from '../live/channel';
import type { Drafts } from '../live/drafts';
import { acceptedOf, editsOf } from '../live/rebasing';
import type { Copies } from '../live/copies';
import type { Copy } from '../live/device';
import type { Heeding } from '../live/heeding';
import type { Kept } from '../live/kept';
import { before, recallActs } from './undo-memory';

/** With more edits since, a window does not go on with what an earlier one left. */
const MUCH = 20_000;

/** Where a window stands once it has a document. */
export interface Begun {
  readonly writer: Writer;
  /** What the page shows: the document, with unsent edits of an earlier window on top. */
  readonly view: Node;
  readonly joined: Joined;
  /** The draft that was taken up, and how to give it free; null when there is none. */
  readonly draft: { readonly kept: Kept; readonly release: () => void } | null;
}

/** What a window needs for beginning. */
export interface Means {
  readonly api: Api;
  readonly channel: LiveChannel;
  readonly drafts: Drafts;
  readonly heeding: Heeding;
  readonly person: string;
  readonly document: string;
  readonly client: string;
  readonly holding: boolean;
}

/**
 * Joins a document. Unsent edits of a window that is gone are taken up under its name, so that what did arrive is not
 * doubled; and what this tab could undo before it was loaded anew it can undo again.
 */
export async function begin(means: Means): Promise<Begun> {
  const { api, channel, drafts, heeding, person, document, client, holding } = means;
  const draft = person ? await drafts.own(person, document, holding) : null;
  const acts = recallActs(person, document);
  const bases = [...(draft ? [draft.kept.message.base] : []), ...(acts ? [before(acts)] : [])];
  if (bases.length === 0) return fresh(client, await channel.join(document));
  const base = Math.max(0, Math.min(...bases));
  try {
    const [joined, moment] = await Promise.all([
      channel.join(document, base),
      firstValueFrom(api.moment(document, base)),
    ]);
    if (joined.seq - base > MUCH) throw new RangeError('too much has been written since');
    const start = documentOf(moment.content);
    const writer = new Writer(draft?.kept.client ?? client, start, base);
    const kept = draft && (await heeding.heeded(draft.kept, joined.erased));
    const view = takenUp(writer, start, joined, kept);
    if (acts) writer.recall(acts);
    return { writer, view, joined, draft: draft && kept && { ...draft, kept } };
  } catch (error) {
    draft?.release();
    if (!(error instanceof RangeError)) throw error;
    return fresh(client, await channel.join(document));
  }
}

/** Begins from what is on the device, without the server; null where there is nothing, or unsent edits that do not fit on it. */
export async function beginAway(
  means: Pick<Means, 'drafts' | 'person' | 'document' | 'client' | 'holding'> & { readonly copies: Copies },
): Promise<(Pick<Begun, 'writer' | 'view' | 'draft'> & { readonly copy: Copy }) | null> {
  const { drafts, person, document, client, holding, copies } = means;
  const copy = await copies.of(person, document);
  if (!copy) return null;
  const start = documentOf(copy.content);
  const found = await drafts.own(person, document, holding);
  const draft = found?.kept.message.base === copy.seq ? found : null;
  if (!draft) found?.release();
  const writer = new Writer(draft?.kept.client ?? client, start, copy.seq);
  const view = draft ? writer.resume(editsOf(draft.kept)) : start;
  return { writer, view, draft, copy };
}

function fresh(client: string, joined: Joined): Begun {
  const view = documentOf(joined.content);
  return { writer: new Writer(client, view, joined.seq), view, joined, draft: null };
}

/** The page after what was accepted since, with a draft's edits put where they were made and carried along. */
function takenUp(writer: Writer, start: Node, { edits }: Joined, draft: Kept | null): Node {
  const split = draft ? edits.findIndex(({ seq }) => seq > draft.message.base) : -1;
  const [first, rest] = split < 0 ? [edits, []] : [edits.slice(0, split), edits.slice(split)];
  const accepted = (edit: WireEdit) => acceptedOf(edit, start.type.schema);
  const tr = new Transform(start);
  writer.receive(first.map(accepted), tr);
  if (!draft) return tr.doc;
  const onward = new Transform(writer.resume(editsOf(draft)));
  writer.receive(rest.map(accepted), onward);
  return onward.doc;
}
