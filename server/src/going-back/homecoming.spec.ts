import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

describe('copies that come home', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let origin: string;
  let copy: string;

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
  });
  afterAll(() => server.stop());

  const BASE = ['The gate is open.', 'Bring boots.', 'The hut has a stove.', 'Dogs stay out.'];
  const file = (lines: readonly string[]): FormData => {
    const form = new FormData();
    form.set('file', new Blob([lines.join('\n\n')]), 'guide.md');
    return form;
  };
  const textOf = async (who: Caller, path: string): Promise<string> => {
    const { seq } = (await who.get(path)).body;
    return ((await who.get(`${path}/versions/@${seq}?format=text`)).body as string).trim();
  };

  beforeEach(async () => {
    origin = `/api/documents/${(await ines.post('/api/documents/import', file(BASE))).body.id}`;
    await ines.call('PUT', `${origin}/shares/tobias`, { role: 'editor' });
    copy = `/api/documents/${(await tobias.post(`${origin}/copies`, { seq: 1, title: 'Mine' })).body.id}`;
  });

  it('brings what only the copy changed, keeps what only the origin changed, and says so first', async () => {
    await tobias.post(`${copy}/files`, file(['The gate is open.', 'Bring warm boots.', ...BASE.slice(2)]));
    await ines.post(`${origin}/files`, file([...BASE.slice(0, 3), 'Dogs stay on a lead.']));
    const { body } = await tobias.get(`${copy}/home`);
    expect(body.conflicts).toEqual([]);
    expect([body.changes, body.wordsAdded, body.origin.title]).toEqual([1, 1, 'Guide']);
    const { seq, originSeq } = body;
    const brought = await tobias.post(`${copy}/home`, { seq, originSeq, settled: [], comment: 'Boots.' });
    expect(brought.status).toBe(201);
    expect(await textOf(ines, origin)).toBe(
      'The gate is open.\nBring warm boots.\nThe hut has a stove.\nDogs stay on a lead.',
    );
    const events = (await ines.get(`${origin}/history`)).body.events;
    expect(events.at(-1).cause).toEqual(jasmine.objectContaining({ kind: 'merge', title: 'Mine' }));
    const back = await ines.post(`${origin}/take-back`, { seq: brought.body.seq });
    expect(back.status).toBe(201);
    expect(await textOf(ines, origin)).toContain('Bring boots.');
  });

  it('asks where something stands that both moved, and what form it has that both gave one', async () => {
    const [gate, boots, hut, dogs] = BASE as [string, string, string, string];
    await tobias.post(`${copy}/files`, file([boots, gate, `## ${hut}`, dogs]));
    await ines.post(`${origin}/files`, file([boots, `# ${hut}`, dogs, gate]));
    const { body } = await tobias.get(`${copy}/home`);
    expect(body.conflicts).toEqual([
      { id: 0, kind: 'place', base: '', origin: dogs, copy: boots, about: gate },
      {
        id: 1,
        kind: 'form',
        base: 'paragraph',
        origin: 'heading, level 1',
        copy: 'heading, level 2',
        about: hut,
      },
    ]);
    const { seq, originSeq } = body;
    const settled = [
      { id: 0, take: 'copy' },
      { id: 1, take: 'origin' },
    ];
    await tobias.post(`${copy}/home`, { seq, originSeq, settled });
    expect(await textOf(ines, origin)).toBe([boots, gate, hut, dogs].join('\n'));
  });

  it('asks about what both changed differently, and guesses nothing', async () => {
    await tobias.post(`${copy}/files`, file(['The gate is shut.', ...BASE.slice(1)]));
    await ines.post(`${origin}/files`, file(['The gate is broken.', ...BASE.slice(1)]));
    const { body } = await tobias.get(`${copy}/home`);
    expect(body.conflicts).toEqual([
      jasmine.objectContaining({ kind: 'text', base: 'open', origin: 'broken', copy: 'shut' }),
    ]);
    const { seq, originSeq } = body;
    const open = await tobias.post(`${copy}/home`, { seq, originSeq, settled: [] });
    expect([open.status, open.body.errors[0].path]).toEqual([409, 'settled/0']);
    expect(await textOf(ines, origin)).toContain('The gate is broken.');
    const settled = [{ id: 0, take: 'copy' }];
    expect((await tobias.post(`${copy}/home`, { seq, originSeq: originSeq - 1, settled })).status).toBe(409);
    expect((await tobias.post(`${copy}/home`, { seq, originSeq, settled })).status).toBe(201);
    expect(await textOf(ines, origin)).toContain('The gate is shut.');
  });

  it('is for copies only, and for those who may write in the origin', async () => {
    expect((await ines.get(`${origin}/home`)).status).toBe(404);
    await tobias.post(`${copy}/files`, file(['The gate is shut.', ...BASE.slice(1)]));
    await ines.call('PUT', `${origin}/shares/tobias`, { role: 'viewer' });
    const { body } = await tobias.get(`${copy}/home`);
    expect(body.origin.mayWrite).toBeFalse();
    const { seq, originSeq } = body;
    expect((await tobias.post(`${copy}/home`, { seq, originSeq, settled: [] })).status).toBe(403);
    await ines.call('DELETE', `${origin}/shares/tobias`);
    expect((await tobias.get(`${copy}/home`)).status).toBe(404);
  });

  it('brings sheets home cell by cell, and asks only about cells that both wrote', async () => {
    const rows = (lines: readonly string[]): FormData => {
      const form = new FormData();
      form.set('file', new Blob([lines.join('\n')]), 'budget.csv');
      return form;
    };
    const budget = ['Post,Spring,Summer', 'Rope,120,80', 'Paint,60,40', 'Boats,400,300'];
    const [head, , , boats] = budget as [string, string, string, string];
    origin = `/api/documents/${(await ines.post('/api/documents/import', rows(budget))).body.id}`;
    await ines.call('PUT', `${origin}/shares/tobias`, { role: 'editor' });
    copy = `/api/documents/${(await tobias.post(`${origin}/copies`, { seq: 1, title: 'Mine' })).body.id}`;
    await tobias.post(`${copy}/files`, rows([head, boats, 'Rope,150,80', 'Paint,60,45', 'Sails,90,0']));
    await ines.post(`${origin}/files`, rows([head, 'Rope,160,80', 'Paint,65,40', 'Boats,400,310']));
    const { body } = await tobias.get(`${copy}/home`);
    expect(body.conflicts).toEqual([
      { id: 0, kind: 'whole', where: 'B2 · Rope', base: '120', origin: '160', copy: '150' },
    ]);
    const { seq, originSeq } = body;
    const settled = [{ id: 0, take: 'both' }];
    expect((await tobias.post(`${copy}/home`, { seq, originSeq, settled })).status).toBe(201);
    const now = (await ines.get(origin)).body.seq as number;
    const csv = (await ines.get(`${origin}/versions/@${now}?format=csv`)).body as string;
    expect(csv.trim().split(/\r?\n/)).toEqual([
      head,
      'Boats,400,310',
      'Rope,160,80',
      'Paint,65,45',
      'Sails,90,0',
    ]);
  });
});
