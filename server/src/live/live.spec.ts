import { Here } from './here.js';
import type { Accepted, Joined } from '@oxbow/contract';
import { TestServer, edit, send, typing } from '../testing/server.js';
import type { Caller, Client, WireEdit } from '../testing/server.js';

describe('the live channel', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let id: string;
  let sockets: Client[] = [];

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
  });
  afterAll(() => server.stop());
  beforeEach(async () => {
    id = (await ines.post('/api/documents', { title: 'Minutes', kind: 'text' })).body.id as string;
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
  });
  afterEach(() => {
    for (const socket of sockets) socket.disconnect();
    sockets = [];
  });

  async function join(caller: Caller): Promise<{ socket: Client; heard: WireEdit[] }> {
    const socket = await caller.live();
    sockets.push(socket);
    const heard: WireEdit[] = [];
    socket.on('edits', (message) => heard.push(...message.edits));
    const answer = await send<Joined>(socket, 'join', { document: id });
    expect(answer.ok).toBe(true);
    return { socket, heard };
  }
  const propose = (socket: Client, client: string, base: number, ...edits: object[]) =>
    send<Accepted>(socket, 'edits', { document: id, client, base, edits });
  const text = async (): Promise<string> =>
    (
      (
        await ines.get(
          `/api/documents/${id}/versions/@${(await ines.get(`/api/documents/${id}`)).body.seq}?format=text`,
        )
      ).body as string
    ).trim();
  const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 50));

  it('lets nobody take the place of somebody else’s window', async () => {
    const here = new Here();
    const place = { client: 'window', seq: 0, anchor: 1, head: 1 };
    expect(here.set('document', { ...place, person: 'ines' }, 'one')).toBeTrue();
    expect(here.set('document', { ...place, person: 'tobias' }, 'two')).toBeFalse();
    expect(here.set('document', { ...place, person: 'ines' }, 'three')).toBeTrue();
    expect(here.leave('document', 'one')).toEqual([]);
    expect(here.leave('document', 'three')).toEqual(['window']);
    for (const client of ['a', 'b', 'c']) here.set('document', { ...place, client, person: 'jun' }, 'four');
    expect(here.leave('document', 'four')).toEqual(['c']);
  });

  it('carries what is stale, tells everyone, and never doubles what is sent again', async () => {
    const [a, b] = [await join(ines), await join(tobias)];
    await propose(a.socket, 'client-a', 0, edit(1, typing(1, 'flood')));
    const first = await propose(
      b.socket,
      'client-b',
      0,
      edit(1, typing(1, 'ebb ')),
      edit(2, typing(5, 'and ')),
    );
    const again = await propose(
      b.socket,
      'client-b',
      0,
      edit(1, typing(1, 'ebb ')),
      edit(2, typing(5, 'and ')),
    );
    expect(again).toEqual(first);
    await settle();
    expect(a.heard.map((one) => one.seq)).toEqual([1, 2, 3]);
    expect(b.heard.map((one) => one.author)).toEqual(['ines', 'tobias', 'tobias']);
    expect(['ebb and flood', 'floodebb and']).toContain(await text());
  });

  it('refuses hostile edits with a problem that names the place, and changes nothing', async () => {
    const { socket } = await join(ines);
    await propose(socket, 'client-a', 0, edit(1, typing(1, 'tide')));
    const at = async (...edits: object[]): Promise<string | undefined> => {
      const answer = await propose(socket, 'client-a', 1, ...edits);
      if (!answer.ok) return `${answer.problem.status} ${answer.problem.errors?.[0]?.path ?? ''}`;
      const refused = answer.value.results.find((result) => result.seq === null);
      return refused ? `refused ${refused.refusal?.path ?? ''}` : undefined;
    };
    const source = (from: object): object => ({
      ...edit(5, typing(1, 'mill')),
      sources: [{ step: 0, at: 0, length: 4, ...from }],
    });
    expect(await at(edit(2, { stepType: 'replace', from: 3, to: 1 }))).toMatch(/^422 edits\/0\/steps\/0/);
    expect(await at(edit(3, { stepType: 'attr', pos: 0, attr: 'align', value: {} }))).toMatch(
      /^400 edits\/0\/steps\/0/,
    );
    expect(
      await at(
        edit(4, {
          stepType: 'replace',
          from: 0,
          to: 0,
          slice: { content: [{ type: 'heading', content: [{ type: 'paragraph' }] }] },
        }),
      ),
    ).toMatch(/422 edits\/0\/steps\/0|refused steps/);
    expect(await at(source({ seq: 1, offset: 0 }))).toMatch(/^422 edits\/0\/sources/);
    expect(await at(source({ moment: 1, position: 1 }))).toMatch(/^422 edits\/0\/sources/);
    expect(await at(source({ moment: 40, position: 1 }))).toMatch(/moment/);
    expect(
      (await send(socket, 'edits', {
        document: id,
        client: 'client-a',
        base: 70,
        edits: [edit(9, typing(1, 'x'))],
      })) as unknown,
    ).toEqual(jasmine.objectContaining({ ok: false }));
    expect((await send(socket, 'edits', { nonsense: true })) as unknown).toEqual(
      jasmine.objectContaining({ ok: false }),
    );
    expect(await text()).toBe('tide');
  });

  it('answers 10,000 nested nodes with a problem, and stays up', async () => {
    const { socket } = await join(ines);
    const nested = `${'{"type":"quote","content":['.repeat(10_000)}{"type":"paragraph"}${']}'.repeat(10_000)}`;
    const step = `{"stepType":"replace","from":0,"to":0,"slice":{"content":[${nested}]}}`;
    const message = `{"document":"${id}","client":"client-a","base":0,"edits":[{"counter":1,"writtenAt":0,"sources":[],"cause":{"kind":"writing"},"steps":[${step}]}]}`;
    const answer = new Promise<string>((resolve) => {
      socket.io.engine.on('packet', ({ data }) => {
        if (String(data).startsWith('399')) resolve(String(data));
      });
    });
    socket.io.engine.send(`299["edits",${message}]`);
    expect(await answer).toContain('nested too deeply');
    expect(await text()).toBe('');
  });

  it('takes a source that is what it says, and credits its first writer', async () => {
    const [a, b] = [await join(ines), await join(tobias)];
    await propose(a.socket, 'client-a', 0, edit(1, typing(1, 'tide')));
    await propose(b.socket, 'client-b', 1, edit(1, { stepType: 'replace', from: 1, to: 5 }));
    const back = {
      ...edit(2, typing(1, 'tide')),
      cause: { kind: 'undo', of: [2] },
      sources: [{ step: 0, at: 0, length: 4, seq: 1, offset: 0 }],
    };
    expect((await propose(b.socket, 'client-b', 2, back)).ok).toBe(true);
    const { body } = await ines.get(`/api/documents/${id}/compare?earlier=@2&later=@3`);
    expect(body.changes[0].credits[0]).toEqual(
      jasmine.objectContaining({ person: 'tobias', writer: 'ines' }),
    );
  });

  it('puts out whoever’s share ended, at once', async () => {
    const { socket, heard } = await join(tobias);
    const told = new Promise((resolve) => socket.once('revoked', resolve));
    await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
    await told;
    const answer = await propose(socket, 'client-b', 0, edit(1, typing(1, 'x')));
    expect(!answer.ok && answer.problem.status).toBe(404);
    const a = await join(ines);
    await propose(a.socket, 'client-a', 0, edit(1, typing(1, 'y')));
    await settle();
    expect(heard).toEqual([]);
  });

  it('refuses a foreign origin and somebody not signed in', async () => {
    await expectAsync(ines.live('https://elsewhere.example')).toBeRejected();
    await expectAsync(new (ines.constructor as typeof Caller)(server.port, '').live()).toBeRejected();
  });

  it('brings somebody who was away up to date', async () => {
    const { socket } = await join(ines);
    await propose(socket, 'client-a', 0, edit(1, typing(1, 'a')), edit(2, typing(2, 'b')));
    const answer = await send<Joined>(socket, 'join', { document: id, since: 1 });
    expect(answer.ok && answer.value.edits.map((one) => one.seq)).toEqual([2]);
  });

  it('tells who comes where the others stand, carried through what was written since they said so', async () => {
    const a = await join(ines);
    await propose(a.socket, 'client-a', 0, edit(1, typing(1, 'ebb and flood')));
    a.socket.emit('presence', { document: id, client: 'client-a', seq: 1, anchor: 5, head: 8 });
    await settle();
    const b = await join(tobias);
    await propose(b.socket, 'client-b', 1, edit(1, typing(1, 'high ')));
    const later = await tobias.live();
    sockets.push(later);
    const joined = await send<Joined>(later, 'join', { document: id });
    expect(joined.ok && joined.value.here).toEqual([
      { person: 'ines', client: 'client-a', seq: 2, anchor: 10, head: 13 },
    ]);
  });

  it('hangs up at once on who signs out, and on a session that is over, and on nobody else', async () => {
    const [leaving, staying] = [await server.as('tobias'), await server.as('tobias')];
    const [one, other] = [await join(leaving), await join(staying)];
    const gone = new Promise((resolve) => one.socket.once('disconnect', resolve));
    await leaving.call('DELETE', '/api/session');
    expect(await gone).toBe('io server disconnect');
    expect(other.socket.connected).toBe(true);

    const short = await server.as('jun');
    const { models, writes } = server.app.database;
    const where = { person: server.people.jun.key };
    await writes.add((transaction) =>
      models.sessions.update({ until: Date.now() + 300 }, { where, transaction }),
    );
    const socket = await short.live();
    sockets.push(socket);
    expect(await new Promise((resolve) => socket.once('disconnect', resolve))).toBe('io server disconnect');
    await expectAsync(short.live()).toBeRejectedWithError(/sign in/);
  });
});
