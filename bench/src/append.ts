import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { createApp } from '@oxbow/server';
import sqlite3 from 'sqlite3';
import { Transform } from 'prosemirror-transform';
import { median } from './document.js';
import { more } from './figures.js';
import type { Figure } from './figures.js';

const WRITERS = 40;
const EACH = 100;
const ROUNDS = 5;

/** Forty concurrent writers appending durably through the store, against bare inserts with the same durability. */
export async function benchAppend(): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-append-'));
  const app = await createApp({ folder });
  const person = await app.people.create({
    name: 'Bench',
    initials: 'B',
    colour: 0,
    email: 'bench@withy.example',
    about: '',
  });
  const rooms = await Promise.all(
    Array.from({ length: 8 }, async (_, i) =>
      app.rooms.get((await app.documents.create(person, `Bench ${i}`, null)).key),
    ),
  );
  const write =
    (round: number) =>
    async (writer: number): Promise<void> => {
      const room = rooms[writer % rooms.length];
      for (let i = round * EACH; room && i < (round + 1) * EACH; i++) {
        await room.compose(({ doc, seq }) => ({
          author: person.key,
          client: `writer-${writer}`,
          base: seq,
          edits: [
            {
              counter: i,
              steps: new Transform(doc).insert(1, schema.text('ebb ')).steps,
              sources: [],
              writtenAt: 0,
              cause: { kind: 'writing' },
            },
          ],
        }));
      }
    };
  const rate = async (act: (writer: number) => Promise<void>): Promise<number> => {
    const start = performance.now();
    await Promise.all(Array.from({ length: WRITERS }, (_, writer) => act(writer)));
    return (WRITERS * EACH * 1000) / (performance.now() - start);
  };
  const [ours, single, grouped]: [number[], number[], number[]] = [[], [], []];
  await rate(write(0));
  for (let round = 1; round <= ROUNDS; round++) {
    ours.push(await rate(write(round)));
    const bare = await bareRates(join(folder, `bare-${round}.sqlite`), rate);
    single.push(bare.single);
    grouped.push(bare.grouped);
  }
  const ratio = (bare: readonly number[]): number => median(ours.map((one, i) => one / (bare[i] ?? 1)));
  await app.close();
  await rm(folder, { recursive: true, force: true });
  return [
    more(`${WRITERS} writers through the store / bare inserts, a transaction each`, ratio(single), {
      goal: 0.5,
      note: `${median(ours).toFixed(0)} and ${median(single).toFixed(0)} a second; median of ${ROUNDS} rounds`,
    }),
    more(`the same / bare inserts, ${WRITERS} in a transaction`, ratio(grouped), {
      note: `${median(grouped).toFixed(0)} a second`,
    }),
  ];
}

async function bareRates(
  file: string,
  rate: (act: (writer: number) => Promise<void>) => Promise<number>,
): Promise<{ single: number; grouped: number }> {
  const db = new sqlite3.Database(file);
  const run = (sql: string, values: unknown[] = []): Promise<void> =>
    new Promise((resolve, reject) =>
      db.run(sql, values, (error: Error | null) => (error ? reject(error) : resolve())),
    );
  await run('PRAGMA journal_mode=WAL');
  await run('PRAGMA synchronous=FULL');
  await run(
    'CREATE TABLE edits (key INTEGER PRIMARY KEY, document INTEGER, seq INTEGER, author INTEGER, client TEXT, counter INTEGER, at INTEGER, steps TEXT, UNIQUE (document, seq), UNIQUE (document, client, counter))',
  );
  let seq = 0;
  const steps = JSON.stringify([
    { stepType: 'replace', from: 1, to: 1, slice: { content: [{ type: 'text', text: 'ebb ' }] } },
  ]);
  const insert = (writer: number, i: number, document: number): Promise<void> =>
    run(
      'INSERT INTO edits (document, seq, author, client, counter, at, steps) VALUES (?, ?, 1, ?, ?, ?, ?)',
      [document, ++seq, `writer-${writer}`, i, Date.now(), steps],
    );
  const single = await rate(async (writer) => {
    for (let i = 0; i < EACH; i++) await insert(writer, i, 1);
  });
  const start = performance.now();
  for (let i = 0; i < EACH; i++) {
    await run('BEGIN IMMEDIATE');
    for (let writer = 0; writer < WRITERS; writer++) await insert(writer, i, 2);
    await run('COMMIT');
  }
  const grouped = (WRITERS * EACH * 1000) / (performance.now() - start);
  await new Promise<void>((resolve) => db.close(() => resolve()));
  return { single, grouped };
}
