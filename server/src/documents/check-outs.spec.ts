import type { Accepted } from '@oxbow/contract';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';

describe('checking out', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let id: string;
  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = [await server.as('ines'), await server.as('tobias')];
  });
  afterAll(() => server.stop());
  beforeEach(async () => {
    id = (await ines.post('/api/documents', { title: 'Briefing', kind: 'text' })).body.id;
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
  });

  const path = (): string => `/api/documents/${id}/check-out`;
  const ask = async (asked: boolean) => (await ines.call('PUT', path(), { asked })).status;
  const stands = async () => (await ines.get(`/api/documents/${id}`)).body.checkOut;
  /** Writes as somebody, and answers the status: 200 when it was accepted. */
  async function write(person: Caller, counter: number, text: string): Promise<number> {
    const live = await person.live();
    const client = person === ines ? 'ines-window' : 'tobias-window';
    const { seq } = (await ines.get(`/api/documents/${id}`)).body;
    const message = { document: id, client, base: seq, edits: [edit(counter, typing(1, text))] };
    const answer = await send<Accepted>(live, 'edits', message);
    live.disconnect();
    return answer.ok ? 200 : answer.problem.status;
  }

  it('is asked for by an owner; then only whoever has it writes, restores and keeps versions', async () => {
    expect((await tobias.call('PUT', path(), { asked: true })).status).toBe(403);
    expect(await stands()).toBeNull();
    expect(await ask(true)).toBe(204);
    expect(await stands()).toEqual({ by: null, since: null });
    expect(await write(ines, 1, 'no')).toBe(423);
    expect((await ines.post(path())).status).toBe(204);
    expect((await stands()).by).toBe('ines');
    const again = await tobias.post(path());
    expect([again.status, again.body.title]).toEqual([409, 'ines has it checked out']);
    expect(await write(tobias, 1, 'no')).toBe(423);
    expect((await tobias.post(`/api/documents/${id}/restore`, { number: 1 })).status).toBe(423);
    expect((await tobias.post(`/api/documents/${id}/versions`, {})).status).toBe(423);
    expect((await tobias.get(`/api/documents/${id}/versions/@0`)).status).toBe(200);
    expect(await write(ines, 2, 'yes')).toBe(200);
    expect(await ask(false)).toBe(204);
    expect(await write(tobias, 2, 'yes')).toBe(200);
  });

  it('ends with a version, with a comment, major or minor, or simply when nothing was changed', async () => {
    await ask(true);
    await tobias.post(path());
    expect((await ines.post(`/api/documents/${id}/check-in`, {})).status).toBe(423);
    const unchanged = await tobias.post(`/api/documents/${id}/check-in`, { comment: 'nothing' });
    expect(unchanged.body).toEqual({ version: null });
    expect(await stands()).toEqual({ by: null, since: null });
    await tobias.post(path());
    await write(tobias, 1, 'text');
    const changed = await tobias.post(`/api/documents/${id}/check-in`, { comment: 'Done', major: true });
    expect(changed.body.version).toEqual(
      jasmine.objectContaining({ cause: 'checkIn', comment: 'Done', label: '1.0', authors: ['tobias'] }),
    );
    expect((await tobias.post(`/api/documents/${id}/check-in`, {})).status).toBe(423);
  });

  it('is given up by whoever has it, and a forgotten one is ended by an owner only', async () => {
    await ask(true);
    await ines.call('PUT', `/api/documents/${id}/shares/jun`, { role: 'editor' });
    const jun = await server.as('jun');
    await tobias.post(path());
    expect((await jun.call('DELETE', path())).status).toBe(403);
    expect((await ines.call('DELETE', path())).status).toBe(204);
    expect(await write(tobias, 1, 'late')).toBe(423);
    await tobias.post(path());
    expect((await tobias.call('DELETE', path())).status).toBe(204);
    expect(await stands()).toEqual({ by: null, since: null });
    expect((await ines.get(`/api/documents/${id}/versions`)).body.items.length).toBe(1);
    await ines.call('PUT', `/api/documents/${id}/shares/jun`, { role: 'viewer' });
    expect((await jun.post(path())).status).toBe(403);
  });

  it('goes to one of two who ask at the same moment', async () => {
    await ask(true);
    const answers = await Promise.all([ines.post(path()), tobias.post(path())]);
    expect(answers.map(({ status }) => status).sort()).toEqual([204, 409]);
  });
});
