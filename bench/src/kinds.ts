import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compare } from '@oxbow/core/compare';
import { appendEdit, mapsOf, orderBatch, startProvenance } from '@oxbow/core/history';
import { cellAt, readBook, sheetChanges, sheetSchema, writeCells } from '@oxbow/core/kinds/sheet';
import type { RowView } from '@oxbow/core/kinds/sheet';
import { Random } from '@oxbow/core/testing';
import { Moments, createApp } from '@oxbow/server';
import { generateNKeysBetween } from 'fractional-indexing';
import { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { Transform } from 'prosemirror-transform';
import { median } from './document.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { benchGrid } from './grid.js';

const COLUMNS = 10;
const ROWS = 20_000;
const FEW = 200;
const KEYSTROKES = 300;

/** A sheet of rows of ten cells with a number in each. */
function book(rows: number): Node {
  const keys = (count: number): string[] => generateNKeysBetween(null, null, count);
  const columns = keys(COLUMNS).map((place, i) => sheetSchema.node('column', { id: `c${i}`, place }));
  const lines = keys(rows).map((place, r) =>
    sheetSchema.node(
      'row',
      { id: `r${r}`, place },
      columns.map(({ attrs }, c) =>
        sheetSchema.node('cell', { column: attrs['id'] }, sheetSchema.text(String(r * 7 + c))),
      ),
    ),
  );
  return sheetSchema.node('book', null, [sheetSchema.node('sheet', { name: 'Rota' }, columns), ...lines]);
}

/** Median milliseconds of what a keystroke in a cell costs the server: ordered, checked, taken into provenance. */
function keystroke(rows: number): number {
  let doc = book(rows);
  const provenance = startProvenance(0, doc);
  const times: number[] = [];
  const row = readBook(doc).sheets[0]?.rows[rows / 2] as RowView;
  const at = (cellAt(row, 'c0')?.at ?? 0) + 1;
  for (let seq = 1; seq <= KEYSTROKES; seq++) {
    const { steps } = new Transform(doc).insert(at, sheetSchema.text('7'));
    const start = performance.now();
    const [verdict] = orderBatch(doc, [{ steps, sources: [] }], mapsOf([]));
    if (!verdict?.taken) throw new Error('a keystroke was refused');
    doc = appendEdit(provenance, doc, { seq, steps: verdict.steps, sources: [] }, verdict.docs);
    times.push(performance.now() - start);
  }
  return median(times);
}

/** Median milliseconds from a keystroke's arrival at the server to its being stored and answered, in a sheet of few rows and in one of many. */
async function taken(): Promise<{ small: number; large: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-bench-'));
  const app = await createApp({ folder });
  try {
    const person = await app.people.create(BENCH);
    const middle = async (rows: number): Promise<number> => {
      const { key } = await app.documents.create(person, 'Sheet', null, Date.now(), 'sheet');
      const room = await app.rooms.get(key);
      const submit = (counter: number, steps: readonly Step[]): Promise<unknown> =>
        room.submit({
          author: person.key,
          client: 'bench',
          base: counter,
          edits: [{ counter, steps, sources: [], writtenAt: 0, cause: { kind: 'writing' } }],
        });
      const { doc } = room.head;
      await submit(0, new Transform(doc).replaceWith(0, doc.content.size, book(rows).content).steps);
      const row = readBook(room.head.doc).sheets[0]?.rows[rows / 2] as RowView;
      const at = (cellAt(row, 'c0')?.at ?? 0) + 1;
      const times: number[] = [];
      for (let counter = 1; counter <= KEYSTROKES; counter++) {
        const { steps } = new Transform(room.head.doc).insert(at, sheetSchema.text('7'));
        const start = performance.now();
        await submit(counter, steps);
        times.push(performance.now() - start);
      }
      return median(times);
    };
    await middle(FEW);
    return { small: await middle(FEW), large: await middle(ROWS) };
  } finally {
    await app.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Whoever writes here. */
const BENCH = { name: 'Bench', initials: 'B', colour: 0, email: 'bench@withy.example', about: '' };

/** Rows of the sheet whose moments are opened, its edits, how many are written at once, and how many moments are opened. */
const [KEPT_ROWS, EDITS, BATCH, SAMPLES] = [2000, 10_000, 100, 20];

/** Times of opening moments of a sheet against parsing them from JSON, each the middle one. */
async function opening(): Promise<{ cold: number; note: string }> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-bench-'));
  const app = await createApp({ folder });
  try {
    const person = await app.people.create(BENCH);
    const { key } = await app.documents.create(person, 'Sheet', null, Date.now(), 'sheet');
    const room = await app.rooms.get(key);
    const random = new Random(3);
    const submit = (steps: readonly Step[][], base: number): Promise<unknown> =>
      room.submit({
        author: person.key,
        client: 'bench',
        base,
        edits: steps.map((own, i) => ({
          counter: base + i,
          steps: own,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' },
        })),
      });
    const whole = new Transform(room.head.doc).replaceWith(
      0,
      room.head.doc.content.size,
      book(KEPT_ROWS).content,
    );
    await submit([whole.steps], 0);
    for (let done = 1; done < EDITS; done += BATCH) {
      let { doc } = room.head;
      const rows = readBook(doc).sheets[0]?.rows ?? [];
      const chosen = rows[random.between(0, rows.length - 1)] as RowView;
      const at = (cellAt(chosen, `c${random.between(0, COLUMNS - 1)}`)?.at ?? 0) + 1;
      const steps = Array.from({ length: Math.min(BATCH, EDITS - done) }, () => {
        const tr = new Transform(doc).insert(at, sheetSchema.text('7'));
        doc = tr.doc;
        return tr.steps;
      });
      await submit(steps, done);
    }
    await room.settled();
    const ratios: number[] = [];
    for (let i = 0; i < SAMPLES; i++) {
      const seq = random.between(1, EDITS);
      const json = JSON.stringify((await app.rooms.moments.open(key, seq)).toJSON());
      const timed = async (act: () => Promise<unknown>): Promise<number> => {
        const start = performance.now();
        await act();
        return performance.now() - start;
      };
      const parse = await timed(async () => Node.fromJSON(sheetSchema, JSON.parse(json)));
      ratios.push((await timed(() => new Moments(app.database).open(key, seq))) / parse);
    }
    return { cold: median(ratios), note: `${EDITS} edits, ${KEPT_ROWS} rows of ten` };
  } finally {
    await app.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Sheets of twenty thousand rows of ten: a keystroke against one in a small sheet, comparing against parsing both. */
export async function benchKinds(): Promise<Figure[]> {
  keystroke(FEW);
  const [small, large] = [keystroke(FEW), keystroke(ROWS)];
  const earlier = book(ROWS);
  const random = new Random(1);
  const tr = new Transform(earlier);
  const rows = readBook(earlier).sheets[0]?.rows ?? [];
  const changed = new Set(
    Array.from({ length: (ROWS * COLUMNS) / 100 }, () => random.between(0, ROWS * COLUMNS - 1)),
  );
  writeCells(
    tr,
    [...changed].map((cell) => ({
      row: rows[Math.floor(cell / COLUMNS)] as RowView,
      column: `c${cell % COLUMNS}`,
      text: 'changed',
    })),
  );
  const json = [earlier, tr.doc].map((doc) => JSON.stringify(doc.toJSON()));
  const parse = (): Node[] => json.map((text) => Node.fromJSON(sheetSchema, JSON.parse(text)));
  const timed = (act: () => void): number => {
    const start = performance.now();
    act();
    return performance.now() - start;
  };
  const [parsing, comparing, telling]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i < 5; i++) {
    let [one, other]: Node[] = [];
    parsing.push(timed(() => ([one, other] = parse())));
    comparing.push(timed(() => compare(one as Node, other as Node)));
    telling.push(timed(() => sheetChanges(one as Node, other as Node)));
  }
  const answered = await taken();
  const opened = await opening();
  const scrolled = await benchGrid(book(ROWS / 2));
  return [
    less('opening a random moment of a sheet / parsing its JSON, nothing cached', opened.cold, {
      goal: 3,
      note: opened.note,
    }),
    less(
      'a keystroke in a sheet of 20,000 rows of ten / in one of 200, stored and answered',
      answered.large / answered.small,
      { goal: 3, note: `${answered.large.toFixed(2)} and ${answered.small.toFixed(2)} ms` },
    ),
    less('of that, ordering it, checking it and taking it into provenance', large / small, {
      goal: 3,
      note: `${large.toFixed(2)} and ${small.toFixed(2)} ms`,
    }),
    less(
      'comparing two such sheets, a hundredth of the cells changed / parsing both',
      median(comparing) / median(parsing),
      {
        goal: 2,
        note: `${median(comparing).toFixed(0)} and ${median(parsing).toFixed(0)} ms`,
      },
    ),
    less('telling what changed cell by cell / parsing both', median(telling) / median(parsing), {
      goal: 2,
      note: `${median(telling).toFixed(0)} ms`,
    }),
    ...scrolled,
  ];
}
