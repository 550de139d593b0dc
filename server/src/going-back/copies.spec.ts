import type { History, Homecoming } from '@oxbow/contract';
import type { Caller } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

describe('copies that somebody makes who has a document from a day on', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let id: string;

  beforeEach(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
    id = (await ines.post('/api/documents', { title: 'Guide', kind: 'text' })).body.id;
    for (const part of ['One. ', 'Two. ', 'Three. ']) await write(ines, id, part);
    const how = { role: 'editor', history: 'since' };
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, how);
    await write(ines, id, 'Since. ');
  });
  afterEach(() => server.stop());

  const write = async (who: Caller, document: string, text: string, at = 1): Promise<void> => {
    const socket = await who.live();
    const joined = await send<{ seq: number }>(socket, 'join', { document });
    const base = joined.ok ? joined.value.seq : 0;
    const message = { document, client: `window-${base}`, base, edits: [edit(1, typing(at, text))] };
    expect((await send(socket, 'edits', message)).ok).toBeTrue();
    socket.disconnect();
  };
  const text = async (who: Caller, document: string): Promise<string> => {
    const { seq } = (await who.get(`/api/documents/${document}`)).body;
    return (await who.get(`/api/documents/${document}/versions/@${seq}?format=text`)).body as string;
  };
  const events = async (document: string): Promise<History['events']> =>
    (await tobias.get(`/api/documents/${document}/history`)).body.events;
  const comesHome = async (copy: string): Promise<Homecoming> => {
    const { status, body } = await tobias.get(`/api/documents/${copy}/home`);
    expect(status).withContext(JSON.stringify(body)).toBe(200);
    return body;
  };
  const bring = async (copy: string, { seq, originSeq }: Homecoming): Promise<number> =>
    (await tobias.post(`/api/documents/${copy}/home`, { seq, originSeq, settled: [] })).status;

  it('tell no number of the whole history, and come home to the moment they began as', async () => {
    const copy = (await tobias.post(`/api/documents/${id}/copies`, { seq: 1, title: 'Copy' })).body.id;
    expect((await events(copy)).map(({ cause }) => cause)).toEqual([
      { kind: 'copy', document: id, title: 'Guide', moment: 1 },
    ]);
    await write(tobias, copy, 'Mine. ');
    await write(ines, id, 'Meanwhile. ', 1 + 'Since. Three. Two. One. '.length);
    const home = await comesHome(copy);
    expect([home.origin.moment, home.changes, home.conflicts.length]).toEqual([1, 1, 0]);
    expect(await bring(copy, home)).toBe(201);
    for (const part of ['Mine.', 'Meanwhile.', 'Since.', 'One.'])
      expect(await text(ines, id)).toContain(part);
  });

  it('are set aside from a comparison, and come home to its later moment', async () => {
    const aside = { earlier: '@0', later: '@1', decisions: [], title: 'Aside' };
    const { status, body } = await tobias.post(`/api/documents/${id}/assemblies/documents`, aside);
    expect(status).withContext(JSON.stringify(body)).toBe(201);
    expect(JSON.stringify(await events(body.id))).not.toMatch(/"(moment|later|earlier)":[2-9]/);
    await write(tobias, body.id, 'Mine. ');
    const home = await comesHome(body.id);
    expect([home.origin.moment, home.changes]).toEqual([1, 1]);
    expect(await bring(body.id, home)).toBe(201);
    expect(await text(ines, id)).toContain('Mine. Since.');
  });

  it('leave nothing when the document is not shared any more before they are whole', async () => {
    const lend = server.app.images.lend.bind(server.app.images);
    spyOn(server.app.images, 'lend').and.callFake(async (...given) => {
      await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
      return lend(...given);
    });
    const { status } = await tobias.post(`/api/documents/${id}/copies`, { seq: 1, title: 'Copy' });
    expect(status).toBeGreaterThanOrEqual(400);
    expect((await tobias.get('/api/documents')).body.items).toEqual([]);
    const rows = await server.app.database.rows('SELECT title FROM documents WHERE title = :title', {
      title: 'Copy',
    });
    expect(rows).toEqual([]);
  });

  it('and restoring is not done for somebody whose share ended while it was worked on', async () => {
    const before = await text(ines, id);
    const turning = server.app.comparisons.turning.bind(server.app.comparisons);
    spyOn(server.app.comparisons, 'turning').and.callFake(async (...given) => {
      await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
      return turning(...given);
    });
    expect((await tobias.post(`/api/documents/${id}/restore`, { seq: 0 })).status).toBe(404);
    expect(await text(ines, id)).toBe(before);
  });
});
