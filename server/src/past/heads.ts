import type { Provenance } from '@oxbow/core/history';
import { appendEdit } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Database } from '../store/database.js';
import { DocumentCache } from '../store/epochs.js';
import { parseEdit } from '../store/log.js';
import type { Moments } from '../store/moments.js';
import { Slices } from '../threads/slices.js';
import { Turns } from '../threads/turns.js';

/** Bytes that present documents may take here before the longest unused is let go. */
const MOST = 192 * 1024 * 1024;

/** A document as it is stored now, with where everything in it came from. */
export interface StoredHead {
  readonly doc: Node;
  readonly seq: number;
  readonly provenance: Provenance;
}

/** Present documents for a thread that only reads: each is read once, and follows the log from then on. */
export class Heads {
  private readonly held: DocumentCache<StoredHead>;
  private readonly turns = new Turns();

  constructor(
    private readonly database: Database,
    private readonly moments: Moments,
  ) {
    this.held = new DocumentCache(database.epochs, {
      maxSize: MOST,
      weight: ({ doc, provenance }) => doc.content.size * 8 + provenance.runs.size * 24 + 4096,
    });
  }

  of(document: number): Promise<StoredHead> {
    return this.turns.take(document, async () => {
      const entry = this.held.entry(document);
      const [row] = await this.database.rows<{ seq: number }>(
        'SELECT seq FROM documents WHERE key = :document',
        { document },
      );
      const seq = row?.seq ?? 0;
      const held = entry.value;
      // Following changes what is held: what fails half-way is read anew the next time.
      this.held.delete(document);
      const head = held ? await this.followed(document, held, seq) : await this.read(document, seq);
      entry.set(head);
      return head;
    });
  }

  private async read(document: number, seq: number): Promise<StoredHead> {
    return { ...(await this.moments.load(document, seq)), seq };
  }

  private async followed(document: number, held: StoredHead, seq: number): Promise<StoredHead> {
    let { doc } = held;
    const slices = new Slices();
    for (const row of await this.moments.log.between(document, held.seq, seq)) {
      doc = appendEdit(held.provenance, doc, parseEdit(doc.type.schema, row, String));
      await slices.rest();
    }
    return { doc, seq, provenance: held.provenance };
  }
}
