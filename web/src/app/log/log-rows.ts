import type { Version } from '@oxbow/contract';
import type { Cause, Sitting, Trace } from '@oxbow/core/history';
import { sittings } from '@oxbow/core/history';

/** A line of the log: a sitting, a version within it, or a single edit within that. */
export interface LogRow {
  readonly id: string;
  readonly kind: 'sitting' | 'version' | 'edit';
  /** The moments before and after it. */
  readonly before: number;
  readonly seq: number;
  readonly from: number;
  readonly at: number;
  readonly authors: readonly string[];
  readonly wordsIn: number;
  readonly wordsOut: number;
  readonly version: Version | null;
  readonly name: string;
  readonly gist: string;
  readonly cause: string;
  /** How many rows unfolding it would show; 0 when it cannot be unfolded. */
  readonly inside: number;
}

/** What of the log is shown. Empty fields let everything through. */
export interface LogFilter {
  readonly person: string;
  readonly cause: string;
  readonly landmarks: boolean;
  /** Days, as `yyyy-mm-dd`, both included. */
  readonly since: string;
  readonly until: string;
  /** Fewest words in and out together. */
  readonly words: number;
}

export const NO_FILTER: LogFilter = {
  person: '',
  cause: '',
  landmarks: false,
  since: '',
  until: '',
  words: 0,
};

export type LogSort = { readonly by: 'at' | 'words'; readonly ascending: boolean };

/** What the log is made of. */
export interface LogSource {
  readonly traces: readonly Trace[];
  readonly causes: ReadonlyMap<number, Cause>;
  /** Newest first. */
  readonly versions: readonly Version[];
}

/** Idle time that ends a sitting of the log. */
const GAP = 3 * 3600_000;

export const CAUSES: Record<Version['cause'], string> = {
  beginning: $localize`the beginning`,
  pause: $localize`a pause`,
  run: $localize`a long run of writing`,
  restore: $localize`brought back`,
  filing: $localize`a file`,
  assembly: $localize`assembled`,
  asked: $localize`kept on request`,
  checkIn: $localize`checked in`,
  share: $localize`shared from here on`,
};

/** The rows of the log in order, those inside folded ones left out. */
export function logRows(
  source: LogSource,
  filter: LogFilter,
  sort: LogSort,
  unfolded: ReadonlySet<string>,
): LogRow[] {
  const order = (a: LogRow, b: LogRow): number =>
    (sort.by === 'at' ? a.at - b.at || a.seq - b.seq : wordsOf(a) - wordsOf(b) || a.seq - b.seq) *
    (sort.ascending ? 1 : -1);
  const versions = versionRows(source).filter((row) => passes(row, filter));
  const bands = bandsOf(source.traces, versions);
  return bands
    .sort((a, b) => order(a.row, b.row))
    .flatMap(({ row, inside }) => {
      if (!unfolded.has(row.id)) return [row];
      const shown = inside.sort(order);
      return [
        row,
        ...shown.flatMap((version) =>
          unfolded.has(version.id) ? [version, ...editRows(source, version).sort(order)] : [version],
        ),
      ];
    });
}

function wordsOf({ wordsIn, wordsOut }: LogRow): number {
  return wordsIn + wordsOut;
}

function passes(row: LogRow, filter: LogFilter): boolean {
  return (
    (!filter.person || row.authors.includes(filter.person)) &&
    (!filter.cause || row.version?.cause === filter.cause) &&
    (!filter.landmarks || row.name !== '') &&
    (!filter.since || row.at >= new Date(`${filter.since}T00:00`).getTime()) &&
    (!filter.until || row.from <= new Date(`${filter.until}T23:59:59.999`).getTime()) &&
    wordsOf(row) >= filter.words
  );
}

/** A row a version, oldest first; what was written since the last one is a row of its own. */
function versionRows({ traces, causes, versions }: LogSource): LogRow[] {
  const first = traces[0]?.seq ?? 1;
  const trace = (seq: number): Trace | undefined => traces[seq - first];
  const oldest = [...versions].reverse();
  const rows = oldest.map((version, i): LogRow => {
    const before = oldest[i - 1]?.seq ?? Math.max(0, version.seq - 1);
    const at = Date.parse(version.at);
    return {
      id: `v${version.number}`,
      kind: 'version',
      before: version.number === 1 ? 0 : before,
      seq: version.seq,
      from: trace(before + 1)?.at ?? at,
      at: trace(version.seq)?.at ?? at,
      authors: version.authors,
      wordsIn: version.wordsAdded,
      wordsOut: version.wordsRemoved,
      version,
      name: version.landmark?.name ?? '',
      gist: [...eventsIn(causes, before, version.seq), version.gist].join('; '),
      cause: CAUSES[version.cause],
      inside: version.number === 1 ? 0 : version.seq - before,
    };
  });
  const [last, head] = [oldest.at(-1)?.seq ?? 0, traces.at(-1)];
  if (!head || head.seq <= last) return rows;
  const open = sittings(traces.slice(last + 1 - first), Infinity)[0] as Sitting;
  return [
    ...rows,
    {
      id: 'open',
      kind: 'version',
      before: last,
      seq: head.seq,
      from: open.from,
      at: open.to,
      authors: open.shares.map(({ author }) => author),
      wordsIn: open.wordsIn,
      wordsOut: open.wordsOut,
      version: null,
      name: '',
      gist: [...eventsIn(causes, last, head.seq), $localize`written since the last version`].join('; '),
      cause: $localize`not yet a version`,
      inside: open.edits,
    },
  ];
}

/** Changes of title and collection after one moment up to another, in words. */
function eventsIn(causes: ReadonlyMap<number, Cause>, after: number, upTo: number): string[] {
  const said: string[] = [];
  for (const [seq, cause] of causes) {
    if (seq <= after || seq > upTo) continue;
    if (cause.kind === 'title' || cause.kind === 'collection') said.push(sayCause(cause));
  }
  return said;
}

interface Band {
  readonly row: LogRow;
  readonly inside: LogRow[];
}

/** The sittings that hold some of these versions; a version belongs to the sitting its last edit was made in. */
function bandsOf(traces: readonly Trace[], versions: readonly LogRow[]): Band[] {
  const all = sittings(traces, GAP);
  const bands: Band[] = [];
  let next = 0;
  const loose = versions.filter(({ seq }) => seq === 0);
  for (const row of loose) bands.push({ row: { ...row, inside: 0 }, inside: [] });
  const placed = versions.filter(({ seq }) => seq > 0);
  for (const sitting of all) {
    const start = next;
    while ((placed[next]?.seq ?? Infinity) <= sitting.last) next++;
    const inside = placed.slice(start, next);
    if (inside.length > 0) bands.push({ row: sittingRow(sitting, inside), inside });
  }
  return bands;
}

function sittingRow(sitting: Sitting, inside: readonly LogRow[]): LogRow {
  const largest = [...inside].sort((a, b) => wordsOf(b) - wordsOf(a))[0];
  const names = inside.map(({ name }) => name).filter(Boolean);
  return {
    id: `s${sitting.first}`,
    kind: 'sitting',
    before: sitting.first - 1,
    seq: sitting.last,
    from: sitting.from,
    at: sitting.to,
    authors: sitting.shares.map(({ author }) => author),
    wordsIn: sitting.wordsIn,
    wordsOut: sitting.wordsOut,
    version: inside.length === 1 ? (inside[0]?.version ?? null) : null,
    name: names.join(', '),
    gist: largest?.gist ?? '',
    cause: inside.length === 1 ? (inside[0]?.cause ?? '') : $localize`${inside.length} versions`,
    inside: inside.length,
  };
}

function editRows({ traces, causes }: LogSource, version: LogRow): LogRow[] {
  const first = traces[0]?.seq ?? 1;
  return traces.slice(version.before + 1 - first, version.seq + 1 - first).map((trace): LogRow => {
    const cause = causes.get(trace.seq);
    return {
      id: `e${trace.seq}`,
      kind: 'edit',
      before: trace.seq - 1,
      seq: trace.seq,
      from: trace.at,
      at: trace.at,
      authors: [trace.author],
      wordsIn: trace.wordsIn,
      wordsOut: trace.wordsOut,
      version: null,
      name: '',
      gist: cause ? sayCause(cause) : '',
      cause: $localize`an edit`,
      inside: 0,
    };
  });
}

/** What an edit that is not plain writing did, in words. */
function sayCause(cause: Cause): string {
  switch (cause.kind) {
    case 'undo':
      return $localize`undone`;
    case 'redo':
      return $localize`redone`;
    case 'takeBack':
      return $localize`took a change back`;
    case 'carry':
      return $localize`carried something of an earlier moment forward`;
    case 'assembly':
      return cause.title ? $localize`assembled with ${cause.title}` : $localize`assembled from two moments`;
    case 'restore':
      return $localize`brought back ${cause.number === undefined ? $localize`an earlier moment` : $localize`version ${cause.number}`}`;
    case 'filing':
      return $localize`filed ${cause.file}`;
    case 'copy':
      return $localize`copied from ${cause.title}`;
    case 'merge':
      return $localize`brought home from ${cause.title}`;
    case 'erasure':
      return $localize`erased text, for good`;
    case 'thinning':
      return $localize`thinned versions out by a rule`;
    case 'title':
      return $localize`title changed from “${cause.before}” to “${cause.after}”`;
    case 'collection':
      return $localize`moved to another collection`;
    case 'writing':
      return '';
  }
}
