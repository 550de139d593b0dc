import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Share, Sharing } from '@oxbow/contract';
import PostalMime from 'postal-mime';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';
import type { Reply } from '../testing/server.js';

/** The share of something with whoever has this id, and whom all of its shares are with. */
const shareOf = ({ shares }: Sharing, id: string): Share | undefined =>
  shares.find(({ holder }) => holder.id === id);
const holders = ({ shares }: Sharing): string[] => shares.map(({ holder }) => holder.id);
const GOOD = 'quorum ladle sphinx tug';

describe('sharing a document', () => {
  let server: TestServer;
  let ines: Caller;
  let id: string;

  beforeEach(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    id = (await ines.post('/api/documents', { title: 'Guide', kind: 'text' })).body.id;
  });
  afterEach(() => server.stop());

  const share = (body: object): Promise<Reply> => ines.post(`/api/documents/${id}/shares`, body);
  const kinds = async (): Promise<string[]> =>
    (await ines.get(`/api/documents/${id}/sharing`)).body.events.map(({ kind }: { kind: string }) => kind);
  /** The texts of what was sent to an address, oldest first. */
  const lettersTo = async (address: string): Promise<string[]> => {
    const box = join(server.folder, 'mail', 'outbox');
    const names = (await readdir(box).catch(() => [])).sort();
    const letters = await Promise.all(
      names.map(async (name) => PostalMime.parse(await readFile(join(box, name)))),
    );
    return letters.filter(({ to }) => to?.[0]?.address === address).map(({ text }) => text ?? '');
  };
  const write = async (text: string): Promise<void> => {
    const socket = await ines.live();
    const joined = await send<{ seq: number }>(socket, 'join', { document: id });
    const base = joined.ok ? joined.value.seq : 0;
    await send(socket, 'edits', {
      document: id,
      client: `of-ines-${base}`,
      base,
      edits: [edit(1, typing(1, text))],
    });
    socket.disconnect();
  };

  it('is by address or by somebody’s name, with a word, and on record', async () => {
    const { status, body } = await share({
      email: 'Tobias@withy.example',
      role: 'editor',
      message: 'As agreed.',
    });
    expect(status).toBe(201);
    expect(shareOf(body, 'tobias')).toEqual(
      jasmine.objectContaining({ role: 'editor', history: 'all', until: null }),
    );
    const [letter] = await lettersTo('tobias@withy.example');
    expect(letter).toContain('As agreed.');
    expect(letter).toMatch(new RegExp(`http://localhost:\\d+/documents/${id}`));
    expect((await (await server.as('tobias')).get(`/api/documents/${id}`)).body.role).toBe('editor');
    await share({ holder: 'jun', role: 'viewer', history: 'since' });
    await ines.call('PUT', `/api/documents/${id}/shares/jun`, { role: 'commenter' });
    await ines.post(`/api/documents/${id}/shares/jun/send`);
    await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
    expect(await kinds()).toEqual(['ended', 'sent', 'changed', 'shared', 'shared']);
    expect((await lettersTo('jun@withy.example')).length).toBe(2);
    for (const wrong of [{ role: 'editor' }, { role: 'editor', email: 'a@b.example', holder: 'jun' }])
      expect((await share(wrong)).status).toBe(422);
    expect((await share({ holder: 'nobody', role: 'editor' })).status).toBe(404);
  });

  it('with an address outside invites a guest, who has it as soon as they have come, from the day of the share on', async () => {
    await write('Before the guest. ');
    const { body } = await share({
      email: 'Noor@else.example',
      role: 'editor',
      history: 'since',
      message: 'Welcome.',
    });
    expect(shareOf(body, 'noor@else.example')).toEqual(
      jasmine.objectContaining({ role: 'editor', history: 'since' }),
    );
    await write('After the invitation. ');
    await ines.post(`/api/documents/${id}/shares/noor@else.example/send`);
    const letters = await lettersTo('noor@else.example');
    expect(letters[0]).toContain('ines shares the document “Guide” with you.');
    expect(letters[0]).toContain('Welcome.');
    const tokens = letters.map((text) => /\/join\/([\w-]+)/.exec(text)?.[1] ?? '');
    const nobody = new Caller(server.port, '');
    const join = (token = ''): Promise<Reply> =>
      nobody.post(`/api/join/${token}`, { name: 'Noor Vane', initials: 'NV', colour: 1, password: GOOD });
    expect((await join(tokens[0])).status).toBe(410);
    expect((await join(tokens[1])).body.guest).toBeTrue();
    const person = server.app.people.members.find(({ name }) => name === 'Noor Vane');
    const noor = new Caller(
      server.port,
      `oxbow_session=${await server.app.people.sessions.begin(person?.key ?? 0, '')}`,
    );
    const { items } = (await noor.get('/api/documents')).body;
    expect(items.map(({ title, history, seq }: Record<string, unknown>) => [title, history, seq])).toEqual([
      ['Guide', 'since', 1],
    ]);
    const versions = (await noor.get(`/api/documents/${id}/versions`)).body.items;
    expect(versions.at(-1)).toEqual(jasmine.objectContaining({ number: 1, seq: 0, authors: ['before'] }));
    expect(holders((await ines.get(`/api/documents/${id}/sharing`)).body)).toEqual([
      'ines',
      person?.id ?? '',
    ]);
    expect(await kinds()).toEqual(['joined', 'sent', 'shared']);
  });

  it('is for owners: others neither see who is invited, nor find people, nor share', async () => {
    await share({ holder: 'jun', role: 'editor' });
    const jun = await server.as('jun');
    const tobias = await server.as('tobias');
    for (const [method, path, body] of [
      ['GET', 'sharing'],
      ['GET', 'candidates?q=to'],
      ['POST', 'shares', { holder: 'tobias', role: 'viewer' }],
      ['POST', 'shares/jun/send'],
      ['PUT', 'shares/jun', { role: 'owner' }],
      ['DELETE', 'shares/ines'],
      ['DELETE', 'shares'],
      ['DELETE', 'shares/a@b.example'],
    ] as const) {
      expect((await jun.call(method, `/api/documents/${id}/${path}`, body)).status)
        .withContext(path)
        .toBe(403);
      expect((await tobias.call(method, `/api/documents/${id}/${path}`, body)).status)
        .withContext(path)
        .toBe(404);
    }
  });

  it('finds people by the beginning of a name or an address, and none that have it', async () => {
    const found = async (q: string): Promise<string[]> =>
      (await ines.get(`/api/documents/${id}/candidates?q=${q}`)).body.map(
        ({ holder }: { holder: { id: string } }) => holder.id,
      );
    expect(await found('to')).toEqual(['tobias']);
    expect(await found('JUN@')).toEqual(['jun']);
    expect(await found('in')).toEqual([]);
    expect((await ines.get(`/api/documents/${id}/candidates?q=t`)).status).toBe(400);
    await share({ holder: 'tobias', role: 'viewer' });
    expect(await found('to')).toEqual([]);
  });

  it('ends for all but the owners at once, for those who are only invited too', async () => {
    await share({ holder: 'tobias', role: 'owner' });
    await share({ holder: 'jun', role: 'editor' });
    await share({ email: 'noor@else.example', role: 'viewer' });
    const jun = await server.as('jun');
    const socket = await jun.live();
    await send(socket, 'join', { document: id });
    const revoked = new Promise((resolve) => socket.once('revoked', resolve));
    expect((await ines.call('DELETE', `/api/documents/${id}/shares`)).status).toBe(204);
    await revoked;
    socket.disconnect();
    expect(holders((await ines.get(`/api/documents/${id}/sharing`)).body)).toEqual(['ines', 'tobias']);
    expect((await jun.get(`/api/documents/${id}`)).status).toBe(404);
  });

  it('ends by itself at its time', async () => {
    const until = new Date(Date.now() + 60_000).toISOString();
    await share({ holder: 'jun', role: 'editor', until });
    const jun = await server.as('jun');
    expect((await jun.get(`/api/documents/${id}`)).status).toBe(200);
    const { database } = server.app;
    await database.writes.add((transaction) =>
      database.models.shares.update({ until: Date.now() - 1 }, { where: { role: 'editor' }, transaction }),
    );
    expect((await jun.get(`/api/documents/${id}`)).status).toBe(404);
    expect((await jun.get('/api/documents')).body.items).toEqual([]);
    for (const body of [
      { holder: 'ines', role: 'viewer' },
      { holder: 'ines', role: 'owner', until },
    ])
      expect((await share(body)).status).toBe(409);
  });
});
