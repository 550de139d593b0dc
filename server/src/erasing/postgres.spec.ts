import { inflateSync } from 'node:zlib';
import type { Certificate, ErasurePreview, KeepingRule } from '@oxbow/contract';
import { KEEP_EVERYTHING } from '@oxbow/contract';
import { TestPostgres } from '../testing/postgres.js';
import type { Caller, Client } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

const SECRET = 'GB29 NWBK 6016 1331 9268 19';

describe('erasing over PostgreSQL', () => {
  let postgres: TestPostgres;
  let server: TestServer;
  let ines: Caller;
  let socket: Client;
  let id: string;
  let counter = 0;

  beforeAll(async () => {
    postgres = await TestPostgres.start();
    server = await TestServer.start(undefined, process.env['OXBOW_TEST_DATABASE'] ?? postgres.url);
    ines = await server.as('ines');
    socket = await ines.live();
  });
  beforeEach(async () => {
    id = (await ines.post('/api/documents', { title: 'Ordering stores', kind: 'text' })).body.id as string;
    await send(socket, 'join', { document: id });
    counter = 0;
  });
  afterAll(async () => {
    socket.close();
    await server.stop();
    await postgres.stop();
  });

  async function write(...steps: object[]): Promise<void> {
    const { body } = await ines.get(`/api/documents/${id}`);
    const message = {
      document: id,
      client: 'client-ines',
      base: body.seq,
      edits: [edit(++counter, ...steps)],
    };
    const answer = await send<unknown>(socket, 'edits', message);
    if (!answer.ok) throw new Error(JSON.stringify(answer.problem));
  }

  /** Every value of every table as text, unpacked. */
  async function everything(): Promise<string[]> {
    const { database } = server.app;
    const tables = await database.rows<{ name: string }>(
      "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public'",
      {},
    );
    const said: string[] = [];
    for (const { name } of tables)
      for (const row of await database.rows<Record<string, unknown>>(`SELECT * FROM "${name}"`, {}))
        for (const value of Object.values(row))
          said.push(`${name}: ${Buffer.isBuffer(value) ? unpacked(value) : JSON.stringify(value)}`);
    return said;
  }

  it('leaves nothing of an account number in any table, in plain or packed', async () => {
    let at = 1;
    for (const sign of `Account number: ${SECRET}`) await write(typing(at++, sign));
    await ines.post(`/api/documents/${id}/versions`, { comment: `now with ${SECRET}` });
    await ines.post(`/api/documents/${id}/landmarks`, { number: 2, name: 'With it', note: SECRET });
    await write({ stepType: 'replace', from: 17, to: 21 });
    const found = (await ines.post(`/api/documents/${id}/erasures/preview`, { numbers: 'account' }))
      .body as ErasurePreview;
    expect(found.documents.map(({ title, letters }) => [title, letters])).toEqual([
      ['Ordering stores', SECRET.length],
    ]);
    expect((await everything()).join()).toContain('NWBK');
    const wish = { preview: found.id, reason: 'Not ours' };
    expect((await ines.post(`/api/documents/${id}/erasures`, wish)).status).toBe(202);
    await server.app.eraser.idle();
    const [certificate] = (await ines.get(`/api/documents/${id}/erasures`)).body as Certificate[];
    expect(certificate?.state).toBe('done');
    expect(certificate?.checked).toEqual(jasmine.objectContaining({ found: 0, archives: true }));
    const left = (await everything()).filter((value) => /GB29|NWBK|6016 1331|9268 19/.test(value));
    expect(left).toEqual([]);
    const now = (await ines.get(`/api/documents/${id}/versions/@${counter}?format=text`)).body as string;
    expect(now).toContain('Account number: ');
  });

  it('lets go of versions by a rule', async () => {
    for (let i = 0; i < 12; i++) {
      await write(typing(1, `${i} `));
      await ines.post(`/api/documents/${id}/versions`, {});
    }
    const rule: KeepingRule = { ...KEEP_EVERYTHING, keep: 'last', last: 3 };
    expect((await ines.call('PUT', `/api/documents/${id}/rule`, { rule })).status).toBe(200);
    expect(await server.app.thinning.thinDue(Date.now())).toBeGreaterThan(6);
    const { items } = (await ines.get(`/api/documents/${id}/versions`)).body as {
      items: { number: number }[];
    };
    expect(items.length).toBeLessThan(8);
  });
});

function unpacked(value: Buffer): string {
  try {
    return inflateSync(value).toString();
  } catch {
    return value.toString('latin1');
  }
}
