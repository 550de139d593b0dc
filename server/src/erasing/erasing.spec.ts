import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import type { Certificate, ErasurePreview } from '@oxbow/contract';
import { FILLER } from '@oxbow/core/content';
import { setTimeout as pause } from 'node:timers/promises';
import type { Caller, Client } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

const SECRET = 'GB29 NWBK 6016 1331 9268 19';

describe('erasing', () => {
  let server: TestServer;
  let ines: Caller;
  let socket: Client;
  let id: string;
  let counter = 0;

  beforeEach(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    socket = await ines.live();
    counter = 0;
    id = await make('Ordering stores');
  });
  afterEach(async () => {
    socket.close();
    await server.stop();
  });

  async function make(title: string): Promise<string> {
    const { body } = await ines.post('/api/documents', { title, kind: 'text' });
    await send(socket, 'join', { document: body.id });
    return body.id as string;
  }
  async function write(document: string, ...steps: object[]): Promise<number> {
    const { body } = await ines.get(`/api/documents/${document}`);
    const answer = await send<{ results: { seq: number }[] }>(socket, 'edits', {
      document,
      client: 'client-ines',
      base: body.seq,
      edits: [edit(++counter, ...steps)],
    });
    if (!answer.ok) throw new Error(JSON.stringify(answer.problem));
    return answer.value.results[0]?.seq ?? 0;
  }
  const text = async (document: string, moment: string): Promise<string> =>
    (await ines.get(`/api/documents/${document}/versions/${moment}?format=text`)).body as string;
  async function preview(wish: object): Promise<ErasurePreview> {
    const { status, body } = await ines.post(`/api/documents/${id}/erasures/preview`, wish);
    expect(status).toBe(200);
    return body as ErasurePreview;
  }
  async function erase(wish: object): Promise<Certificate> {
    const { id: held } = await preview(wish);
    const { status } = await ines.post(`/api/documents/${id}/erasures`, {
      preview: held,
      reason: 'Not ours',
    });
    expect(status).toBe(202);
    return done();
  }
  async function done(): Promise<Certificate> {
    await server.app.eraser.idle();
    const { body } = await ines.get(`/api/documents/${id}/erasures`);
    return (body as Certificate[])[0] as Certificate;
  }

  /** Everything that the data folder holds, file by file, and what is packed in it. */
  async function folder(): Promise<Buffer[]> {
    const names = await readdir(server.folder, { recursive: true, withFileTypes: true });
    const files = await Promise.all(
      names.filter((one) => one.isFile()).map((one) => readFile(join(one.parentPath, one.name))),
    );
    const packed: Buffer[] = [];
    for (const [table, column] of [
      ['checkpoints', 'data'],
      ['provenance', 'forms'],
      ['letters', 'texts'],
      ['gauges', 'sittings'],
    ])
      for (const row of await server.app.database.rows<Record<string, Buffer>>(
        `SELECT ${column} FROM ${table}`,
        {},
      ))
        packed.push(inflateSync(Buffer.from(row[column as string] as Buffer)));
    return [...files, ...packed];
  }
  async function foundIn(text: string): Promise<number> {
    const all = await folder();
    return ['utf8', 'utf16le'].reduce(
      (sum, encoding) =>
        sum + all.filter((one) => one.includes(Buffer.from(text, encoding as 'utf8'))).length,
      0,
    );
  }

  it('leaves nothing to what was under way when it began: an index, a version, somebody who looks back', async () => {
    const { app } = server;
    for (let round = 0; round < 6; round++) {
      id = await make(`Round ${round}`);
      let at = 1;
      for (const part of ['The account is ', ...SECRET.split(/(?= )/), ' of the mill.']) {
        await write(id, typing(at, part));
        at += part.length;
      }
      const shown = await write(id, typing(1, `${SECRET} and `));
      const key = (await app.database.models.documents.findOne({ where: { id }, raw: true }))?.key ?? 0;
      const { id: held } = await preview({ find: SECRET });
      // What reads the log goes on all the while, and what it makes of it is written whenever it comes to that.
      let isOver = false;
      const busy = async (act: () => Promise<unknown>): Promise<void> => {
        while (!isOver) await act();
      };
      const under = [
        busy(() => app.past.chronicles.index(key)),
        busy(() => ines.get(`/api/documents/${id}/find?q=account`)),
        busy(() => ines.get(`/api/documents/${id}/versions/@${shown}?format=text`)),
        busy(() => ines.post(`/api/documents/${id}/versions`, {})),
      ];
      await ines.post(`/api/documents/${id}/erasures`, { preview: held, reason: 'Not ours' });
      const certificate = await done();
      isOver = true;
      await Promise.all(under);
      expect(certificate.checked?.found).toBe(0);
      await app.past.chronicles.index(key);
      expect(await text(id, `@${shown}`)).not.toContain('NWBK');
      const letters = await app.database.models.letters.findAll({ where: { document: key }, raw: true });
      const versions = await app.database.models.versions.findAll({ where: { document: key }, raw: true });
      for (const { texts } of letters) expect(inflateSync(texts).toString()).not.toContain('GB29');
      for (const { gist } of versions) expect(gist).not.toContain('NWBK');
      expect((await ines.get(`/api/documents/${id}/find?q=NWBK`)).body.items ?? []).toEqual([]);
    }
  });

  it('reads what was removed and brought back once, not letter beside letter', async () => {
    await write(id, typing(1, 'Call Tobias before noon.'));
    await ines.post(`/api/documents/${id}/versions`, {});
    await write(id, { stepType: 'replace', from: 1, to: 13 });
    expect((await ines.post(`/api/documents/${id}/restore`, { number: 2 })).status).toBe(201);
    const { body } = await ines.get(`/api/documents/${id}`);
    const found = await preview({ passage: { moment: body.seq, from: 1, to: 12 } });
    expect(found.texts).toEqual(['Call Tobias']);
  });

  it('takes an account number out of the present, every version, a copy, and all that quotes it', async () => {
    await write(id, typing(1, 'Account number: '));
    for (const [i, sign] of [...SECRET].entries()) await write(id, typing(17 + i, sign));
    await ines.post(`/api/documents/${id}/versions`, { comment: `now with ${SECRET}` });
    await ines.post(`/api/documents/${id}/landmarks`, { number: 2, name: 'With the number', note: SECRET });
    const copy = (await ines.post(`/api/documents/${id}/copies`, { number: 2, title: 'A copy' })).body
      .id as string;
    await write(id, { stepType: 'replace', from: 20, to: 24 });
    await ines.post(`/api/documents/${id}/versions`, {});
    const found = await preview({ numbers: 'account' });
    expect(found.texts.join(' ')).toContain('GB2');
    expect(found.documents.map(({ title, letters, now }) => [title, letters, now])).toEqual([
      ['Ordering stores', SECRET.length, true],
      ['A copy', SECRET.length, true],
    ]);
    expect(found.documents[0]?.numbers).toEqual([2, 3]);
    expect(found.places).toEqual(
      jasmine.arrayWithExactContents([
        { place: 'comment', times: 1 },
        { place: 'landmark', times: 1 },
      ]),
    );
    expect(await foundIn(SECRET)).toBeGreaterThan(0);
    const certificate = await erase({ numbers: 'account' });
    expect(certificate.state).toBe('done');
    expect(certificate.checked).toEqual(jasmine.objectContaining({ found: 0 }));
    expect(certificate.documents.length).toBe(2);
    for (const part of [SECRET, 'GB29', 'NWBK', '6016 1331', '9268 19']) expect(await foundIn(part)).toBe(0);
    expect(await text(id, '2')).toContain('Account number: ');
    expect(await text(copy, `@1`)).not.toContain('NWBK');
    const { body: moment } = await ines.get(`/api/documents/${id}/versions/2`);
    expect(JSON.stringify(moment.content)).toContain(`Account number: ${FILLER.repeat(SECRET.length)}`);
    const { body: history } = await ines.get(`/api/documents/${id}/history`);
    expect(history.events.at(-1).cause).toEqual(
      jasmine.objectContaining({ kind: 'erasure', letters: SECRET.length }),
    );
    await server.app.close();
    server = await TestServer.start(server.folder);
    ines = await server.as('ines');
    expect(await foundIn('NWBK')).toBe(0);
    expect(JSON.stringify((await ines.get(`/api/documents/${id}/versions/2`)).body.content)).toContain(
      `Account number: ${FILLER.repeat(SECRET.length)}`,
    );
    socket = await ines.live();
  });

  it('goes on where a fall broke it off', async () => {
    await write(id, typing(1, `Pay ${SECRET} now`));
    await ines.post(`/api/documents/${id}/versions`, {});
    const held = await preview({ find: 'NWBK 6016' });
    const { key } = (await server.app.database.models.documents.findOne({ where: { id }, raw: true })) as {
      key: number;
    };
    spyOn(server.app.versions, 'retell').and.rejectWith(new Error('struck'));
    await ines.post(`/api/documents/${id}/erasures`, { preview: held.id, reason: 'Not ours' });
    await pause(50);
    expect((await done()).state).toBe('running');
    expect(key).toBeGreaterThan(0);
    await server.app.close();
    server = await TestServer.start(server.folder);
    ines = await server.as('ines');
    socket = await ines.live();
    expect((await done()).state).toBe('done');
    expect(await foundIn('NWBK')).toBe(0);
    expect(await foundIn('GB29')).toBeGreaterThan(0);
  });

  it('is for owners, says nothing of the text in its reason, and forgets a preview', async () => {
    await write(id, typing(1, `Pay ${SECRET} now`));
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
    const tobias = await server.as('tobias');
    expect((await tobias.post(`/api/documents/${id}/erasures/preview`, { find: 'NWBK' })).status).toBe(403);
    const { id: held } = await preview({ find: 'NWBK' });
    const told = await ines.post(`/api/documents/${id}/erasures`, {
      preview: held,
      reason: 'nwbk is not ours',
    });
    expect([told.status, told.body.errors[0].path]).toEqual([422, 'reason']);
    const gone = await ines.post(`/api/documents/${id}/erasures`, { preview: 'other', reason: 'x' });
    expect(gone.status).toBe(404);
    expect((await ines.post(`/api/documents/${id}/erasures/preview`, { find: 'nowhere' })).status).toBe(422);
    expect((await ines.post(`/api/documents/${id}/erasures/preview`, {})).status).toBe(422);
  });

  it('waits for a second owner where the organisation asks for one', async () => {
    await write(id, typing(1, `Pay ${SECRET} now`));
    await ines.call('PATCH', '/api/settings', { secondOwner: true });
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'owner' });
    const tobias = await server.as('tobias');
    const { id: held, needsSecond } = await preview({ find: 'NWBK' });
    expect(needsSecond).toBeTrue();
    const asked = (await ines.post(`/api/documents/${id}/erasures`, { preview: held, reason: 'Not ours' }))
      .body;
    expect([asked.state, asked.mayAgree]).toEqual(['asked', false]);
    const path = `/api/documents/${id}/erasures/${asked.id}/answer`;
    expect((await ines.post(path, { agree: true })).status).toBe(403);
    expect((await tobias.get(`/api/documents/${id}/erasures`)).body[0].mayAgree).toBeTrue();
    expect((await tobias.post(path, { agree: true })).status).toBe(200);
    const certificate = await done();
    expect([certificate.state, certificate.agreed]).toEqual(['done', 'tobias']);
    expect(await foundIn('NWBK')).toBe(0);
  });

  it('blanks what a stale window brings back of it, and takes no text that says it was erased', async () => {
    await write(id, typing(1, `Pay ${SECRET} now`));
    const base = (await ines.get(`/api/documents/${id}`)).body.seq as number;
    await erase({ find: SECRET });
    const answer = await send<{ results: { seq: number }[] }>(socket, 'edits', {
      document: id,
      client: 'client-ines',
      base,
      edits: [
        {
          ...edit(++counter, typing(1, SECRET)),
          sources: [{ step: 0, at: 0, length: SECRET.length, seq: 1, offset: 4 }],
        },
        edit(++counter, typing(1, `${FILLER}x`)),
      ],
    });
    expect(answer.ok).toBeTrue();
    const { body } = await ines.get(`/api/documents/${id}/versions/@${base + 3}`);
    expect(body.content.content[0].content[0].text).toBe(
      `\ufffdx${FILLER.repeat(SECRET.length)}Pay ${FILLER.repeat(SECRET.length)} now`,
    );
    expect(await foundIn('NWBK')).toBe(0);
  });

  it('stays what it is in a file that goes out and comes back, whatever is changed round it', async () => {
    await write(id, typing(1, `Pay ${SECRET} now`));
    await erase({ find: SECRET });
    const sent = await text(id, '@1');
    expect(sent).toContain(`Pay ${'█'.repeat(SECRET.length)} now`);
    const form = new FormData();
    form.set('file', new Blob([sent.replace('now', 'by noon')]), 'stores.txt');
    expect((await ines.post(`/api/documents/${id}/files`, form)).status).toBe(201);
    const { seq } = (await ines.get(`/api/documents/${id}`)).body;
    const { body } = await ines.get(`/api/documents/${id}/versions/@${seq}`);
    expect(body.content.content[0].content[0].text).toBe(`Pay ${FILLER.repeat(SECRET.length)} by noon`);
    const compared = await ines.get(`/api/documents/${id}/compare?earlier=@${seq - 1}&later=@${seq}`);
    expect(
      compared.body.changes.map(({ earlier, later }: { earlier: string; later: string }) => [earlier, later]),
    ).toEqual([['now', 'by noon']]);
  });

  it('erases what only some versions show, what one person wrote in a stretch, and an image', async () => {
    await write(id, typing(1, 'Kept. '));
    await write(id, typing(7, 'Only once.'));
    await ines.post(`/api/documents/${id}/versions`, {});
    await write(id, { stepType: 'replace', from: 7, to: 17 });
    await write(id, typing(7, 'Later.'));
    await ines.post(`/api/documents/${id}/versions`, {});
    await erase({ versions: [2] });
    expect(JSON.stringify((await ines.get(`/api/documents/${id}/versions/2`)).body.content)).toContain(
      `Kept. ${FILLER.repeat(10)}`,
    );
    expect(await text(id, '3')).toBe('Kept. Later.\n');
    await erase({ from: '@3', to: '3', person: 'ines' });
    expect(await foundIn('Later.')).toBe(0);
    expect(await text(id, '3')).toContain('Kept. ');
  });

  it('knows of every table whether it holds words, and how they go', async () => {
    const { SILENT_TABLES, TEXT_TABLES, WORD_COLUMNS } = await import('./holdings.js');
    const words = new Set<string>(WORD_COLUMNS.map(({ table }) => table));
    const tables = await server.app.database.rows<{ name: string }>(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`,
      {},
    );
    const unknown = tables
      .map(({ name }) => name)
      .filter((name) => ![SILENT_TABLES, TEXT_TABLES, words].some((set) => set.has(name)))
      .filter((name) => name !== 'migrations' && !/^words_/.test(name));
    expect(unknown).toEqual([]);
    const files = await readdir(server.folder);
    const known = [
      'mail',
      'uploads',
      'erasures.jsonl',
      'oxbow.sqlite',
      'oxbow.sqlite-shm',
      'oxbow.sqlite-wal',
    ];
    expect(files.filter((name) => !known.includes(name))).toEqual([]);
  });
});

describe('discarding', () => {
  let server: TestServer;
  let ines: Caller;
  let id: string;

  beforeAll(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    id = (await ines.post('/api/documents', { title: 'Rota', kind: 'text' })).body.id;
    const socket = await ines.live();
    for (let i = 1; i <= 3; i++) {
      await send(socket, 'join', { document: id });
      await send(socket, 'edits', {
        document: id,
        client: 'client-ines',
        base: i - 1,
        edits: [edit(i, typing(1, `Day ${i} `))],
      });
      await ines.post(`/api/documents/${id}/versions`, {});
    }
    socket.close();
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
  });
  afterAll(() => server.stop());
  const numbers = async (who: Caller): Promise<number[]> =>
    (await who.get(`/api/documents/${id}/versions`)).body.items.map(
      ({ number }: { number: number }) => number,
    );

  it('hides a version, keeps its number for ever, and puts it back where it stood', async () => {
    const tobias = await server.as('tobias');
    expect((await tobias.call('DELETE', `/api/documents/${id}/versions/4`)).status).toBe(403);
    expect((await ines.call('DELETE', `/api/documents/${id}/versions/4`)).status).toBe(204);
    expect(await numbers(ines)).toEqual([3, 2, 1]);
    expect((await tobias.get(`/api/documents/${id}/versions/4`)).status).toBe(404);
    expect((await ines.get(`/api/documents/${id}`)).body.version).toBe(3);
    expect((await ines.get(`/api/documents/${id}/versions/@3?format=text`)).body).toBe(
      'Day 3 Day 2 Day 1 \n',
    );
    expect((await ines.post(`/api/documents/${id}/versions`, {})).status).toBe(409);
    const [held] = (await ines.get(`/api/documents/${id}/discards`)).body;
    expect([held.version.number, held.by]).toEqual([4, 'ines']);
    expect((await tobias.get(`/api/documents/${id}/discards`)).status).toBe(403);
    const socket = await ines.live();
    await send(socket, 'join', { document: id });
    await send(socket, 'edits', {
      document: id,
      client: 'client-two',
      base: 3,
      edits: [edit(1, typing(1, 'x'))],
    });
    socket.close();
    expect((await ines.post(`/api/documents/${id}/versions`, {})).body.number).toBe(5);
    expect(await numbers(ines)).toEqual([5, 3, 2, 1]);
    expect((await ines.post(`/api/documents/${id}/versions/4/put-back`)).body.number).toBe(4);
    expect(await numbers(tobias)).toEqual([5, 4, 3, 2, 1]);
    expect((await ines.post(`/api/documents/${id}/versions/4/put-back`)).status).toBe(404);
    expect((await ines.call('DELETE', `/api/documents/${id}/versions/1`)).status).toBe(409);
    expect((await ines.call('DELETE', `/api/documents/${id}/versions/77`)).status).toBe(404);
  });
});
