import type { ErasedDocument } from '@oxbow/contract';
import { isErased } from '@oxbow/core/content';
import type { Token } from '@oxbow/core/content';
import type { Instances } from '@oxbow/core/erasing';
import type { RunSequence } from '@oxbow/core/history';
import type { Rooms } from '../ordering/rooms.js';
import type { Database } from '../store/database.js';
import { Slices } from '../threads/slices.js';

/** What a set of instances of a document comes to. */
export interface Extent extends Pick<
  ErasedDocument,
  'letters' | 'images' | 'edits' | 'versions' | 'numbers' | 'now'
> {
  /** Its texts, each once, as they stood side by side in the history: what stands now apart from what no longer does. */
  readonly texts: readonly string[];
  /** The images in it. */
  readonly hashes: ReadonlySet<string>;
  /** The edits by which any of it came or went. */
  readonly events: ReadonlySet<number>;
}

/** From which edit on something stood, and at which it went; 0 for what stands now. */
type Stand = readonly [born: number, died: number];

/** Tells what sets of instances hold, and which versions show them. */
export class Extents {
  constructor(
    private readonly database: Database,
    private readonly rooms: Rooms,
  ) {}

  async of(document: number, set: Instances): Promise<Extent> {
    const { provenance } = await (await this.rooms.get(document)).storedHead();
    const tokens = await this.rooms.moments.log.tokens(document, set.seqs, new Slices());
    const versions = await this.database.models.versions.findAll({
      where: { document, discarded: 0, thinned: 0 },
      attributes: ['number', 'seq'],
      order: [['number', 'ASC']],
      raw: true,
    });
    const { texts, letters, hashes, images, stands } = readIn(provenance.runs, set, tokens);
    const numbers = showing(versions, stands).map(({ number }) => number);
    return {
      letters,
      images,
      edits: set.seqs.length,
      versions: numbers.length,
      numbers,
      now: stands.some(([, died]) => died === 0),
      texts,
      hashes,
      events: new Set(stands.flatMap(([born, died]) => (died === 0 ? [born] : [born, died]))),
    };
  }
}

/** Those of some versions, in order, whose moment lies in a stretch of edits, which may overlap and are in no order. Sorts once. */
function showing<T extends { readonly seq: number }>(versions: readonly T[], stands: readonly Stand[]): T[] {
  const turns = stands
    .flatMap(([born, died]) => [[born, 1] as const, ...(died === 0 ? [] : [[died, -1] as const])])
    .sort(([a], [b]) => a - b);
  let [next, open] = [0, 0];
  return versions.filter(({ seq }) => {
    for (let turn = turns[next]; turn && turn[0] <= seq; turn = turns[++next]) open += turn[1];
    return open > 0;
  });
}

/** What a set holds that is not erased yet, read in the order of the history, and from which edit to which each stretch of it stood. */
function readIn(runs: RunSequence, set: Instances, tokens: ReadonlyMap<number, readonly Token[]>) {
  const texts = new Set<string>();
  const stands: Stand[] = [];
  const hashes = new Set<string>();
  let [letters, images] = [0, 0];
  // What was put back stands beside what it was before: read as one, every letter would be there twice.
  const reading = { now: '', once: '' };
  const flush = (): void => {
    for (const when of ['now', 'once'] as const) {
      if (reading[when].trim() !== '') texts.add(reading[when].trim());
      reading[when] = '';
    }
  };
  for (const run of runs.all()) {
    const spans = set.within(run);
    if (spans.length === 0) {
      if (run.diedAt === 0) flush();
      continue;
    }
    stands.push([run.seq, run.diedAt]);
    for (const { from, to } of spans)
      for (const token of (tokens.get(run.seq) ?? []).slice(from, to)) {
        if (isErased(token)) continue;
        if (token.kind === 'unit') {
          letters++;
          reading[run.diedAt === 0 ? 'now' : 'once'] += token.unit;
          continue;
        }
        flush();
        const hash: unknown = token.kind === 'leaf' ? token.node.attrs['hash'] : undefined;
        if (typeof hash !== 'string') continue;
        images++;
        hashes.add(hash);
      }
  }
  flush();
  return { texts: [...texts], letters, hashes, images, stands };
}
