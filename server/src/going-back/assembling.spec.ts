import { Caller, TestServer, edit, send, typing } from '../testing/server.js';

describe('assembling', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = [await server.as('ines'), await server.as('tobias')];
  });
  afterAll(() => server.stop());

  /** A document that read “one” when it was first kept and “two” now, with another paragraph. */
  async function changed(): Promise<{ id: string; earlier: number; later: number }> {
    const form = (text: string): FormData => {
      const data = new FormData();
      data.set('file', new Blob([text]), 'text.md');
      return data;
    };
    const made = await ines.post('/api/documents/import', form('The gate opens at one.\n'));
    const id = made.body.id as string;
    const filed = await ines.post(
      `/api/documents/${id}/files`,
      form('The gate opens at two.\n\nBring a lamp.\n'),
    );
    return { id, earlier: made.body.seq as number, later: filed.body.seq as number };
  }
  const textOf = async (id: string, seq: number): Promise<string> =>
    ((await ines.get(`/api/documents/${id}/versions/@${seq}?format=text`)).body as string).trim();

  it('puts what was decided on top, keeps what came since, and credits what came back', async () => {
    const { id, earlier, later } = await changed();
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
    const live = await tobias.live();
    await send(live, 'edits', {
      document: id,
      client: 'tobias-window',
      base: later,
      edits: [edit(1, typing(1, 'Note: '))],
    });
    live.disconnect();
    const compared = await ines.get(`/api/documents/${id}/compare?earlier=@${earlier}&later=@${later}`);
    const change = compared.body.changes.find((one: { kind: string }) => one.kind === 'replaced')
      .id as number;
    const put = await ines.post(`/api/documents/${id}/assemblies`, {
      earlier: `@${earlier}`,
      later: `@${later}`,
      decisions: [{ change, take: 'earlier' }],
      comment: 'One it is',
    });
    expect(put.status).toBe(201);
    expect(put.body.version).toEqual(jasmine.objectContaining({ cause: 'assembly', comment: 'One it is' }));
    expect(await textOf(id, put.body.seq)).toBe('Note: The gate opens at one.\nBring a lamp.');
    const edits = await ines.get(`/api/documents/${id}/edits?after=${put.body.seq - 1}&upTo=${put.body.seq}`);
    expect(edits.body[0].sources[0].seq).toBe(earlier);
    const history = await ines.get(`/api/documents/${id}/history`);
    const { cause } = history.body.events.at(-1);
    expect(cause).toEqual(jasmine.objectContaining({ kind: 'assembly', earlier, later, title: '' }));
    expect(await textOf(id, later)).toBe('The gate opens at two.\nBring a lamp.');
  });

  it('sets it aside as a private document that can come home, or sends it as a file', async () => {
    const { id, earlier, later } = await changed();
    const pair = { earlier: `@${earlier}`, later: `@${later}`, decisions: [], otherwise: 'earlier' };
    const aside = await ines.post(`/api/documents/${id}/assemblies/documents`, {
      ...pair,
      title: 'As it was',
    });
    expect(aside.status).toBe(201);
    expect(await textOf(aside.body.id, aside.body.seq)).toBe('The gate opens at one.');
    expect((await tobias.get(`/api/documents/${aside.body.id}`)).status).toBe(404);
    const home = await ines.get(`/api/documents/${aside.body.id}/home`);
    expect(home.body.origin).toEqual(jasmine.objectContaining({ document: id, moment: later }));
    const file = await ines.post(`/api/documents/${id}/assemblies/file`, { ...pair, format: 'markdown' });
    expect(file.body).toBe('The gate opens at one.\n');
  });

  it('says what is wrong with a request, and lets nobody put together what they may not see', async () => {
    const { id, earlier, later } = await changed();
    const turned = { earlier: `@${later}`, later: `@${earlier}`, decisions: [] };
    expect((await ines.post(`/api/documents/${id}/assemblies`, turned)).status).toBe(422);
    const same = { earlier: `@${earlier}`, later: `@${later}`, decisions: [] };
    expect((await ines.post(`/api/documents/${id}/assemblies`, same)).status).toBe(409);
    expect((await tobias.post(`/api/documents/${id}/assemblies`, same)).status).toBe(404);
    const other = await changed();
    await ines.call('PUT', `/api/documents/${other.id}/shares/tobias`, { role: 'editor' });
    const across = { ...same, later: `@${other.later}`, with: id };
    expect((await tobias.post(`/api/documents/${other.id}/assemblies`, across)).status).toBe(404);
  });
});
