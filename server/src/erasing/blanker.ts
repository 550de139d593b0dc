import { setTimeout as pause } from 'node:timers/promises';
import { Blanking, Instances, byCopies, sharing } from '@oxbow/core/erasing';
import type { CopiedRange } from '@oxbow/core/erasing';
import { REPLAY_BUDGET, provenanceAt, replayCost } from '@oxbow/core/history';
import type { Seals } from '../archive/seals.js';
import type { Head, Room } from '../ordering/room.js';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import { parseEdit } from '../store/log.js';
import type { StoredEdit } from '../store/log.js';
import { Slices } from '../threads/slices.js';

/** Edits read at a time, and changed in one transaction, which others' writing waits for. */
const [PAGE, PORTION] = [250, 10];

type CopiesBehind = (edit: number) => Promise<readonly CopiedRange[]>;

/** An edit as it is stored after erasing. */
interface Changed {
  readonly seq: number;
  readonly steps: string;
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/**
 * Erases instances of a document where they were made: in its log, and in what is kept of it to spare work. Begun again after a fall it
 * comes to the same. Writing goes on meanwhile; only the last of it is done while nobody's edit is ordered.
 */
export class Blanker {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
    private readonly seals: Seals,
  ) {}

  /**
   * Erases a set, with what came back of it meanwhile: `copies` gives copies that do not keep their credit; null where nothing but the set
   * is erased. Answers all that was erased.
   */
  async blank(document: number, set: Instances, copies: CopiesBehind | null): Promise<Instances> {
    const room = await this.rooms.get(document);
    const head = await room.storedHead();
    const first = Math.max(1, set.seqs.find((seq) => seq > 0) ?? head.seq + 1);
    await this.rooms.moments.dropFrom(document, first);
    const doc = await this.rooms.moments.open(document, first - 1);
    const blanking = new Blanking(set, doc, provenanceAt(head.provenance, first - 1));
    await this.through(document, blanking, first - 1, head.seq);
    await this.rooms.moments.keepProvenance(document, blanking.provenance, true);
    return this.finish(room, set, blanking, head.seq, copies);
  }

  /** Erases what came since, while nobody's edit is ordered, and has the room and everything else read anew. */
  private async finish(
    room: Room,
    set: Instances,
    blanking: Blanking,
    upTo: number,
    copies: CopiesBehind | null,
  ): Promise<Instances> {
    const { document } = room;
    let all = set;
    await room.renew(async (head: Head) => {
      if (copies) all = sharing(head.provenance.runs, byCopies(set, await copies(upTo)));
      const rest = new Blanking(all, blanking.doc, blanking.provenance);
      await this.through(document, rest, upTo, head.seq);
      await this.rooms.moments.keepProvenance(document, rest.provenance, true);
      await this.rooms.moments.dropFrom(document, upTo + 1);
    });
    return all;
  }

  /** Goes through edits, stores those that are others now, and checkpoints on the way. */
  private async through(document: number, blanking: Blanking, after: number, upTo: number): Promise<void> {
    let cost = 0;
    for (let from = after; from < upTo; from += PAGE) {
      const changed: Changed[] = [];
      let due = 0;
      const rows = await this.rooms.moments.log.between(document, from, Math.min(from + PAGE, upTo));
      const slices = new Slices(false);
      for (const row of rows) {
        const edit = parseEdit(blanking.doc.type.schema, row, String);
        for (const step of edit.steps) cost += replayCost(blanking.doc, step);
        const blanked = await slices.through(blanking.take(edit));
        const isOther =
          blanked.changed || blanked.wordsIn !== row.wordsIn || blanked.wordsOut !== row.wordsOut;
        if (isOther) changed.push(changedOf(row, blanked));
        if (cost > REPLAY_BUDGET) [cost, due] = [0, row.seq];
        if (due === row.seq) await this.rooms.moments.keep(document, due, blanking.doc);
      }
      await this.store(document, changed);
    }
  }

  /** What was sealed of an edit no longer holds when it is changed: its salt goes with what it was. */
  private async store(document: number, changed: readonly Changed[]): Promise<void> {
    for (let i = 0; i < changed.length; i += PORTION) {
      const portion = changed.slice(i, i + PORTION);
      const begun = performance.now();
      const seqs = portion.map(({ seq }) => seq);
      await this.seals.opening(document, seqs, async (transaction) => {
        for (const { seq, ...fields } of portion)
          await this.database.models.edits.update(fields, { where: { document, seq }, transaction });
      });
      // Half of the time in which the database writes is others'.
      await pause(performance.now() - begun);
    }
    if (changed.length > 0) this.database.epochs.raise(document);
  }
}

function changedOf(
  row: StoredEdit,
  blanked: { steps: readonly { toJSON(): unknown }[]; changed: boolean; wordsIn: number; wordsOut: number },
): Changed {
  const { steps, changed, wordsIn, wordsOut } = blanked;
  return {
    seq: row.seq,
    steps: changed ? JSON.stringify(steps.map((step) => step.toJSON())) : row.steps,
    wordsIn,
    wordsOut,
  };
}
