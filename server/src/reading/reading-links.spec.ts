import type { ReadingLink } from '@oxbow/contract';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';
import type { Reply } from '../testing/server.js';

describe('reading links', () => {
  let server: TestServer;
  let ines: Caller;
  let id: string;
  const nobody = (): Caller => new Caller(server.port, '');

  beforeEach(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    id = (await ines.post('/api/documents', { title: 'Guide & <more>', kind: 'text' })).body.id;
    await write('The tide mill. ');
  });
  afterEach(() => server.stop());

  const write = (text: string): Promise<number> => submit(typing(1, text));
  const submit = async (...steps: object[]): Promise<number> => {
    const socket = await ines.live();
    const joined = await send<{ seq: number }>(socket, 'join', { document: id });
    const base = joined.ok ? joined.value.seq : 0;
    await send(socket, 'edits', {
      document: id,
      client: `of-ines-${base}`,
      base,
      edits: [edit(1, ...steps)],
    });
    socket.disconnect();
    return base + 1;
  };
  const make = async (input: object = {}): Promise<ReadingLink & { path: string; token: string }> => {
    const { status, body } = await ines.post(`/api/documents/${id}/links`, { shows: 'now', ...input });
    expect(status).withContext(JSON.stringify(body)).toBe(201);
    const path = new URL(body.address).pathname;
    return { ...body, path, token: path.split('/').at(-1) ?? '' };
  };
  const page = async (
    path: string,
    init: RequestInit = {},
  ): Promise<{ status: number; text: string; headers: Headers }> => {
    const response = await fetch(`http://127.0.0.1:${server.port}${path}`, init);
    return { status: response.status, text: await response.text(), headers: response.headers };
  };
  const withPassword = (password: string): RequestInit => ({
    method: 'POST',
    body: new URLSearchParams({ password }),
  });
  const read = (token: string, password?: string): Promise<Reply> =>
    nobody().call(
      'GET',
      `/api/read/${token}`,
      undefined,
      password === undefined
        ? {}
        : { Authorization: `Basic ${Buffer.from(`anybody:${password}`).toString('base64')}` },
    );

  it('show the document as it is now to whoever has them, and nothing else of it', async () => {
    const link = await make();
    const { status, text, headers } = await page(link.path);
    expect(status).toBe(200);
    expect(text).toContain('The tide mill.');
    expect(text).toContain('<title>Guide &#x26; &#x3C;more></title>');
    await write('Now: ');
    expect((await page(link.path)).text).toContain('Now: The tide mill.');
    for (const secret of ['ines', id, 'seq', 'author', 'version', '<script'])
      expect(text.toLowerCase()).withContext(secret).not.toContain(secret);
    expect(headers.get('x-robots-tag')).toBe('noindex, nofollow');
    expect(headers.get('cache-control')).toBe('no-store');
    expect(headers.get('set-cookie')).toBeNull();
    const { body } = await read(link.token);
    expect(Object.keys(body).sort()).toEqual(['content', 'title']);
    expect(JSON.stringify(body.content)).toContain('Now: The tide mill.');
  });

  it('show slides as they are shown: neither hidden ones nor what whoever speaks has noted', async () => {
    id = (await ines.post('/api/documents', { title: 'Boats', kind: 'deck' })).body.id;
    await submit(typing(2, 'Ebb'), typing(12, 'whisper'));
    const link = await make();
    const both = async (): Promise<string> =>
      `${(await page(link.path)).text} ${JSON.stringify((await read(link.token)).body.content)}`;
    expect((await both()).match(/Ebb/g)?.length).toBe(2);
    expect(await both()).not.toContain('whisper');
    await submit({ stepType: 'attr', pos: 0, attr: 'hidden', value: true });
    expect((await page(link.path)).status).toBe(200);
    expect(await both()).not.toContain('Ebb');
  });

  it('show the latest landmark, where that is asked for, and need one', async () => {
    const { status, body } = await ines.post(`/api/documents/${id}/links`, { shows: 'landmark' });
    expect([status, body.errors[0].path]).toEqual([422, 'shows']);
    const seq = await write('Agreed. ');
    await ines.post(`/api/documents/${id}/landmarks`, { seq, name: 'As agreed' });
    await write('Not yet agreed. ');
    const link = await make({ shows: 'landmark' });
    const { text } = await page(link.path);
    expect(text).toContain('Agreed. The tide mill.');
    expect(text).not.toContain('Not yet');
    expect(text).not.toContain('As agreed');
    const [landmark] = (await ines.get(`/api/documents/${id}/landmarks`)).body;
    await ines.call('DELETE', `/api/documents/${id}/landmarks/${landmark.id}`);
    expect((await page(link.path)).text).toContain('There is nothing to read here yet');
  });

  it('show nothing of what was erased, though the page was held ready', async () => {
    const seq = await write('Account 4711. ');
    await ines.post(`/api/documents/${id}/landmarks`, { seq, name: 'As agreed' });
    const link = await make({ shows: 'landmark' });
    expect((await page(link.path)).text).toContain('4711');
    const { body } = await ines.post(`/api/documents/${id}/erasures/preview`, { find: 'Account 4711' });
    await ines.post(`/api/documents/${id}/erasures`, { preview: body.id, reason: 'Not ours' });
    await server.app.eraser.idle();
    const { status, text } = await page(link.path);
    expect([status, text.includes('The tide mill.')]).toEqual([200, true]);
    expect(text).not.toContain('4711');
    expect(JSON.stringify((await read(link.token)).body)).not.toContain('4711');
  });

  it('ask for a password, do not let it be guessed, and take it in a form or as HTTP Basic', async () => {
    const link = await make({ password: 'reed and sluice' });
    expect(link.password).toBeTrue();
    const asked = await page(link.path);
    expect([asked.status, asked.text.includes('type="password"'), asked.text.includes('tide')]).toEqual([
      401,
      true,
      false,
    ]);
    expect((await read(link.token)).status).toBe(401);
    expect((await page(link.path, withPassword('no'))).text).toContain('This is not the password');
    expect((await page(link.path, withPassword('reed and sluice'))).text).toContain('The tide mill.');
    expect((await read(link.token, 'reed and sluice')).status).toBe(200);
    const statuses: number[] = [];
    for (let i = 0; i < 7; i++) statuses.push((await page(link.path, withPassword(`guess ${i}`))).status);
    expect(statuses.at(-1)).toBe(429);
    expect((await read(link.token, 'reed and sluice')).status).toBe(429);
  });

  it('end when they are ended, at their time, with another, and with their document', async () => {
    const first = await make();
    const second = await make();
    expect([(await page(first.path)).status, (await page(second.path)).status]).toEqual([410, 200]);
    expect((await ines.call('DELETE', `/api/documents/${id}/links/${second.id}`)).status).toBe(204);
    expect((await ines.call('DELETE', `/api/documents/${id}/links/${second.id}`)).status).toBe(404);
    expect((await page(second.path)).status).toBe(410);
    const third = await make({ until: new Date(Date.now() + 60_000).toISOString() });
    expect((await page(third.path)).status).toBe(200);
    const { database } = server.app;
    await database.writes.add((transaction) =>
      database.models.readingLinks.update(
        { until: Date.now() - 1 },
        { where: { id: third.id }, transaction },
      ),
    );
    expect([(await page(third.path)).status, (await read(third.token)).status]).toEqual([410, 410]);
    expect((await page(`/read/${'x'.repeat(32)}`)).status).toBe(404);
    const { body } = await ines.get(`/api/documents/${id}/links`);
    expect(body.map((one: ReadingLink) => [one.address === '', one.ended !== null])).toEqual([
      [false, false],
      [true, true],
      [true, true],
    ]);
    const { events } = (await ines.get(`/api/documents/${id}/sharing`)).body;
    expect(events.map(({ kind, holder }: { kind: string; holder: unknown }) => [kind, holder])).toEqual([
      ['linked', null],
      ['unlinked', null],
      ['linked', null],
      ['linked', null],
    ]);
  });

  it('may be framed only where the owner says', async () => {
    const ancestors = async (link: { path: string }): Promise<string> =>
      /frame-ancestors ([^;]*)/.exec(
        (await page(link.path)).headers.get('content-security-policy') ?? '',
      )?.[1] ?? '';
    expect(await ancestors(await make())).toBe("'none'");
    const framed = await make({ frames: ['https://withymill.example'] });
    expect(await ancestors(framed)).toBe('https://withymill.example');
    expect((await page(framed.path)).headers.get('x-frame-options')).toBeNull();
    for (const wrong of ["'self'; script-src *", 'https://a.example/path', 'javascript:x'])
      expect((await ines.post(`/api/documents/${id}/links`, { shows: 'now', frames: [wrong] })).status).toBe(
        400,
      );
  });

  it('count their visits without a name, and are not asked for without end', async () => {
    const link = await make();
    for (let i = 0; i < 3; i++) await page(link.path);
    await read(link.token);
    const [told] = (await ines.get(`/api/documents/${id}/links`)).body as ReadingLink[];
    expect([told?.visits, told?.visited === null]).toEqual([4, false]);
    const statuses = new Set<number>();
    for (let i = 0; i < 125; i++)
      statuses.add(
        (await page(`/read/${'y'.repeat(32)}`, { headers: { 'X-Forwarded-For': '203.0.113.9' } })).status,
      );
    expect([...statuses]).toEqual([404, 429]);
    expect((await page(link.path)).status).toBe(200);
  });

  it('are for owners', async () => {
    const tobias = await server.as('tobias');
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
    const jun = await server.as('jun');
    for (const [method, path, body] of [
      ['GET', 'links', undefined],
      ['POST', 'links', { shows: 'now' }],
      ['DELETE', 'links/x', undefined],
    ] as const) {
      expect((await tobias.call(method, `/api/documents/${id}/${path}`, body)).status).toBe(403);
      expect((await jun.call(method, `/api/documents/${id}/${path}`, body)).status).toBe(404);
    }
  });
});
