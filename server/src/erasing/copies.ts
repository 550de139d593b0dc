import { isErased, sameContent } from '@oxbow/core/content';
import type { Kind } from '@oxbow/core/kinds';
import { Instances, carried, sharing } from '@oxbow/core/erasing';
import type { CopiedRange } from '@oxbow/core/erasing';
import { mapOfJSON } from '@oxbow/core/history';
import type { InstanceRange, Source } from '@oxbow/core/history';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import { Slices } from '../threads/slices.js';

/** A stretch of a document that is a copy of one of the same or of another document. */
interface Copy extends CopiedRange {
  readonly document: number;
  readonly other: number;
}

/** Sets of instances, by document. */
export type Sets = ReadonlyMap<number, Instances>;

/** Finds what is a copy of what, within documents and from one to another. */
export class Copies {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
  ) {}

  /** Some sets with everything, in any document, that holds the same by origin. */
  async reach(seeds: Sets): Promise<Map<number, Instances>> {
    const copies = await this.all();
    const sets = new Map(seeds);
    for (let open = [...sets.keys()]; open.length > 0;) {
      const next = new Set<number>();
      for (const document of open) {
        const set = sets.get(document) as Instances;
        const { provenance } = await (await this.rooms.get(document)).storedHead();
        const own = copies.filter((copy) => copy.document === document && copy.other === document);
        const whole = sharing(provenance.runs, set, own);
        sets.set(document, whole);
        for (const copy of copies) {
          if (copy.document === copy.other) continue;
          if (copy.document === document) join(sets, next, copy.other, carried(whole, copy.to, copy.from));
          if (copy.other === document) join(sets, next, copy.document, carried(whole, copy.from, copy.to));
        }
      }
      open = [...next];
    }
    return sets;
  }

  /** Copies within a document, made behind an edit, that do not keep their credit. */
  async within(document: number, after: number): Promise<CopiedRange[]> {
    return (await this.all(document, after)).filter(({ other }) => other === document);
  }

  /** All copies that documents do not tell by their provenance: what is quoted without credit, and what is of another document. */
  private async all(document = 0, after = 0): Promise<Copy[]> {
    const rows = await this.database.rows<{
      document: number;
      seq: number;
      steps: string;
      sources: string | null;
      quoted: string | null;
    }>(
      `SELECT document, seq, steps, sources, quoted FROM edits
       WHERE (quoted IS NOT NULL OR sources LIKE '%"of":{%') AND (:document = 0 OR document = :document) AND seq > :after`,
      { document, after },
    );
    const ids = await this.database.rows<{ key: number; id: string }>('SELECT key, id FROM documents', {});
    const keys = new Map(ids.map(({ key, id }) => [id, key]));
    const slices = new Slices(false);
    const out: Copy[] = [];
    for (const row of rows) {
      const starts = startsOf(await this.rooms.moments.kindOf(row.document), row.steps);
      for (const source of JSON.parse(row.quoted ?? row.sources ?? '[]') as Source[]) {
        const other = source.of ? keys.get(source.of.document) : row.document;
        if (other === undefined) continue;
        const { seq, offset, length } = source;
        const to = { seq: row.seq, offset: (starts[source.step] ?? 0) + source.at, length };
        out.push({ document: row.document, other, from: { seq, offset, length }, to });
      }
      await slices.rest();
    }
    return this.holding(out);
  }

  /** Those copies that hold what they are said to be copies of: who may not know all of a document counts its edits otherwise. */
  private async holding(copies: readonly Copy[]): Promise<Copy[]> {
    const out: Copy[] = [];
    const { log } = this.rooms.moments;
    for (const copy of copies) {
      if (copy.document === copy.other) {
        out.push(copy);
        continue;
      }
      const [from, to] = await Promise.all([
        log.tokens(copy.other, [copy.from.seq]),
        log.tokens(copy.document, [copy.to.seq]),
      ]);
      const [one, two] = [
        partOf(from.get(copy.from.seq) ?? [], copy.from),
        partOf(to.get(copy.to.seq) ?? [], copy.to),
      ];
      const holds = one.every((token, i) => {
        const same = two[i];
        return same !== undefined && (sameContent(token, same) || isErased(token) || isErased(same));
      });
      if (holds && one.length > 0 && one.length === two.length) out.push(copy);
    }
    return out;
  }
}

function partOf<T>(all: readonly T[], { offset, length }: InstanceRange): readonly T[] {
  return all.slice(offset, offset + length);
}

function join(
  sets: Map<number, Instances>,
  changed: Set<number>,
  document: number,
  more: readonly InstanceRange[],
): void {
  if (more.length === 0) return;
  const held = sets.get(document) ?? Instances.of([]);
  const next = held.with(Instances.of(more));
  if (next.size === held.size) return;
  sets.set(document, next);
  changed.add(document);
}

/** How many tokens come before each step's in all that an edit inserts. */
function startsOf({ schema }: Kind, steps: string): number[] {
  let sum = 0;
  return (JSON.parse(steps) as unknown[]).map((step) => {
    const start = sum;
    mapOfJSON(schema, step).forEach((_oldStart, _oldEnd, from, to) => (sum += to - from));
    return start;
  });
}
