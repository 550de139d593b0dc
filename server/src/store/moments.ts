import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { deflate, inflateSync } from 'node:zlib';
import { blankDocument, textSchema } from '@oxbow/core/content';
import { applySteps, blockGroups, decodeProvenance, encodeProvenance, startProvenance, appendEdit } from '@oxbow/core/history';
import type { Provenance, StoredProvenance } from '@oxbow/core/history';
import { LRUCache } from 'lru-cache';
import { Fragment, Node } from 'prosemirror-model';
import { Op } from 'sequelize';
import type { Database } from './database.js';
import { Log, parseEdit, parseSteps } from './log.js';

const pack = promisify(deflate);

/** Bytes of parsed blocks kept at hand. */
const CACHE_BYTES = 64 * 1024 * 1024;

/** Opens any moment of any document: the nearest checkpoint before it, and the edits after that. */
export class Moments {
  readonly log: Log;
  private readonly groups = new LRUCache<number, { nodes: Node[]; bytes: number }>({
    maxSize: CACHE_BYTES,
    sizeCalculation: (group) => group.bytes,
  });

  constructor(private readonly database: Database) {
    this.log = new Log(database);
  }

  /** The document right after edit `seq`; 0 is the blank beginning. */
  async open(document: number, seq: number): Promise<Node> {
    const checkpoint = await this.database.models.checkpoints.findOne({
      where: { document, seq: { [Op.lte]: seq } },
      order: [['seq', 'DESC']],
      raw: true,
    });
    const start = checkpoint ? await this.read(checkpoint.groups) : blankDocument();
    const edits = await this.log.between(document, checkpoint?.seq ?? 0, seq);
    return edits.reduce((doc, edit) => applySteps(doc, parseSteps(edit.steps)), start);
  }

  private async read(packed: Buffer): Promise<Node> {
    const keys = [...new Int32Array(new Uint8Array(packed).buffer)];
    const missing = [...new Set(keys.filter((key) => !this.groups.has(key)))];
    if (missing.length > 0) {
      const rows = await this.database.models.groups.findAll({ where: { key: missing }, attributes: ['key', 'data'], raw: true });
      for (const row of rows) {
        const json = inflateSync(row.data).toString('utf8');
        const nodes = (JSON.parse(json) as unknown[]).map((block) => Node.fromJSON(textSchema, block));
        this.groups.set(row.key, { nodes, bytes: json.length * 4 });
      }
    }
    const blocks = keys.flatMap((key) => this.groups.get(key)?.nodes ?? []);
    return textSchema.node('doc', null, Fragment.fromArray(blocks));
  }

  /** Stores a checkpoint of `doc` at `seq`. Blocks that an earlier checkpoint holds are not stored again. */
  async keep(document: number, seq: number, doc: Node): Promise<void> {
    const groups = await Promise.all(
      blockGroups(doc).map(async (nodes) => {
        const json = JSON.stringify(nodes.map((node) => node.toJSON() as unknown));
        return { document, hash: createHash('sha256').update(json).digest('hex').slice(0, 32), json, data: Buffer.alloc(0) };
      }),
    );
    const { groups: table, checkpoints } = this.database.models;
    const held = await table.findAll({ where: { document, hash: groups.map((group) => group.hash) }, attributes: ['key', 'hash'], raw: true });
    const known = new Set(held.map((row) => row.hash));
    const fresh = [...new Map(groups.filter((group) => !known.has(group.hash)).map((group) => [group.hash, group])).values()];
    const rows = await Promise.all(fresh.map(async ({ hash, json }) => ({ document, hash, data: await pack(json) })));
    await this.database.writes.add(async (transaction) => {
      await table.bulkCreate(rows, { transaction, ignoreDuplicates: true });
      const stored = await table.findAll({ where: { document, hash: groups.map((group) => group.hash) }, attributes: ['key', 'hash'], raw: true, transaction });
      const keys = new Map(stored.map((row) => [row.hash, row.key]));
      const list = Int32Array.from(groups, (group) => keys.get(group.hash) as number);
      await checkpoints.upsert({ document, seq, groups: Buffer.from(list.buffer) }, { transaction });
    });
  }

  /** Present document and provenance at edit `seq`, from the last stored provenance on. */
  async load(document: number, seq: number): Promise<{ doc: Node; provenance: Provenance }> {
    const row = await this.database.models.provenance.findOne({ where: { document, seq: { [Op.lte]: seq } }, raw: true });
    let doc = row ? await this.open(document, row.seq) : blankDocument();
    const provenance = row ? unpack(row.runs, row.forms) : startProvenance(0, doc);
    for (const edit of await this.log.between(document, row?.seq ?? 0, seq)) {
      doc = appendEdit(provenance, doc, parseEdit(edit, String));
    }
    return { doc, provenance };
  }

  /** Stores the provenance up to its last edit, in place of the one stored before. */
  async keepProvenance(document: number, provenance: Provenance): Promise<void> {
    const { runs, forms } = encodeProvenance(provenance);
    const seq = provenance.runs.seq;
    const row = { document, seq, runs: await pack(Buffer.from(runs.buffer)), forms: await pack(JSON.stringify(forms)) };
    await this.database.writes.add(async (transaction) => {
      const held = await this.database.models.provenance.findByPk(document, { attributes: ['seq'], raw: true, transaction });
      if (!held || held.seq < seq) await this.database.models.provenance.upsert(row, { transaction });
    });
  }
}

function unpack(runs: Buffer, forms: Buffer): Provenance {
  const bytes = new Uint8Array(inflateSync(runs));
  const stored: StoredProvenance = {
    runs: new Int32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4),
    forms: JSON.parse(inflateSync(forms).toString('utf8')) as StoredProvenance['forms'],
  };
  return decodeProvenance(textSchema, stored);
}
