import { FILLER } from '@oxbow/core/content';
import type { KeepingRule, RulePreview, Thinning } from '@oxbow/contract';
import { KEEP_EVERYTHING } from '@oxbow/contract';
import { verify } from '../archive/verify.js';
import type { Caller } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

describe('keeping by a rule', () => {
  let server: TestServer;
  let ines: Caller;
  let id: string;
  let key: number;

  beforeEach(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    id = (await ines.post('/api/documents', { title: 'Rota', kind: 'text' })).body.id;
    key = (await server.app.database.models.documents.findOne({ where: { id }, raw: true }))?.key ?? 0;
    const socket = await ines.live();
    await send(socket, 'join', { document: id });
    for (let i = 1; i <= 8; i++) {
      const steps =
        i === 1 ? [typing(1, 'Day 1')] : [{ stepType: 'replace', from: 5, to: 6 }, typing(5, String(i))];
      await send(socket, 'edits', {
        document: id,
        client: 'client-ines',
        base: i - 1,
        edits: [edit(i, ...steps)],
      });
      await ines.post(`/api/documents/${id}/versions`, { major: i === 3 });
    }
    socket.close();
    await ines.post(`/api/documents/${id}/landmarks`, { number: 5, name: 'As agreed' });
  });
  afterEach(() => server.stop());

  const rule = (more: Partial<KeepingRule>): KeepingRule => ({ ...KEEP_EVERYTHING, ...more });
  const contents = async (): Promise<Map<number, string>> => {
    const { items } = (await ines.get(`/api/documents/${id}/versions`)).body as {
      items: { number: number }[];
    };
    const all = items.map(async ({ number }) => {
      const { body } = await ines.get(`/api/documents/${id}/versions/${number}`);
      return [number, JSON.stringify(body.content)] as const;
    });
    return new Map(await Promise.all(all));
  };

  it('shows what would go, lets it go, and leaves every kept version as it was', async () => {
    const before = await contents();
    const path = `/api/documents/${id}/rule`;
    expect((await ines.get(path)).body).toEqual({
      rule: KEEP_EVERYTHING,
      from: 'nobody',
      by: null,
      at: null,
      maySet: true,
      waits: false,
      mayAgree: false,
    });
    const last = rule({ keep: 'last', last: 2 });
    const preview = (await ines.post(`${path}/preview`, { rule: last })).body as RulePreview;
    // 4 is major, 5 has a name, 1 is the first, 8 and 9 are the last two.
    expect(preview.documents[0]?.go.map(({ number }) => number)).toEqual([2, 3, 6, 7]);
    expect(preview.documents[0]?.letters).toBe(4);
    expect(await server.app.thinning.thinDue(Date.now())).toBe(0);
    expect((await ines.call('PUT', path, { rule: last })).body.from).toBe('document');
    expect(await server.app.thinning.thinDue(Date.now())).toBe(4);
    const after = await contents();
    expect([...after.keys()]).toEqual([9, 8, 5, 4, 1]);
    for (const [number, content] of after) expect(content).toBe(before.get(number) as string);
    const moment = await ines.get(`/api/documents/${id}/versions/@2`);
    expect(moment.body.content.content[0].content[0].text).toBe(`Day ${FILLER}`);
    expect((await ines.get(`/api/documents/${id}/versions/3`)).status).toBe(404);
    const [thinning] = (await ines.get(`/api/documents/${id}/thinnings`)).body as Thinning[];
    expect([thinning?.by, thinning?.versions.map(({ number }) => number)]).toEqual(['ines', [2, 3, 6, 7]]);
    expect(await server.app.thinning.thinDue(Date.now())).toBe(0);
    const { body } = await ines.get(`/api/documents/${id}/history`);
    expect(body.events.at(-1).cause.kind).toBe('thinning');
    const told = await ines.get(`/api/documents/${id}/versions`);
    expect(told.body.items[2].gist).not.toContain('6');
  });

  it('goes by the document before its collection, and says what is wrong at the field', async () => {
    const collection = (await ines.post('/api/collections', { name: 'Duty' })).body.id as string;
    await ines.call('PATCH', `/api/documents/${id}`, { collection });
    const shared = `/api/collections/${collection}/rule`;
    await ines.call('PUT', shared, { rule: rule({ keep: 'last', last: 5, checkOut: true }) });
    expect((await ines.get(`/api/documents/${id}/rule`)).body.from).toBe('collection');
    expect((await ines.get(`/api/documents/${id}`)).body.checkOut).toEqual({ by: null, since: null });
    await ines.call('PUT', `/api/documents/${id}/rule`, { rule: rule({ numbers: 'major', cut: 'asked' }) });
    expect((await ines.get(`/api/documents/${id}/rule`)).body.rule.numbers).toBe('major');
    expect(
      (await ines.post(`${shared}/preview`, { rule: rule({ keep: 'last', last: 2 }) })).body.documents,
    ).toEqual([]);
    await ines.call('PUT', `/api/documents/${id}/rule`, { rule: null });
    expect((await ines.get(`/api/documents/${id}/rule`)).body.rule.last).toBe(5);
    const wrong = await ines.call('PUT', shared, { rule: rule({ keep: 'last' }) });
    expect([wrong.status, wrong.body.errors[0].path]).toEqual([422, 'rule/last']);
    expect((await ines.call('PUT', shared, { rule: rule({ keep: 'last', last: 1 }) })).status).toBe(400);
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
    const tobias = await server.as('tobias');
    expect((await tobias.call('PUT', `/api/documents/${id}/rule`, { rule: null })).status).toBe(403);
    expect((await tobias.get(`/api/documents/${id}/rule`)).body.maySet).toBeFalse();
  });

  it('makes versions only when asked, and major ones only, where it says so', async () => {
    await ines.call('PUT', `/api/documents/${id}/rule`, { rule: rule({ numbers: 'major', cut: 'asked' }) });
    const socket = await ines.live();
    await send(socket, 'join', { document: id });
    const head = (await ines.get(`/api/documents/${id}`)).body.seq as number;
    await send(socket, 'edits', {
      document: id,
      client: 'client-two',
      base: head,
      edits: [edit(1, typing(1, 'More. '))],
    });
    socket.close();
    await server.app.versions.cutDue(key, Date.now() + 3600_000);
    expect((await ines.get(`/api/documents/${id}`)).body.version).toBe(9);
    expect((await ines.post(`/api/documents/${id}/versions`, {})).body.label).toBe('2.0');
  });

  it('leaves a history that is proven, and leaves whole as an archive', async () => {
    await server.app.seals.upTo(key, 8);
    await ines.call('PUT', `/api/documents/${id}/rule`, { rule: rule({ keep: 'last', last: 2 }) });
    await server.app.thinning.thinDue(Date.now());
    const faults: string[] = [];
    for await (const one of verify(server.folder)) faults.push(...one.faults);
    expect(faults).toEqual([]);
    const response = await fetch(`http://127.0.0.1:${server.port}/api/documents/${id}/archive`, {
      headers: { Cookie: ines.cookie },
    });
    const form = new FormData();
    form.set('file', new Blob([await response.arrayBuffer()]), 'rota.zip');
    const { status, body } = await ines.call('POST', '/api/documents/archives', form);
    expect(status).withContext(JSON.stringify(body)).toBe(201);
    expect(
      (await ines.get(`/api/documents/${body.id}/versions`)).body.items.map(
        ({ number }: { number: number }) => number,
      ),
    ).toEqual([9, 8, 5, 4, 1]);
    await server.app.database.sequelize.query(
      `UPDATE edits SET "wordsIn" = 99 WHERE document = ${key} AND seq = 2`,
    );
    for await (const one of verify(server.folder)) faults.push(...one.faults);
    expect(faults[0]).toContain('was changed, and no erasure vouches for it');
  });
});
