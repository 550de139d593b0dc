import type { Notice } from '@oxbow/contract';
import { TestServer } from '../testing/server.js';
import type { Caller, Reply } from '../testing/server.js';

describe('asking for a document', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let id: string;

  beforeEach(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
    id = (await ines.post('/api/documents', { title: 'Guide', kind: 'text' })).body.id;
  });
  afterEach(() => server.stop());

  const ask = (who: Caller, document: string, message?: string): Promise<Reply> =>
    who.post(`/api/documents/${document}/asking`, message === undefined ? {} : { message });
  const notices = async (who: Caller): Promise<Notice[]> => (await who.get('/api/notices')).body;
  /** Waits until somebody has so many notices. */
  const told = async (who: Caller, count: number): Promise<Notice[]> => {
    for (let i = 0; i < 100; i++) {
      const list = await notices(who);
      if (list.length === count) return list;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    return notices(who);
  };

  it('is told to its owners, with a word and a name, and answered in one step', async () => {
    expect((await ask(tobias, id, ' I count the birds. ')).status).toBe(204);
    const [notice] = await told(ines, 1);
    expect(notice).toEqual(
      jasmine.objectContaining({ kind: 'asked', document: id, by: ['tobias'], text: 'I count the birds.' }),
    );
    const met = (await ines.get('/api/people')).body.map((one: { id: string }) => one.id);
    expect(met).toContain('tobias');
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'viewer' });
    expect(await notices(ines)).toEqual([]);
    expect((await tobias.get(`/api/documents/${id}`)).body.role).toBe('viewer');
  });

  it('is told once however often it is asked, and to owners only', async () => {
    const jun = await server.as('jun');
    await ines.call('PUT', `/api/documents/${id}/shares/jun`, { role: 'editor' });
    await ask(tobias, id, 'Please.');
    await told(ines, 1);
    await ask(tobias, id, 'Please, please.');
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect((await notices(ines)).map(({ text }) => text)).toEqual(['Please, please.']);
    expect(await notices(jun)).toEqual([]);
    await ask(jun, id, 'I have it already.');
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect((await notices(ines)).length).toBe(1);
  });

  it('tells nobody whether there is such a document, and not endlessly', async () => {
    const [there, not] = [await ask(tobias, id), await ask(tobias, 'nowhere')];
    expect([there.status, JSON.stringify(there.body)]).toEqual([not.status, JSON.stringify(not.body)]);
    const statuses: number[] = [];
    for (let i = 0; i < 6; i++) statuses.push((await ask(tobias, 'nowhere')).status);
    expect(statuses).toContain(429);
    expect((await ask(tobias, id, 'x'.repeat(501))).status).toBe(400);
  });
});
