import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { textSchema as schema } from '@oxbow/core/content';
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
  /** Starts another server on the same data, with nothing in its memory. */
  again(): Promise<App>;
  end(): Promise<void>;
}

const WORDS =
  'tide mill sluice marsh ebb flood wheel race stone creek bridge reed gate pool bank boat rope oar hut path'.split(
    ' ',
  );
const BATCH = 200;

/** Writes a document of that many edits, about half as many words, through the server's own rooms. */
export async function writeLarge(edits: number): Promise<Large> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-bench-'));
  const app = await createApp({ folder });
  const person = await app.people.create({
    name: 'Bench',
    initials: 'B',
    colour: 0,
    email: 'bench@withy.example',
    about: '',
  });
  const { key } = await app.documents.create(person, 'Bench', null);
  const room = await app.rooms.get(key);
  const random = new Random(20261124);
  for (let done = 0; done < edits; done += BATCH)
    await room.compose(({ doc, seq }) =>
      batch(random, doc, seq, person.key, done, Math.min(BATCH, edits - done)),
    );
  await room.settled();
  return {
    app,
    folder,
    key,
    edits,
    again: () => createApp({ folder }),
    async end() {
      await app.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
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
