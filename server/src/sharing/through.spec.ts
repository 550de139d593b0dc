import type { Collection, Group, Having, HistoryReach, Role, Sharing } from '@oxbow/contract';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';
import type { Reply } from '../testing/server.js';

describe('sharing through groups and collections', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let jun: Caller;

  beforeEach(async () => {
    server = await TestServer.start();
    [ines, tobias, jun] = await Promise.all([server.as('ines'), server.as('tobias'), server.as('jun')]);
  });
  afterEach(() => server.stop());

  const made = async (title: string, collection: string | null = null): Promise<string> =>
    (await ines.post('/api/documents', { title, kind: 'text', collection })).body.id;
  const group = async (name: string, ...people: string[]): Promise<Group> => {
    const { body } = await ines.post('/api/groups', { name });
    return (await ines.call('PATCH', `/api/groups/${body.id}`, { people })).body;
  };
  const collection = async (name: string): Promise<Collection> =>
    (await ines.post('/api/collections', { name })).body;
  const share = (path: string, holder: string, role: Role, history: HistoryReach = 'all'): Promise<Reply> =>
    ines.call('PUT', `/api/${path}/shares/${holder}`, { role, history });
  const roleOf = async (who: Caller, id: string): Promise<string | number> => {
    const { status, body } = await who.get(`/api/documents/${id}`);
    return status === 200 ? body.role : status;
  };
  const writing = async (id: string, text: string): Promise<void> => {
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

  it('gives a document to whoever is in a group, as long as they are', async () => {
    const id = await made('Guide');
    const crew = await group('Boat crew', 'tobias', 'jun');
    await share(`documents/${id}`, crew.id, 'editor');
    expect(await roleOf(tobias, id)).toBe('editor');
    const socket = await jun.live();
    await send(socket, 'join', { document: id });
    const revoked = new Promise((resolve) => socket.once('revoked', resolve));
    await ines.call('PATCH', `/api/groups/${crew.id}`, { people: ['tobias'] });
    await revoked;
    socket.disconnect();
    expect([await roleOf(tobias, id), await roleOf(jun, id)]).toEqual(['editor', 404]);
    expect((await jun.get('/api/documents')).body.items).toEqual([]);
    await ines.call('DELETE', `/api/groups/${crew.id}`);
    expect(await roleOf(tobias, id)).toBe(404);
  });

  it('tells nobody who has no history which versions and moments there are', async () => {
    const id = await made('Guide');
    for (const text of ['One. ', 'Two. ']) await writing(id, text);
    await share(`documents/${id}`, 'jun', 'editor', 'none');
    await writing(id, 'Three. ');
    const before = (await jun.get(`/api/documents/${id}`)).body;
    const ask = (moment: string): Promise<Reply> => jun.get(`/api/documents/${id}/versions/${moment}`);
    const now = await ask(`@${before.seq}`);
    expect([now.status, now.body.version]).toEqual([200, null]);
    const answers = await Promise.all(['1', '2', '9', '@0', '@99'].map(ask));
    expect(new Set(answers.map(({ status, body }) => `${status} ${JSON.stringify(body)}`)).size).toBe(1);
    await ines.post(`/api/documents/${id}/versions`, {});
    expect((await jun.get(`/api/documents/${id}`)).body.version).toBe(before.version);
    expect((await jun.post(`/api/documents/${id}/versions`, {})).status).toBe(403);
  });

  it('shows whoever comes to a group later a shared history from their own day on', async () => {
    const id = await made('Guide');
    await writing(id, 'Before. ');
    const crew = await group('Boat crew', 'tobias');
    await share(`documents/${id}`, crew.id, 'editor', 'since');
    await writing(id, 'Between. ');
    await ines.call('PATCH', `/api/groups/${crew.id}`, { people: ['tobias', 'jun'] });
    await writing(id, 'After. ');
    const seqs = async (): Promise<number[]> =>
      Promise.all([tobias, jun].map(async (who) => (await who.get(`/api/documents/${id}`)).body.seq));
    expect(await seqs()).toEqual([2, 1]);
    const versions = (await jun.get(`/api/documents/${id}/versions`)).body.items;
    expect(versions.at(-1)).toEqual(jasmine.objectContaining({ number: 1, seq: 0, authors: ['before'] }));
    // Coming back is coming anew; a share of the whole history tells all of it.
    await ines.call('PATCH', `/api/groups/${crew.id}`, { people: ['tobias'] });
    await ines.call('PATCH', `/api/groups/${crew.id}`, { people: ['tobias', 'jun'] });
    expect(await seqs()).toEqual([2, 0]);
    await share(`documents/${id}`, crew.id, 'editor', 'all');
    expect(await seqs()).toEqual([3, 3]);
  });

  it('closes open windows when a share ends by itself', async () => {
    const id = await made('Guide');
    const crew = await group('Boat crew', 'jun');
    await share(`documents/${id}`, crew.id, 'editor');
    await share(`documents/${id}`, 'tobias', 'editor');
    const sockets = await Promise.all([jun.live(), tobias.live()]);
    const revoked: string[] = [];
    for (const [i, socket] of sockets.entries()) {
      await send(socket, 'join', { document: id });
      socket.on('revoked', () => revoked.push(['jun', 'tobias'][i] ?? ''));
    }
    const until = Date.now() - 1;
    const { database, shares } = server.app;
    await database.writes.add((transaction) =>
      database.models.shares.update({ until }, { where: { person: 0 }, transaction }),
    );
    const closed = new Promise((resolve) => sockets[0]?.once('revoked', resolve));
    await shares.ended(until - 1, Date.now());
    await closed;
    expect(revoked).toEqual(['jun']);
    for (const socket of sockets) socket.disconnect();
  });

  it('gives a document to everybody here, but to no guest, and tells nobody who that is', async () => {
    const id = await made('House rules');
    const { key } = server.app.people.byId('jun') ?? { key: 0 };
    await server.app.database.writes.add((transaction) =>
      server.app.database.models.people.update({ guest: 1 }, { where: { key }, transaction }),
    );
    await share(`documents/${id}`, 'everybody', 'viewer');
    expect([await roleOf(tobias, id), await roleOf(jun, id)]).toEqual(['viewer', 404]);
    const met = (await tobias.get('/api/people')).body.map((one: { id: string }) => one.id);
    expect(met.sort()).toEqual(['ines', 'tobias']);
    const { body } = await ines.get(`/api/documents/${id}/sharing`);
    expect((body as Sharing).having.map(({ person }) => person.id)).toEqual(['ines']);
  });

  it('lets the nearer share count, and says which one does', async () => {
    const { id: board } = await collection('Visitors');
    const id = await made('Guide', board);
    const crew = await group('Boat crew', 'tobias');
    await share(`collections/${board}`, 'everybody', 'viewer');
    expect(await roleOf(tobias, id)).toBe('viewer');
    await share(`collections/${board}`, crew.id, 'editor');
    expect(await roleOf(tobias, id)).toBe('editor');
    await share(`documents/${id}`, 'everybody', 'commenter');
    expect(await roleOf(tobias, id)).toBe('commenter');
    await share(`documents/${id}`, 'tobias', 'viewer');
    expect(await roleOf(tobias, id)).toBe('viewer');
    const having = async (): Promise<Having | undefined> =>
      ((await ines.get(`/api/documents/${id}/sharing`)).body as Sharing).having.find(
        ({ person }) => person.id === 'tobias',
      );
    expect(await having()).toEqual(
      jasmine.objectContaining({
        role: 'viewer',
        through: null,
        holder: jasmine.objectContaining({ kind: 'person' }) as never,
      }),
    );
    for (const holder of ['tobias', 'everybody'])
      await ines.call('DELETE', `/api/documents/${id}/shares/${holder}`);
    expect(await having()).toEqual(
      jasmine.objectContaining({
        role: 'editor',
        through: { id: board, name: 'Visitors' },
        holder: { kind: 'group', id: crew.id, name: 'Boat crew' },
      }),
    );
    expect((await share(`documents/${id}`, 'nobody', 'viewer')).status).toBe(404);
    const past = new Date(Date.now() - 1000).toISOString();
    await ines.call('PUT', `/api/collections/${board}/shares/${crew.id}`, { role: 'editor', until: past });
    expect(await roleOf(tobias, id)).toBe('viewer');
  });

  it('of a collection holds for what is in it now and later, from the day of the share or of its coming in', async () => {
    const { id: board } = await collection('Visitors');
    const inside = await made('Guide', board);
    await writing(inside, 'Before the share. ');
    const outside = await made('Notes');
    await writing(outside, 'Long before. ');
    await writing(outside, 'Before it came in. ');
    await share(`collections/${board}`, 'tobias', 'editor', 'since');
    const seqs = async (id: string): Promise<number[]> => {
      const { history, body } = { ...(await tobias.get(`/api/documents/${id}`)), history: 0 };
      const versions = (await tobias.get(`/api/documents/${id}/versions`)).body.items;
      return [body.seq, history, versions.at(-1).seq];
    };
    expect(await seqs(inside)).toEqual([0, 0, 0]);
    await writing(inside, 'After it. ');
    expect(await seqs(inside)).toEqual([1, 0, 0]);
    expect(await roleOf(tobias, outside)).toBe(404);
    await ines.call('PATCH', `/api/documents/${outside}`, { collection: board });
    expect(await seqs(outside)).toEqual([0, 0, 0]);
    const first = (await tobias.get(`/api/documents/${outside}/versions/@0`)).body;
    expect(JSON.stringify(first)).toContain('Before it came in.');
    expect(first.by).toBe('before');
    const later = await made('Minutes', board);
    expect(await seqs(later)).toEqual([0, 0, 0]);
    await ines.call('PATCH', `/api/documents/${outside}`, { collection: null });
    expect(await roleOf(tobias, outside)).toBe(404);
  });

  it('lets owners rename, share and delete a collection, editors put their documents into it, and nobody else know of it', async () => {
    const { id: board } = await collection('Visitors');
    const id = await made('Guide', board);
    const named = async (who: Caller): Promise<string[]> =>
      (await who.get('/api/collections')).body.map(({ name, role }: Collection) => `${name}: ${role}`);
    expect([await named(ines), await named(tobias)]).toEqual([['Visitors: owner'], []]);
    const own = (await tobias.post('/api/documents', { title: 'Own', kind: 'text' })).body.id;
    const move = (who: Caller, what: string): Promise<Reply> =>
      who.call('PATCH', `/api/documents/${what}`, { collection: board });
    expect((await move(tobias, own)).status).toBe(422);
    await share(`collections/${board}`, 'tobias', 'viewer');
    expect((await move(tobias, own)).body.errors[0].message).toContain('you have it as viewer');
    await share(`collections/${board}`, 'tobias', 'editor');
    expect((await move(tobias, own)).status).toBe(200);
    expect(await roleOf(ines, own)).toBe('owner');
    expect((await tobias.call('PATCH', `/api/documents/${id}`, { collection: null })).status).toBe(403);
    for (const [method, path, body] of [
      ['PATCH', '', { name: 'Else' }],
      ['DELETE', ''],
      ['GET', '/sharing'],
      ['GET', '/candidates?q=ju'],
      ['PUT', '/shares/jun', { role: 'viewer' }],
      ['POST', '/shares', { holder: 'jun', role: 'viewer' }],
      ['POST', '/shares/tobias/send'],
      ['DELETE', '/shares/ines'],
      ['DELETE', '/shares'],
    ] as const) {
      const path_ = `/api/collections/${board}${path}`;
      expect((await tobias.call(method, path_, body)).status)
        .withContext(`${method} ${path}`)
        .toBe(403);
      expect((await jun.call(method, path_, body)).status)
        .withContext(`${method} ${path}`)
        .toBe(404);
    }
    expect((await ines.call('DELETE', `/api/collections/${board}/shares/ines`)).status).toBe(409);
    await ines.call('PATCH', `/api/collections/${board}`, { name: 'Guests' });
    expect(await named(tobias)).toEqual(['Guests: editor']);
    expect((await ines.call('DELETE', `/api/collections/${board}`)).status).toBe(204);
    expect([await roleOf(ines, id), await roleOf(tobias, id), await roleOf(tobias, own)]).toEqual([
      'owner',
      404,
      'owner',
    ]);
    expect((await ines.get(`/api/documents/${id}`)).body.collection).toBeNull();
  });

  it('invites a guest to a collection, who has what is in it as soon as they have come', async () => {
    const { id: board } = await collection('Visitors');
    await made('Guide', board);
    const { body } = await ines.post(`/api/collections/${board}/shares`, {
      email: 'Noor@else.example',
      role: 'viewer',
    });
    expect((body as Sharing).shares.map(({ holder }) => [holder.kind, holder.id])).toEqual([
      ['person', 'ines'],
      ['invited', 'noor@else.example'],
    ]);
    const { link } = await server.app.membership.invite(null, { email: 'noor@else.example', guest: true });
    const nobody = new Caller(server.port, '');
    await nobody.post(`/api/join/${link.split('/').at(-1)}`, {
      name: 'Noor Vane',
      initials: 'NV',
      colour: 1,
      password: 'quorum ladle sphinx tug',
    });
    const noor = server.app.people.members.find(({ name }) => name === 'Noor Vane');
    const token = await server.app.people.sessions.begin(noor?.key ?? 0, '');
    const caller = new Caller(server.port, `oxbow_session=${token}`);
    expect(
      (await caller.get('/api/documents')).body.items.map((one: { title: string }) => one.title),
    ).toEqual(['Guide']);
    expect((await caller.get('/api/collections')).body.map((one: Collection) => one.name)).toEqual([
      'Visitors',
    ]);
    const told = (await ines.get(`/api/collections/${board}/sharing`)).body as Sharing;
    expect(told.events.map(({ kind, holder }) => [kind, holder?.name ?? ''])).toEqual([
      ['joined', 'Noor Vane'],
      ['shared', 'noor@else.example'],
    ]);
  });

  it('keeps groups for administrators, by names of their own', async () => {
    const crew = await group('Boat crew', 'jun');
    for (const [method, path, body] of [
      ['GET', '', undefined],
      ['POST', '', { name: 'Else' }],
      ['PATCH', `/${crew.id}`, { name: 'Else' }],
      ['DELETE', `/${crew.id}`, undefined],
    ] as const)
      expect((await tobias.call(method, `/api/groups${path}`, body)).status).toBe(403);
    expect((await ines.post('/api/groups', { name: 'boat crew' })).body.errors[0].path).toBe('name');
    expect((await ines.call('PATCH', `/api/groups/${crew.id}`, { people: ['nobody'] })).status).toBe(422);
    expect((await ines.call('PATCH', `/api/groups/none`, { name: 'x' })).status).toBe(404);
    await ines.call('PATCH', `/api/groups/${crew.id}`, { name: 'Ferry crew' });
    expect((await ines.get('/api/groups')).body).toEqual([
      { id: crew.id, name: 'Ferry crew', people: ['jun'] },
    ]);
  });
});
