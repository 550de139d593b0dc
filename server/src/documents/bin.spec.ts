import type { BinnedDocument } from '@oxbow/contract';
import type { Model, ModelStatic } from 'sequelize';
import { PICTURE } from '../testing/worlds.js';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';

const DAY = 24 * 3600_000;

describe('the bin', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let id: string;

  beforeEach(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
    id = await made('Guide');
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
  });
  afterEach(() => server.stop());

  const made = async (title: string): Promise<string> => {
    const { body } = await ines.post('/api/documents', { title, kind: 'text' });
    const socket = await ines.live();
    await send(socket, 'join', { document: body.id });
    await send(socket, 'edits', {
      document: body.id,
      client: 'of-ines-1',
      base: 0,
      edits: [edit(1, typing(1, 'The redshank nests. '))],
    });
    socket.disconnect();
    return body.id;
  };
  const bin = async (who: Caller): Promise<BinnedDocument[]> => (await who.get('/api/bin')).body;
  const status = async (who: Caller, path = ''): Promise<number> =>
    (await who.get(`/api/documents/${id}${path}`)).status;

  it('takes a document from everybody at once, is its owners’ to see, and gives it back as it was had', async () => {
    const link = (await ines.post(`/api/documents/${id}/links`, { shows: 'now' })).body;
    const page = (): Promise<number> =>
      fetch(`http://127.0.0.1:${server.port}${new URL(link.address).pathname}`).then((one) => one.status);
    const socket = await tobias.live();
    await send(socket, 'join', { document: id });
    const revoked = new Promise((resolve) => socket.once('revoked', resolve));
    expect((await tobias.call('DELETE', `/api/documents/${id}`)).status).toBe(403);
    expect((await ines.call('DELETE', `/api/documents/${id}`)).status).toBe(204);
    await revoked;
    expect((await send(socket, 'join', { document: id })).ok).toBeFalse();
    socket.disconnect();
    for (const path of ['', '/versions', '/sharing', '/archive', '/versions/1'])
      expect(await status(ines, path))
        .withContext(path)
        .toBe(404);
    expect([await status(tobias), await page()]).toEqual([404, 410]);
    expect((await ines.get('/api/documents')).body.items).toEqual([]);
    expect((await ines.get('/api/find?q=redshank')).body.items ?? []).toEqual([]);
    const [binned] = await bin(ines);
    expect(binned).toEqual(jasmine.objectContaining({ id, title: 'Guide' }));
    expect(binned?.goes.people).toBe(1);
    const days = (Date.parse(binned?.goes.at ?? '') - Date.parse(binned?.binned ?? '')) / DAY;
    expect(days).toBe(30);
    expect(await bin(tobias)).toEqual([]);
    expect((await tobias.post(`/api/documents/${id}/put-back`)).status).toBe(404);
    expect((await ines.post(`/api/documents/${id}/put-back`)).body).toEqual(
      jasmine.objectContaining({ id, role: 'owner', seq: 1 }),
    );
    expect([await status(tobias), await page(), await bin(ines)]).toEqual([200, 200, []]);
    const { events } = (await ines.get(`/api/documents/${id}/sharing`)).body;
    expect(events.slice(0, 2).map(({ kind }: { kind: string }) => kind)).toEqual(['putBack', 'binned']);
  });

  it('deletes for good: no table holds anything of the document, and other documents keep theirs', async () => {
    const other = await made('Notes');
    const { database, images } = server.app;
    const keyOf = async (one: string): Promise<number> =>
      (await database.models.documents.findOne({ where: { id: one }, raw: true }))?.key ?? 0;
    const [key, otherKey] = [await keyOf(id), await keyOf(other)];
    await images.store(key, PICTURE.data);
    await images.store(otherKey, PICTURE.data);
    await ines.post(`/api/documents/${id}/landmarks`, { seq: 1, name: 'As agreed' });
    await ines.post(`/api/documents/${id}/links`, { shows: 'now' });
    await ines.post(`/api/documents/${id}/watches`, {});
    await server.app.chronicles.indexSoon(key);
    expect((await ines.call('DELETE', `/api/bin/${id}`)).status).toBe(404);
    await ines.call('DELETE', `/api/documents/${id}`);
    expect((await tobias.call('DELETE', `/api/bin/${id}`)).status).toBe(404);
    expect((await ines.call('DELETE', `/api/bin/${id}`)).status).toBe(204);
    for (const [name, model] of Object.entries(database.models) as [string, ModelStatic<Model>][])
      if ('document' in model.getAttributes())
        expect(await model.count({ where: { document: key } }))
          .withContext(name)
          .toBe(0);
    expect(await keyOf(id)).toBe(0);
    expect(await bin(ines)).toEqual([]);
    expect((await ines.get(`/api/documents/${other}/versions/1`)).status).toBe(200);
    expect(await database.models.images.count()).toBe(1);
    await ines.call('DELETE', `/api/documents/${other}`);
    await ines.call('DELETE', `/api/bin/${other}`);
    expect(await database.models.images.count()).toBe(0);
  });

  it('is emptied of what was in it long enough, and goes on with what a fall left half done', async () => {
    const young = await made('Notes');
    for (const one of [id, young]) await ines.call('DELETE', `/api/documents/${one}`);
    const { database } = server.app;
    const age = (one: string, binned: number): Promise<unknown> =>
      database.writes.add((transaction) =>
        database.models.documents.update({ binned }, { where: { id: one }, transaction }),
      );
    await age(id, Date.now() - 31 * DAY);
    await server.app.bin.deleteDue(Date.now());
    expect((await bin(ines)).map(({ title }) => title)).toEqual(['Notes']);
    await age(young, -1);
    expect(await bin(ines)).toEqual([]);
    await server.app.bin.deleteDue(Date.now());
    expect(await database.models.documents.count()).toBe(0);
  });

  it('keeps as long as the organisation says', async () => {
    await ines.call('PATCH', '/api/settings', { binDays: 2 });
    await ines.call('DELETE', `/api/documents/${id}`);
    await server.app.bin.deleteDue(Date.now() + DAY);
    expect((await bin(ines)).length).toBe(1);
    await server.app.bin.deleteDue(Date.now() + 3 * DAY);
    expect(await bin(ines)).toEqual([]);
  });
});
