import { childrenOf, plainText, finished } from '@oxbow/core/content';
import { appearancesOf, foldedWords, lifeOf, removedPassages, termsOf } from '@oxbow/core/past';
import { dueCuts } from '@oxbow/core/history';
import { Chronicles, Heads, Histories, LookingBack, entire, ownView } from '@oxbow/server';
import type { App } from '@oxbow/server';
import type { Node } from 'prosemirror-model';
import type { Large } from './document.js';
import { median } from './document.js';
import { less, more } from './figures.js';
import type { Figure } from './figures.js';

const PASSES = 3;

/** Looking back at a long history, against opening every version of it and reading that. */
export async function benchPast({ app, key, edits }: Large): Promise<Figure[]> {
  const { database, rooms, people } = app;
  const { moments } = rooms;
  const fail = (error: unknown): never => {
    throw error;
  };
  const keeper = { keepChunk: () => Promise.resolve() };
  const heads = new Heads(database, moments);
  const chronicles = new Chronicles(
    database,
    new Histories(database.epochs, moments, heads),
    people,
    keeper,
    fail,
  );
  await app.chronicles.index(key);
  const index = await indexBytes(database);
  const { tape, makers, doc, letters } = await chronicles.open(entire(key));
  const typed = letters.between(0, tape.now).reduce((sum, text) => sum + Buffer.byteLength(text), 0);

  const stamps = (await chronicles.open(entire(key))).traces.map(({ seq, at }) => ({ seq, acceptedAt: at }));
  const seqs = dueCuts(stamps, Date.now()).map(({ seq }) => seq);
  const versions = async function* (): AsyncGenerator<Node> {
    for (const seq of seqs) yield await rooms.moments.open(key, seq);
  };
  const passage = doc.child(doc.childCount >> 1);
  const words = foldedWords(passage.textContent);
  const phrase = words.slice(4, 8);
  const atom = tape.at(2, tape.now).atom;

  const slow = {
    search: await timed(async () => {
      for await (const version of versions()) {
        const said = foldedWords(plainText(version));
        said.some((_word, at) => phrase.every((word, i) => said[at + i] === word));
      }
    }),
    life: await timed(async () => {
      let form = doc.child(0).textContent;
      const all: Node[] = [];
      for await (const version of versions()) all.push(version);
      for (const version of all.reverse()) form = likest(version, form);
    }),
    removed: await timed(async () => {
      const present = plainText(doc);
      const gone = new Set<string>();
      for await (const version of versions())
        for (const block of childrenOf(version))
          for (const sentence of block.textContent.split(/(?<=\.) /))
            if (!present.includes(sentence)) gone.add(sentence);
    }),
  };
  const row = await database.models.documents.findByPk(key, { raw: true });
  if (!row) throw new Error('The document is gone');
  const view = ownView(row, row.changedBy);
  const back = new LookingBack(chronicles);
  const fast = {
    search: await timed(() => back.find(view, `"${phrase.join(' ')}"`), PASSES),
    life: await timed(async () => lifeOf(tape, atom, tape.now), PASSES),
    removed: await timed(async () => removedPassages(tape, makers, plainText(doc)), PASSES),
  };
  const found = finished(appearancesOf(tape, termsOf(`"${phrase.join(' ')}"`)[0]?.words ?? [])).length;
  return [
    ...(['search', 'life', 'removed'] as const).map((what) =>
      more(`${what}: times as fast as reading every version`, slow[what] / fast[what], {
        digits: 0,
        goal: 50,
        note: `${slow[what].toFixed(0)} ms / ${fast[what].toFixed(1)} ms; ${edits} edits, ${seqs.length} versions${what === 'search' ? `; “${phrase.join(' ')}” appeared ${found} times` : ''}`,
      }),
    ),
    less('index and letters, bytes for each byte ever typed', index / typed, {
      goal: 2,
      note: `${(index / 1e3).toFixed(0)} kB / ${(typed / 1e3).toFixed(0)} kB`,
    }),
  ];
}

/** Tables and indexes that looking back leans on, by what their names begin with. */
const TABLES = ['letters', 'sqlite_autoindex_letters', 'words_'];

/** Bytes that those hold, by SQLite's own count, without room that its pages keep for later. */
async function indexBytes(database: App['database']): Promise<number> {
  const [row] = await database.rows<{ bytes: number }>(
    `SELECT SUM(pgsize - unused) AS bytes FROM dbstat WHERE ${TABLES.map((name) => `name LIKE '${name}%'`).join(' OR ')}`,
    {},
  );
  return row?.bytes ?? 0;
}

/** The block of a version that shares most words with a text. */
function likest(version: Node, text: string): string {
  const wanted = new Set(foldedWords(text));
  let best = '';
  let most = -1;
  for (const block of childrenOf(version)) {
    const shared = foldedWords(block.textContent).filter((word) => wanted.has(word)).length;
    if (shared > most) [best, most] = [block.textContent, shared];
  }
  return best;
}

async function timed(run: () => Promise<unknown>, passes = 1): Promise<number> {
  const times: number[] = [];
  for (let pass = 0; pass < passes; pass++) {
    const start = performance.now();
    await run();
    times.push(performance.now() - start);
  }
  return median(times);
}
