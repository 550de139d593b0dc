import { promisify } from 'node:util';
import { deflate, inflateSync } from 'node:zlib';
import type { Kind } from '@oxbow/core/kinds';
import {
  appendEdit,
  applyBlockDelta,
  applySteps,
  blockDelta,
  decodeProvenance,
  encodeProvenance,
  startProvenance,
} from '@oxbow/core/history';
import type { BlockDelta, Provenance, StoredProvenance } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import { Op } from 'sequelize';
import type { Database } from './database.js';
import { Turns } from '../threads/turns.js';
import { Checkpoints } from './checkpoints.js';
import { DocumentCache } from './epochs.js';
import { Log, parseEdit } from './log.js';

const pack = promisify(deflate);

/** Bytes of parsed checkpoints kept at hand. */
const CACHE_BYTES = 96 * 1024 * 1024;
/** Rough bytes of the documents that the last checkpoints are of. */
const NEWEST_BYTES = 64 * 1024 * 1024;
/** Every so many checkpoints one is whole; those between hold what changed since the one before. */
const CHAIN = 6;
/** Checkpoints of one document that may wait to be stored. */
const MOST_WAITING = 8;

/** Opens any moment of any document: the nearest checkpoint before it, and the edits after that. */
export class Moments {
  readonly log: Log;
  private readonly checkpoints: Checkpoints;
  private readonly parsed: DocumentCache<{ doc: Node; bytes: number }>;
  /** The last checkpoint of each document, which the next one is a delta to. */
  private readonly newest: DocumentCache<{ seq: number; whole: number; length: number; doc: Node }>;

  private readonly keeping = new Turns();
  /** How many checkpoints of each document wait to be stored. */
  private readonly waiting = new Map<number, number>();

  constructor(private readonly database: Database) {
    this.log = new Log(database);
    this.checkpoints = new Checkpoints(database);
    this.parsed = new DocumentCache(database.epochs, { maxSize: CACHE_BYTES, weight: ({ bytes }) => bytes });
    this.newest = new DocumentCache(database.epochs, {
      maxSize: NEWEST_BYTES,
      weight: ({ doc }) => doc.content.size * 8 + 1,
    });
  }

  /** The document right after edit `seq`; 0 is the blank beginning. */
  async open(document: number, seq: number): Promise<Node> {
    const [checkpoint, kind] = await Promise.all([
      this.checkpoints.before(document, seq),
      this.kindOf(document),
    ]);
    const [start, edits] = await Promise.all([
      checkpoint ? this.read(document, kind, checkpoint.whole, checkpoint.seq) : kind.blank(),
      this.log.steps(document, checkpoint?.seq ?? 0, seq),
    ]);
    return edits.reduce((doc, steps) => applySteps(doc, steps), start);
  }

  /** Of which kind a document is. */
  kindOf(document: number): Promise<Kind> {
    return this.log.kinds.of(document);
  }

  /** A checkpoint's document: the whole one it rests on, and the deltas up to it. */
  private async read(document: number, kind: Kind, whole: number, seq: number): Promise<Node> {
    const entry = this.parsed.entry(document, seq);
    if (entry.value) return entry.value.doc;
    let doc = kind.blank();
    let bytes = 0;
    for (const data of await this.checkpoints.chain(document, whole, seq)) {
      const json = inflateSync(data).toString('utf8');
      bytes += json.length;
      doc = applyBlockDelta(doc, JSON.parse(json) as BlockDelta);
    }
    entry.set({ doc, bytes: bytes * 4 + 1 });
    return doc;
  }

  /** Deletes the checkpoints of a document from an edit on, whose content is being changed; they are only kept to spare work. */
  async dropFrom(document: number, seq: number): Promise<void> {
    this.database.epochs.raise(document);
    await this.checkpoints.dropFrom(document, seq);
  }

  /**
   * Stores a checkpoint of `doc` at `seq`: what changed since the one before, or now and then all of it. Those of one document
   * are stored in order; when storing is far behind, one is left out, and moments after it cost more to open.
   */
  async keep(document: number, seq: number, doc: Node): Promise<void> {
    const epoch = this.database.epochs.of(document);
    const waiting = this.waiting.get(document) ?? 0;
    if (waiting === MOST_WAITING) return;
    this.waiting.set(document, waiting + 1);
    try {
      await this.keeping.take(document, () => this.keepNow(document, seq, doc, epoch));
    } finally {
      const left = (this.waiting.get(document) ?? 1) - 1;
      if (left > 0) this.waiting.set(document, left);
      else this.waiting.delete(document);
    }
  }

  private async keepNow(document: number, seq: number, doc: Node, epoch: number): Promise<void> {
    if (this.database.epochs.of(document) !== epoch) return;
    const newest = this.newest.entry(document);
    const last = newest.value;
    const chained = last !== undefined && last.length < CHAIN && last.seq < seq;
    const delta = blockDelta(chained ? last.doc : (await this.kindOf(document)).blank(), doc);
    const whole = chained ? last.whole : seq;
    const data = await pack(JSON.stringify(delta));
    await this.checkpoints.keep({ document, seq, whole, data }, epoch);
    newest.set({ seq, whole, length: chained ? last.length + 1 : 1, doc });
  }

  /** Present document and provenance at edit `seq`, from the last stored provenance on. */
  async load(document: number, seq: number): Promise<{ doc: Node; provenance: Provenance }> {
    const row = await this.database.models.provenance.findOne({
      where: { document, seq: { [Op.lte]: seq } },
      raw: true,
    });
    const kind = await this.kindOf(document);
    let doc = row ? await this.open(document, row.seq) : kind.blank();
    const provenance = row ? unpack(kind, row.runs, row.forms) : startProvenance(0, doc);
    for (const edit of await this.log.between(document, row?.seq ?? 0, seq)) {
      doc = appendEdit(provenance, doc, parseEdit(kind.schema, edit, String));
    }
    return { doc, provenance };
  }

  /** Stores the provenance up to its last edit, in place of the one stored before, where that is older or is to be replaced. */
  async keepProvenance(document: number, provenance: Provenance, replacing = false): Promise<void> {
    const epoch = this.database.epochs.of(document);
    const { runs, ...rest } = encodeProvenance(provenance);
    const seq = provenance.runs.seq;
    const row = {
      document,
      seq,
      runs: await pack(Buffer.from(runs.buffer)),
      forms: await pack(JSON.stringify(rest)),
    };
    await this.database.writes.add(async (transaction) => {
      const held = await this.database.models.provenance.findByPk(document, {
        attributes: ['seq'],
        raw: true,
        transaction,
      });
      if (this.database.epochs.of(document) !== epoch) return;
      if (!held || held.seq < seq || replacing)
        await this.database.models.provenance.upsert(row, { transaction });
    });
  }
}

function unpack({ schema }: Kind, runs: Buffer, forms: Buffer): Provenance {
  const bytes = new Uint8Array(inflateSync(runs));
  const rest = JSON.parse(inflateSync(forms).toString('utf8')) as Omit<StoredProvenance, 'runs'>;
  const stored = { runs: new Int32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4), ...rest };
  return decodeProvenance(schema, stored);
}
