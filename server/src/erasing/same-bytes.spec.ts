import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { Random } from '@oxbow/core/testing';
import type { Caller, Client } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

const TIMES = Number(process.env['OXBOW_FUZZ'] ?? 1);
/** Scripts that are run with two secrets each: a hundred in `npm run fuzz`. */
const SCRIPTS = TIMES === 1 ? 4 : 10 * TIMES;
const SEED = TIMES === 1 ? 20261129 : Date.now();

/** Columns that tell when, by which number or under which name something is kept: what a secret does not touch. */
const ASIDE = new Set([
  'key',
  'other',
  'id',
  'client',
  'counter',
  'erasure',
  'person',
  'author',
  'watch',
  'data',
  'letter',
]);

/** A world of documents that one script made, and what went out of it. */
interface World {
  readonly documents: string[];
  readonly mails: string[];
}

describe('what is left after erasing', () => {
  let server: TestServer;
  let ines: Caller;
  let socket: Client;
  let counter = 0;

  beforeAll(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    socket = await ines.live();
  });
  afterAll(async () => {
    socket.close();
    await server.stop();
  });

  /**
   * A made-up secret; two of one length have their blanks at the same places. No sign stands twice, nor elsewhere in the text: which
   * letters of a passage are alike shows in how a file was once aligned with it, and that is of the history, not of the letters.
   */
  function secretOf(random: Random, length: number): string {
    const signs = [...'QXZJKVΓΔΘΛΞΠΣΦΨΩ0123456789'];
    return Array.from({ length }, (_, i) =>
      i % 5 === 4 ? ' ' : (signs.splice(random.between(0, signs.length - 1), 1)[0] as string),
    ).join('');
  }

  async function write(id: string, seq: number, ...steps: object[]): Promise<void> {
    const edits = [edit(++counter, ...steps)];
    const answer = await send(socket, 'edits', { document: id, client: 'client-same', base: seq, edits });
    if (!answer.ok) throw new Error(JSON.stringify(answer.problem));
  }
  const ofDocument = async (id: string) => (await ines.get(`/api/documents/${id}`)).body as { seq: number };

  /** One script of writing, copying, commenting, mailing, filing, looking and comparing; the same acts whatever the secret is. */
  async function play(seed: number, secret: string): Promise<World> {
    const random = new Random(seed);
    const { body } = await ines.post('/api/documents', {
      title: random.chance(0.3) ? `About ${secret} here` : 'About the stores',
      kind: 'text',
    });
    const documents = [body.id as string];
    const id = body.id as string;
    const before = new Set(await mails());
    await send(socket, 'join', { document: id });
    await write(id, 0, typing(1, 'The account is  of the mill.'));
    let seq = 1;
    const letterByLetter = random.chance(0.4);
    for (const part of letterByLetter ? [...secret] : [secret]) {
      await write(id, seq, typing(16 + (letterByLetter ? seq - 1 : 0), part));
      seq++;
    }
    for (let act = 0; act < 7; act++) {
      const kind = random.between(0, 8);
      const say = random.pick(['now', secret, `see ${secret}!`]);
      const { seq: head } = await ofDocument(id);
      if (kind === 0) await ines.post(`/api/documents/${id}/versions`, { comment: say });
      else if (kind === 1)
        await ines.post(`/api/documents/${id}/landmarks`, {
          seq: head,
          name: `Stage ${act} ${say}`,
          note: say,
        });
      else if (kind === 2) {
        const copy = await ines.post(`/api/documents/${id}/copies`, { seq: head, title: `Copy ${act}` });
        documents.push(copy.body.id as string);
      } else if (kind === 3) {
        const from = 16 + random.between(0, 3);
        await write(id, head, { stepType: 'replace', from, to: from + 3 });
      } else if (kind === 4) await write(id, head, typing(1, random.pick(['First. ', 'Note. '])));
      else if (kind === 5) {
        const file = new FormData();
        file.set('file', new Blob([`The account is ${secret} of the mill.\n\nMore ${act}.`]), 'back.md');
        await ines.call('POST', `/api/documents/${id}/files`, file);
      } else if (kind === 6)
        await ines.post(`/api/documents/${id}/post`, {
          to: ['orla@saltings.example'],
          subject: 'The mill',
          text: say,
          later: `@${head}`,
          format: 'markdown',
        });
      else {
        await ines.get(`/api/documents/${id}/find?q=${encodeURIComponent(secret)}`);
        await ines.get(`/api/documents/${id}/compare?earlier=@0&later=@${head}`);
      }
    }
    await ines.post(`/api/documents/${id}/versions`, {});
    const row = await server.app.database.models.documents.findOne({ where: { id }, raw: true });
    await server.app.seals.upTo(row?.key ?? 0, row?.seq ?? 0);
    const found = await ines.post(`/api/documents/${id}/erasures/preview`, { find: secret });
    expect(found.status).withContext(JSON.stringify(found.body)).toBe(200);
    await ines.post(`/api/documents/${id}/erasures`, { preview: found.body.id, reason: 'Not ours' });
    await server.app.eraser.idle();
    return { documents, mails: (await mails()).filter((name) => !before.has(name)) };
  }

  /** What is made a while after writing, made now. */
  async function index(documents: readonly string[]): Promise<void> {
    const rows = await server.app.database.models.documents.findAll({
      where: { id: [...documents] },
      raw: true,
    });
    for (const { key } of rows) await server.app.past.chronicles.index(key);
  }

  async function mails(): Promise<string[]> {
    const boxes = await Promise.all(
      ['inbox', 'outbox'].map(async (box) => {
        const names = await readdir(join(server.folder, 'mail', box)).catch(() => [] as string[]);
        return names.sort().map((name) => join(box, name));
      }),
    );
    return boxes.flat();
  }

  /** Everything that is kept of a world, as text: times, numbers and salts aside. */
  async function dump({ documents, mails: names }: World): Promise<string> {
    const rows = await server.app.database.models.documents.findAll({ where: { id: documents }, raw: true });
    const keys = rows.map(({ key }) => key).sort((a, b) => a - b);
    const out: string[] = [];
    for (const table of Object.keys(server.app.database.models)) {
      const column = table === 'documents' ? 'key' : 'document';
      const model = server.app.database.models[table as 'edits'];
      if (!(column in model.getAttributes())) continue;
      for (const [i, key] of keys.entries()) {
        const held = await server.app.database.rows<Record<string, unknown>>(
          `SELECT * FROM "${table}" WHERE "${column}" = :key ORDER BY rowid`,
          { key },
        );
        for (const row of held) out.push(`${table} of ${i}: ${told(table, row)}`);
      }
    }
    const letters: string[] = [];
    for (const name of names) {
      const text = await readFile(join(server.folder, 'mail', name), 'utf8');
      letters.push(
        text.replace(/^(Date|Message-ID|Content-Type): .*(\n .*)*$/gim, '').replace(/^--\S+$/gm, '--'),
      );
    }
    out.push(...letters.sort());
    return [...keys.map(String), ...documents].reduce(
      (text, id, i) => (id.length > 6 ? text.replaceAll(id, `document ${i}`) : text),
      out.join('\n'),
    );
  }

  function told(table: string, row: Record<string, unknown>): string {
    const fields = Object.entries(row).flatMap(([name, value]) => {
      if (table === 'seals' && name === 'data') return [[name, saltsGone(value as Buffer)]];
      if (Buffer.isBuffer(value)) return [[name, readable(value)]];
      if (ASIDE.has(name) || name === 'document') return [];
      return [[name, value]];
    });
    return JSON.stringify(fields)
      .replace(/"(at|reason)\\?":\\?"[^"]*"/g, '')
      .replace(/\b1[67]\d{11}\b/g, 'TIME')
      .replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'TIME')
      .replace(/\\"files\\":\d+/, '')
      .replace(/\\"(id|digest|key|document)\\":(\\"[^"]*\\"|\d+)/g, '');
  }

  const saltsGone = (data: Buffer): string =>
    Array.from({ length: data.length / 48 }, (_, i) =>
      data.subarray(i * 48, i * 48 + 16).every((byte) => byte === 0) ? 'gone' : 'salt',
    ).join();
  function readable(value: Buffer): string {
    try {
      return inflateSync(value).toString('latin1');
    } catch {
      return value.toString('latin1');
    }
  }

  it(
    'is the same, whatever the secret was',
    async () => {
      const random = new Random(SEED);
      for (let script = 0; script < SCRIPTS; script++) {
        const [seed, length] = [random.between(1, 1e9), random.between(6, 24)];
        const [one, other] = [secretOf(random, length), secretOf(random, length)];
        const worlds = [await play(seed, one), await play(seed, other)];
        for (const { documents } of worlds) await index(documents);
        const [left = '', right = ''] = [await dump(worlds[0] as World), await dump(worlds[1] as World)];
        expect(left.includes(one)).toBeFalse();
        const lines = right.split('\n');
        const differs = left.split('\n').findIndex((line, i) => line !== lines[i]);
        expect([left.split('\n')[differs], lines[differs]])
          .withContext(`script ${seed} with ${JSON.stringify(one)} and ${JSON.stringify(other)}`)
          .toEqual([undefined, undefined]);
        expect(lines.length).toBe(left.split('\n').length);
      }
    },
    180_000 * TIMES,
  );
});
