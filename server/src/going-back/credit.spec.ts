import type { Caller } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

/** Who wrote each stretch of a document that a person sees, in order. */
async function ledgerOf(caller: Caller, document: string): Promise<string[]> {
  const { body } = await caller.get(`${document}/ledger`);
  return (body.entries as { writer: string; by: string; from: number; to: number }[]).map(
    ({ writer, by, from, to }) => `${writer} ${to - from} ${by}`,
  );
}

function file(...lines: string[]): FormData {
  const form = new FormData();
  form.set('file', new Blob([lines.join('\n\n')]), 'guide.md');
  return form;
}

describe('credit, whatever way content takes', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let guide: string;
  const lines = ['The gate is open.', 'Bring a lamp.', 'The hut has a stove.'] as const;
  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = [await server.as('ines'), await server.as('tobias')];
  });
  afterAll(() => server.stop());
  beforeEach(async () => {
    guide = `/api/documents/${(await ines.post('/api/documents/import', file(...lines))).body.id}`;
    await ines.call('PUT', `${guide}/shares/tobias`, { role: 'editor' });
  });

  it('stays with the writer in a file whose paragraphs moved', async () => {
    await tobias.post(`${guide}/files`, file(lines[2], 'New here.', lines[0], lines[1]));
    expect(await ledgerOf(ines, guide)).toEqual([
      'ines 20 ines',
      'tobias 9 tobias',
      'ines 17 tobias',
      'ines 13 tobias',
    ]);
  });

  it('stays with the writer in a copy, in what the copy adds when it comes home, and in a copy of the copy', async () => {
    const { body } = await tobias.post(`${guide}/copies`, { seq: 1, title: 'Mine' });
    const copy = `/api/documents/${body.id}`;
    expect(await ledgerOf(tobias, copy)).toEqual(['ines 17 tobias', 'ines 13 tobias', 'ines 20 tobias']);
    await tobias.post(`${copy}/files`, file(lines[0], 'Bring warm boots.', lines[1], lines[2]));
    const { seq, originSeq } = (await tobias.get(`${copy}/home`)).body;
    expect((await tobias.post(`${copy}/home`, { seq, originSeq, settled: [] })).status).toBe(201);
    expect(await ledgerOf(ines, guide)).toEqual([
      'ines 17 ines',
      'tobias 17 tobias',
      'ines 13 ines',
      'ines 20 ines',
    ]);
    const again = await tobias.post(`${copy}/copies`, { seq: 1, title: 'Mine again' });
    expect((await ledgerOf(tobias, `/api/documents/${again.body.id}`))[0]).toBe('ines 17 tobias');
    const contributors = (await tobias.get(`${copy}/contributors?after=0&upTo=1`)).body.people;
    expect(contributors).toEqual([
      jasmine.objectContaining({ person: 'tobias', written: 0, broughtBack: 12 }),
    ]);
  });

  it('stays with the writer in an assembly with another document, and in what is set aside', async () => {
    const other = (await tobias.post('/api/documents/import', file(lines[0], 'Bring a tent.', lines[2])))
      .body;
    await tobias.call('PUT', `/api/documents/${other.id}/shares/ines`, { role: 'viewer' });
    const pair = {
      earlier: `@${other.seq}`,
      later: '@1',
      with: other.id,
      decisions: [],
      otherwise: 'earlier',
    };
    const put = await ines.post(`${guide}/assemblies`, pair);
    expect(put.status).toBe(201);
    expect(await ledgerOf(ines, guide)).toEqual([
      'ines 17 ines',
      'ines 8 ines',
      'tobias 4 ines',
      'ines 1 ines',
      'ines 20 ines',
    ]);
    const aside = await ines.post(`${guide}/assemblies/documents`, { ...pair, title: 'Aside' });
    expect(await ledgerOf(ines, `/api/documents/${aside.body.id}`)).toEqual([
      'ines 17 ines',
      'ines 8 ines',
      'tobias 4 ines',
      'ines 1 ines',
      'ines 20 ines',
    ]);
  });

  it('names nobody for what nobody wrote, so that the history of a copy can leave and come back', async () => {
    const typed = (await ines.post('/api/documents', { title: 'Typed', kind: 'text' })).body.id as string;
    const live = await ines.live();
    const edits = [edit(1, typing(1, 'A word.'))];
    expect((await send(live, 'edits', { document: typed, client: 'ines-typed', base: 0, edits })).ok).toBe(
      true,
    );
    live.disconnect();
    const { body } = await ines.post(`/api/documents/${typed}/copies`, { seq: 1, title: 'Copied' });
    const told = JSON.stringify((await ines.get(`/api/documents/${body.id}/edits?after=0&upTo=9`)).body);
    expect(told).toContain('"writer":"ines"');
    expect(told).not.toContain('unknown');
  });

  it('is taken from another document only by whoever may read it, and only for what stands there', async () => {
    const secret = (await ines.post('/api/documents/import', file('A hidden spring.'))).body;
    const window = await tobias.live();
    const wish = (text: string, source: object) => ({
      ...edit(1, typing(1, text)),
      sources: [{ step: 0, at: 0, length: text.length, ...source }],
    });
    const id = guide.split('/').at(-1);
    const sent = async (text: string, source: object) =>
      send(window, 'edits', {
        document: id,
        client: `tobias-${text.length}`,
        base: 1,
        edits: [wish(text, source)],
      });
    const hidden = { document: secret.id, moment: 1, position: 1 };
    const refused = await sent('A hidden', hidden);
    expect(refused).toEqual(jasmine.objectContaining({ ok: false }));
    expect(JSON.stringify(refused)).toContain('edits/0/sources/0/document');
    expect(JSON.stringify(await sent('A h', { ...hidden, document: 'nowhere' }))).toContain('you may read');
    await ines.call('PUT', `/api/documents/${secret.id}/shares/tobias`, { role: 'viewer' });
    expect(JSON.stringify(await sent('A golden', hidden))).toContain('is not what it says it is');
    expect((await sent('A hidden ', hidden)).ok).toBe(true);
    expect((await ledgerOf(ines, guide))[0]).toBe('ines 9 tobias');
    expect((await sent('hid', { ...hidden, position: 3 })).ok).toBe(true);
    expect((await ledgerOf(ines, guide))[1]).toBe('tobias 3 tobias');
    window.disconnect();
  });
});
