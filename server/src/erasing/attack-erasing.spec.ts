import { mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Certificate, ErasurePreview, Notice } from '@oxbow/contract';
import type { Caller, Reply } from '../testing/server.js';
import { TestServer, edit, send, typing } from '../testing/server.js';

const SECRET = 'Gate code 4711 for the sluice';

describe('erasing, by somebody who tries to reach what is not theirs', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let jun: Caller;
  let id: string;

  beforeEach(async () => {
    server = await TestServer.start();
    [ines, tobias, jun] = await Promise.all([server.as('ines'), server.as('tobias'), server.as('jun')]);
    id = await make(ines, 'Guide');
    await write(ines, id, `${SECRET}. The rest.`);
    await ines.post(`/api/documents/${id}/versions`, {});
  });
  afterEach(() => server.stop());

  const make = async (who: Caller, title: string, collection: string | null = null): Promise<string> =>
    (await who.post('/api/documents', { title, kind: 'text', collection })).body.id;
  const write = async (who: Caller, document: string, text: string): Promise<void> => {
    const socket = await who.live();
    const joined = await send<{ seq: number }>(socket, 'join', { document });
    const base = joined.ok ? joined.value.seq : 0;
    const message = { document, client: `window-${base}`, base, edits: [edit(1, typing(1, text))] };
    expect((await send(socket, 'edits', message)).ok).toBeTrue();
    socket.disconnect();
  };
  const share = (document: string, whom: string, role: string, history?: string): Promise<Reply> =>
    ines.call('PUT', `/api/documents/${document}/shares/${whom}`, { role, ...(history ? { history } : {}) });
  const text = async (who: Caller, document: string): Promise<string> => {
    const { seq } = (await who.get(`/api/documents/${document}`)).body;
    return (await who.get(`/api/documents/${document}/versions/@${seq}?format=text`)).body as string;
  };
  const preview = async (who: Caller, document: string, find = SECRET): Promise<ErasurePreview> => {
    const { status, body } = await who.post(`/api/documents/${document}/erasures/preview`, { find });
    expect(status).withContext(JSON.stringify(body)).toBe(200);
    return body;
  };
  const erase = async (who: Caller, document: string, find = SECRET): Promise<Certificate> => {
    const held = await preview(who, document, find);
    const { status, body } = await who.post(`/api/documents/${document}/erasures`, {
      preview: held.id,
      reason: 'Not ours',
    });
    expect(status).toBe(202);
    await server.app.eraser.idle();
    return body;
  };
  const erasures = async (who: Caller, document: string): Promise<Certificate[]> =>
    (await who.get(`/api/documents/${document}/erasures`)).body;
  const answer = (who: Caller, document: string, erasure: string, agree: boolean): Promise<Reply> =>
    who.post(`/api/documents/${document}/erasures/${erasure}/answer`, { agree });
  const copied = async (who: Caller, document: string, title = 'Copy'): Promise<string> =>
    (await who.post(`/api/documents/${document}/copies`, { number: 2, title })).body.id;
  const isErased = async (who: Caller, document: string): Promise<boolean> =>
    !(await text(who, document)).includes(SECRET);

  it('reaches no document in which they may not erase: its owners are asked, and agree by themselves', async () => {
    await share(id, 'tobias', 'viewer');
    const copy = await copied(tobias, id);
    const found = await preview(tobias, copy);
    expect(found.documents.map(({ title, asks }) => [title, asks])).toEqual([
      ['Copy', false],
      ['Guide', true],
    ]);
    await erase(tobias, copy);
    expect([await isErased(tobias, copy), await isErased(ines, id)]).toEqual([true, false]);
    const [asked] = await erasures(ines, id);
    expect([asked?.state, asked?.by, asked?.mayAgree, asked?.texts]).toEqual([
      'asked',
      'tobias',
      true,
      [SECRET],
    ]);
    const notices = (await ines.get('/api/notices')).body as Notice[];
    expect(notices.map(({ kind, by }) => [kind, by])).toEqual([['erasure', ['tobias']]]);
    expect((await answer(tobias, id, asked?.id ?? '', true)).status).toBe(403);
    expect((await answer(ines, id, asked?.id ?? '', true)).status).toBe(200);
    await server.app.eraser.idle();
    expect(await isErased(ines, id)).toBeTrue();
    // Each has a certificate of their own, and nobody is asked again.
    const [own] = await erasures(tobias, copy);
    expect(own?.documents.map(({ title }) => title)).toEqual(['Copy']);
    expect((await erasures(ines, id)).map(({ state, agreed }) => [state, agreed])).toEqual([
      ['done', 'ines'],
    ]);
  });

  it('leaves what an owner declines, and asks once', async () => {
    await share(id, 'tobias', 'viewer');
    const copy = await copied(tobias, id);
    await erase(tobias, copy);
    const [asked] = await erasures(ines, id);
    await answer(ines, id, asked?.id ?? '', false);
    await server.app.erasures.resume();
    expect(await isErased(ines, id)).toBeFalse();
    expect((await erasures(ines, id)).map(({ state }) => state)).toEqual(['declined']);
  });

  it('tells owners nothing of copies that they may not see, neither before nor after', async () => {
    const before = await preview(ines, id);
    await share(id, 'tobias', 'viewer');
    const copy = await copied(tobias, id);
    await tobias.post(`/api/documents/${copy}/versions`, { comment: SECRET });
    await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
    expect({ ...(await preview(ines, id)), id: before.id }).toEqual(before);
    await erase(ines, id);
    const [certificate] = await erasures(ines, id);
    expect(certificate?.documents.map(({ document }) => document)).toEqual([id]);
    expect(JSON.stringify(certificate)).not.toContain(copy);
    expect([await isErased(ines, id), await isErased(tobias, copy)]).toEqual([true, false]);
    expect((await erasures(tobias, copy)).map(({ state, by }) => [state, by])).toEqual([['asked', 'ines']]);
  });

  it('changes the name of a collection only for its owner', async () => {
    const { id: collection } = (await ines.post('/api/collections', { name: SECRET })).body;
    await ines.call('PUT', `/api/collections/${collection}/shares/tobias`, { role: 'editor' });
    const own = await make(tobias, 'Rota', collection);
    await write(tobias, own, SECRET);
    await erase(tobias, own);
    expect((await ines.get('/api/collections')).body[0].name).toBe(SECRET);
    await ines.call('PATCH', `/api/documents/${id}`, { collection });
    await erase(ines, id);
    expect((await ines.get('/api/collections')).body[0].name).not.toContain('4711');
  });

  it('touches no letter of others by the words in it, and counts none', async () => {
    const inbox = join(server.folder, 'mail', 'inbox');
    await mkdir(inbox, { recursive: true });
    const letter = (to: string): string =>
      [
        'From: Petra <petra@else.example>',
        `To: ${to}`,
        'Date: Tue, 01 Dec 2026 09:00:00 +0000',
        'Subject: Codes',
        'MIME-Version: 1.0',
        'Content-Type: multipart/mixed; boundary=b',
        '',
        '--b',
        'Content-Type: text/plain',
        '',
        SECRET,
        '--b',
        'Content-Type: text/plain; name="codes.txt"',
        'Content-Disposition: attachment; filename="codes.txt"',
        '',
        SECRET,
        '--b--',
        '',
      ].join('\r\n');
    const held = {
      jun: letter('jun@withy.example'),
      both: letter('jun@withy.example, tobias@withy.example'),
    };
    for (const [name, content] of Object.entries(held)) await writeFile(join(inbox, `${name}.eml`), content);
    const own = await make(tobias, 'Typed');
    await write(tobias, own, SECRET);
    await tobias.call('PUT', `/api/documents/${own}/shares/jun`, { role: 'viewer' });
    // A letter to both is filed by one of them, into a document of their own.
    const [both] = (await tobias.get('/api/arrivals')).body;
    const filed = (await tobias.post(`/api/arrivals/${both.id}/files/0/filing`, { title: 'Filed' })).body;
    expect(await text(tobias, filed.document)).toContain(SECRET);
    const found = await preview(tobias, own);
    expect(found.documents.map(({ title }) => title)).toEqual(['Typed', 'Filed']);
    expect([found.places, found.sent]).toEqual([[], 0]);
    await erase(tobias, own);
    expect(await isErased(tobias, filed.document)).toBeTrue();
    const [certificate] = await erasures(tobias, own);
    expect([certificate?.places, certificate?.checked?.files]).toEqual([[], 0]);
    for (const [name, content] of Object.entries(held))
      expect(await readFile(join(inbox, `${name}.eml`), 'utf8')).toBe(content);
    expect(await readdir(inbox)).toHaveSize(2);
  });

  it('has agreement of a second owner from whoever owned it when it was asked', async () => {
    await ines.call('PATCH', '/api/settings', { secondOwner: true });
    await share(id, 'tobias', 'owner');
    // Removing the other owner first does not spare the question.
    expect((await ines.call('DELETE', `/api/documents/${id}/shares/tobias`)).status).toBe(204);
    const held = await preview(ines, id);
    expect(held.needsSecond).toBeTrue();
    const asked = (await ines.post(`/api/documents/${id}/erasures`, { preview: held.id, reason: 'Not ours' }))
      .body;
    expect([asked.state, asked.askedOf]).toEqual(['asked', ['tobias']]);
    // Nor does an owner who was made one afterwards.
    await share(id, 'jun', 'owner');
    expect((await answer(jun, id, asked.id, true)).status).toBe(403);
    expect((await answer(tobias, id, asked.id, true)).status).toBe(404);
    expect((await ines.call('DELETE', `/api/documents/${id}`)).status).toBeLessThan(300);
    expect((await ines.call('DELETE', `/api/bin/${id}`)).status).toBe(409);
    await ines.post(`/api/documents/${id}/put-back`);
    await share(id, 'tobias', 'owner');
    expect((await answer(tobias, id, asked.id, true)).status).toBe(200);
    await server.app.eraser.idle();
    expect(await isErased(ines, id)).toBeTrue();
  });

  it('is not gone round by a rule, nor by moving the document out of the other owner’s collection', async () => {
    await ines.call('PATCH', '/api/settings', { secondOwner: true });
    const { id: collection } = (await tobias.post('/api/collections', { name: 'Boats' })).body;
    await tobias.call('PUT', `/api/collections/${collection}/shares/ines`, { role: 'editor' });
    id = await make(ines, 'Guide', collection);
    for (const part of ['one ', 'two ', 'three ']) {
      await write(ines, id, part);
      await ines.post(`/api/documents/${id}/versions`, {});
    }
    await ines.call('PATCH', `/api/documents/${id}`, { collection: null });
    expect((await preview(ines, id, 'three')).needsSecond).toBeTrue();
    const rule = { keep: 'last', last: 2, cut: 'pauses', numbers: 'minor', checkOut: false };
    const set = await ines.call('PUT', `/api/documents/${id}/rule`, { rule });
    expect([set.status, set.body.waits, set.body.mayAgree]).toEqual([200, true, false]);
    expect(await server.app.thinning.thinDue(Date.now())).toBe(0);
    await ines.call('PUT', `/api/documents/${id}/rule`, { rule });
    expect(await server.app.thinning.thinDue(Date.now())).toBe(0);
    await share(id, 'tobias', 'owner');
    expect((await tobias.get(`/api/documents/${id}/rule`)).body.mayAgree).toBeTrue();
    await tobias.call('PUT', `/api/documents/${id}/rule`, { rule });
    expect((await ines.get(`/api/documents/${id}/rule`)).body.waits).toBeFalse();
    expect(await server.app.thinning.thinDue(Date.now())).toBeGreaterThan(0);
  });
});
