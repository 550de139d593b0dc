import { createHash, randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { Session } from 'node:inspector/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { createApp, wholeShare } from '@oxbow/server';
import type { App } from '@oxbow/server';
import { Transform } from 'prosemirror-transform';
import { textSchema as schema } from '@oxbow/core/kinds/text';

/** What the process that serves is asked, one at a time. */
export type Ask =
  | { readonly ask: 'people'; readonly count: number }
  | {
      readonly ask: 'document';
      readonly title: string;
      readonly owners: readonly number[];
      readonly text?: string;
    }
  | { readonly ask: 'share'; readonly title: string; readonly people: readonly number[] }
  | { readonly ask: 'versions'; readonly title: string; readonly count: number }
  | { readonly ask: 'thin' }
  | { readonly ask: 'bytes' }
  | { readonly ask: 'begin'; readonly profile: boolean }
  | { readonly ask: 'end' };

/** Somebody with a session of their own. */
export interface Seat {
  readonly key: number;
  readonly id: string;
  readonly cookie: string;
}

/** What a stretch of serving took. Milliseconds. */
export interface Served {
  /** Event loop delay, 99th percentile and most. */
  readonly delay: readonly [p99: number, most: number];
  /** Share of the time that the main thread was busy, 0 to 1. */
  readonly busy: number;
  /** Where the main thread's time went, by part, as shares. */
  readonly parts: Readonly<Record<string, number>>;
}

// A server in a process of its own, on a folder that it removes in the end; its parent asks by messages.
const folder = process.argv[2] ?? (await mkdtemp(join(tmpdir(), 'oxbow-serving-')));
const app: App = await createApp({ folder });
const port = await app.listen(0);
const delay = monitorEventLoopDelay({ resolution: 2 });
const inspector = new Session();
inspector.connect();
let profiling = false;
let utilisation = performance.eventLoopUtilization();

async function answer(asked: Ask): Promise<unknown> {
  switch (asked.ask) {
    case 'people':
      return people(asked.count);
    case 'document':
      return document(asked.title, asked.owners, asked.text ?? '');
    case 'share':
      return share(asked.title, asked.people);
    case 'versions':
      return versions(asked.title, asked.count);
    case 'thin':
      return app.thinning.thinDue(Date.now());
    case 'bytes':
      return bytes();
    case 'begin':
      delay.reset();
      delay.enable();
      utilisation = performance.eventLoopUtilization();
      profiling = asked.profile;
      if (profiling) {
        await inspector.post('Profiler.enable');
        await inspector.post('Profiler.start');
      }
      return null;
    case 'end':
      return served();
  }
}

async function people(count: number): Promise<Seat[]> {
  const seats: Seat[] = [];
  for (let i = 0; i < count; i++) {
    const one = await app.people.create({
      name: `Writer ${i}`,
      initials: 'W',
      colour: i % 12,
      email: `writer-${randomBytes(6).toString('hex')}@withy.example`,
      about: '',
      passwordHash: 'none',
    });
    const token = randomBytes(32).toString('base64url');
    await app.database.writes.add((transaction) =>
      app.database.models.sessions.create(
        {
          token: createHash('sha256').update(token).digest('hex'),
          person: one.key,
          until: Date.now() + 3600_000,
          begun: Date.now(),
          seen: Date.now(),
          agent: 'bench',
        },
        { transaction },
      ),
    );
    seats.push({ key: one.key, id: one.id, cookie: `oxbow_session=${token}` });
  }
  return seats;
}

async function document(title: string, owners: readonly number[], text: string): Promise<string> {
  const [first, ...others] = app.people.all.filter(({ key }) => owners.includes(key));
  if (!first) throw new Error('A document needs an owner');
  const row = await app.documents.create(first, title, null);
  await shareWith(row.key, others);
  if (text) {
    const room = await app.rooms.get(row.key);
    await room.compose(({ doc, seq }) => ({
      author: first.key,
      client: 'bench-first',
      base: seq,
      edits: [
        {
          counter: 1,
          steps: new Transform(doc).insert(1, schema.text(text)).steps,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' },
        },
      ],
    }));
  }
  return row.id;
}

async function shareWith(document: number, people: readonly { key: number }[]): Promise<void> {
  for (const { key } of people)
    await app.database.writes.add((transaction) =>
      app.database.models.shares.create(wholeShare(document, key, 'editor'), { transaction }),
    );
}

/** Shares a document that is there already; answers its id. */
async function share(title: string, people: readonly number[]): Promise<string> {
  const [row] = await app.database.models.documents.findAll({ where: { title }, raw: true });
  if (!row) throw new Error(`There is no document ${title}`);
  await shareWith(
    row.key,
    people.map((key) => ({ key })),
  );
  return row.id;
}

/** Writes in a document and keeps a version, so many times: a sentence comes, and one that came before goes or stays. */
async function versions(title: string, count: number): Promise<null> {
  const [row] = await app.database.models.documents.findAll({ where: { title }, raw: true });
  const [first] = app.people.all;
  if (!row || !first) throw new Error(`There is no document ${title}`);
  const room = await app.rooms.get(row.key);
  const write = (counter: number, act: (tr: Transform) => Transform) =>
    room.compose(({ doc, seq }) => ({
      author: first.key,
      client: 'bench-versions',
      base: seq,
      edits: [
        {
          counter,
          steps: act(new Transform(doc)).steps,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' },
        },
      ],
    }));
  for (let i = 0; i < count; i++) {
    const sentence = `Sluice ${i} was opened at the ebb and shut again. `;
    await write(2 * i + 1, (tr) => tr.insert(1, schema.text(sentence)));
    await write(2 * i + 2, (tr) =>
      i % 50 === 0
        ? tr.insert(tr.doc.content.size - 1, schema.text('Kept. '))
        : tr.delete(1, 1 + sentence.length),
    );
    await app.versions.cut(row.key, room.durable, { cause: 'asked', at: Date.now() + i, by: first.key });
  }
  return null;
}

/** What the database takes on disk without its free pages. */
async function bytes(): Promise<number> {
  const one = async (pragma: string): Promise<number> => {
    const [row] = await app.database.rows<Record<string, number>>(`PRAGMA ${pragma}`, {});
    return Object.values(row ?? {})[0] ?? 0;
  };
  return (await one('page_size')) * ((await one('page_count')) - (await one('freelist_count')));
}

async function served(): Promise<Served> {
  delay.disable();
  return {
    delay: [delay.percentile(99) / 1e6, delay.max / 1e6],
    busy: performance.eventLoopUtilization(utilisation).utilization,
    parts: profiling ? await timeByPart() : {},
  };
}

async function timeByPart(): Promise<Record<string, number>> {
  const { profile } = await inspector.post('Profiler.stop');
  const parts = new Map<string, number>();
  const byId = new Map(profile.nodes.map((node) => [node.id, node]));
  let all = 0;
  for (const [i, id] of (profile.samples ?? []).entries()) {
    const node = byId.get(id);
    const time = profile.timeDeltas?.[i] ?? 0;
    if (!node || node.callFrame.functionName === '(idle)') continue;
    const part = partOf(node.callFrame.url, node.callFrame.functionName);
    parts.set(part, (parts.get(part) ?? 0) + time);
    all += time;
  }
  const shares = [...parts]
    .map(([part, time]): [string, number] => [part, time / all])
    .sort((a, b) => b[1] - a[1]);
  return Object.fromEntries(shares.slice(0, 8));
}

/** Whose code a frame is: a package, a folder of ours, or the runtime. */
function partOf(url: string, name: string): string {
  const [, pack] = /node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(url) ?? [];
  if (pack) return pack;
  const [, part, folder] = /\/(core|server|contract)\/dist\/([^/]+)/.exec(url) ?? [];
  if (part) return `${part}/${folder ?? ''}`;
  return url.startsWith('node:') ? 'node' : name === '(garbage collector)' ? 'collecting garbage' : 'engine';
}

process.on('message', (asked: Ask) => {
  answer(asked).then(
    (value) => process.send?.({ value }),
    (error: unknown) => process.send?.({ error: String(error) }),
  );
});
process.on('disconnect', () => {
  void app
    .close()
    .then(() => rm(folder, { recursive: true, force: true }))
    .then(() => process.exit(0));
});
process.send?.({ value: port });
