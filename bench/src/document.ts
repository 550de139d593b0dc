import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { cp, mkdir, mkdtemp, readdir, rename, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Random } from '@oxbow/core/testing';
import { createApp } from '@oxbow/server';
import type { App, Room } from '@oxbow/server';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';

/** A server with one large document in a folder of its own. */
export interface Large {
  readonly app: App;
  readonly folder: string;
  readonly key: number;
  readonly edits: number;
  end(): Promise<void>;
}

const WORDS =
  'tide mill sluice marsh ebb flood wheel race stone creek bridge reed gate pool bank boat rope oar hut path'.split(
    ' ',
  );
const BATCH = 200;
/** The title of the large document. */
export const LARGE = 'Bench';

/** Where large documents are kept between runs; not part of the repository. */
const KEPT = fileURLToPath(new URL('../kept', import.meta.url));

/** Code that decides what a log and all that is stored with it look like: a document written by another is written anew. */
const WRITING = [
  'core/dist/content',
  'core/dist/history',
  'server/dist/ordering',
  'server/dist/store',
  'server/dist/versions',
];

/**
 * A folder with a document of that many edits, about half as many words, to be removed by whoever asked. The document is
 * written once through the server's own rooms, which takes a millisecond an edit, since each has to be durable, and kept until
 * the code that writes it changes.
 */
export async function copyLarge(edits: number): Promise<string> {
  const kept = join(KEPT, `${edits}-${writingDigest()}`);
  if (!existsSync(kept)) {
    console.log(`  writing a document of ${edits} edits, which is kept for the next run …`);
    await mkdir(KEPT, { recursive: true });
    for (const name of await readdir(KEPT))
      if (name.startsWith(`${edits}-`)) await rm(join(KEPT, name), { recursive: true });
    await writeLarge(`${kept}-unfinished`, edits);
    await rename(`${kept}-unfinished`, kept);
  }
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-bench-'));
  await cp(kept, folder, { recursive: true });
  return folder;
}

/** A server on such a folder. */
export async function openLarge(edits: number): Promise<Large> {
  const folder = await copyLarge(edits);
  const app = await createApp({ folder });
  const [row] = await app.database.models.documents.findAll({ where: { title: LARGE }, raw: true });
  if (!row) throw new Error('The kept document is gone');
  return {
    app,
    folder,
    key: row.key,
    edits,
    async end() {
      await app.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

function writingDigest(): string {
  const hash = createHash('sha256');
  for (const folder of WRITING) {
    const root = fileURLToPath(new URL(`../../${folder}`, import.meta.url));
    for (const name of readdirSync(root, { recursive: true, encoding: 'utf8' }).sort())
      if (name.endsWith('.js') && !name.endsWith('.spec.js')) hash.update(readFileSync(join(root, name)));
  }
  return hash.digest('hex').slice(0, 12);
}

async function writeLarge(folder: string, edits: number): Promise<void> {
  await mkdir(folder, { recursive: true });
  const app = await createApp({ folder });
  const person = await app.people.create({
    name: 'Bench',
    initials: 'B',
    colour: 0,
    email: 'bench@withy.example',
    about: '',
  });
  const { key } = await app.documents.create(person, LARGE, null);
  const room = await app.rooms.get(key);
  const random = new Random(20261124);
  for (let done = 0; done < edits; done += BATCH)
    await room.compose(({ doc, seq }) =>
      batch(random, doc, seq, person.key, done, Math.min(BATCH, edits - done)),
    );
  await room.settled();
  await app.close();
}

function batch(
  random: Random,
  doc: Node,
  base: number,
  author: number,
  counter: number,
  size: number,
): Parameters<Room['submit']>[0] {
  const list: Parameters<Room['submit']>[0]['edits'][number][] = [];
  let now = doc;
  for (let i = 0; i < size; i++) {
    const tr = new Transform(now);
    edit(random, tr);
    now = tr.doc;
    list.push({
      counter: counter + i,
      steps: tr.steps,
      sources: [],
      writtenAt: 0,
      cause: { kind: 'writing' },
    });
  }
  return { author, client: 'bench', base, edits: list };
}

function edit(random: Random, tr: Transform): void {
  const index = random.between(0, tr.doc.childCount - 1);
  let at = 0;
  for (let i = 0; i < index; i++) at += tr.doc.child(i).nodeSize;
  const block = tr.doc.child(index);
  const size = block.content.size;
  const roll = random.next();
  const words = `${random.pick(WORDS)} ${random.chance(0.25) ? `${random.pick(WORDS)} ` : ''}`;
  if (roll < 0.04 || size > 1200)
    tr.insert(at + block.nodeSize, schema.node('paragraph', null, [schema.text(words)]));
  else if (roll < 0.14 && size > 12) {
    const from = at + 1 + random.between(0, size - 9);
    tr.delete(from, from + random.between(2, 8));
  } else if (roll < 0.18 && size > 12) {
    const from = at + 1 + random.between(0, size - 9);
    tr.addMark(from, from + 6, schema.mark('bold'));
  } else
    tr.insert(
      at + 1 + (random.chance(0.8) ? size : random.between(0, size)),
      schema.text(words.slice(0, random.between(4, words.length))),
    );
}

/** The middle one of some numbers. */
export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
}
