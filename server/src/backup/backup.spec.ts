import { fork } from 'node:child_process';
import { cp, mkdtemp, readFile, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { inflateSync } from 'node:zlib';
import type { Certificate } from '@oxbow/contract';
import { Random } from '@oxbow/core/testing';
import { verify } from '../archive/verify.js';
import type { Client } from '../testing/server.js';
import { Caller, TestServer, edit, send, typing } from '../testing/server.js';
import { backUp, restore } from './backup.js';

const TIMES = Number(process.env['OXBOW_FUZZ'] ?? 1);
/** Points at which an erasure is killed: a hundred in `npm run fuzz`. */
const KILLS = TIMES === 1 ? 3 : 5 * TIMES;
const SECRET = 'GB29 NWBK 6016 1331 9268 19';
/** Every stretch of four letters of the secret, its blanks aside. */
const PIECES = [...SECRET].flatMap((_, at) => {
  const piece = SECRET.slice(at, at + 4);
  return piece.length === 4 && !piece.includes(' ') ? [piece] : [];
});

/** Whether bytes hold a piece: one of digits only not within a longer number, such as a time. */
function isIn(bytes: Buffer, sought: Buffer): boolean {
  const isDigit = (byte: number | undefined): boolean => byte !== undefined && byte >= 0x30 && byte <= 0x39;
  const isNumber = [...sought].every((byte) => isDigit(byte) || byte === 0);
  for (let at = bytes.indexOf(sought); at >= 0; at = bytes.indexOf(sought, at + 1)) {
    const isWithin = isDigit(bytes[at - 1]) || isDigit(bytes[at + sought.length]);
    if (!isNumber || !isWithin) return true;
  }
  return false;
}

describe('data that is copied, put back, and killed', () => {
  let server: TestServer;
  let ines: Caller;
  let id: string;
  let place: string;

  beforeEach(async () => {
    place = await mkdtemp(join(tmpdir(), 'oxbow-backup-'));
    server = await TestServer.start(join(place, 'data'));
    ines = await server.as('ines');
    const socket = await ines.live();
    id = (await ines.post('/api/documents', { title: 'Stores', kind: 'text' })).body.id;
    await write(socket, 0, typing(1, 'Pay to '));
    for (const [i, sign] of [...SECRET].entries()) await write(socket, i + 1, typing(8 + i, sign));
    await write(socket, SECRET.length + 1, { stepType: 'replace', from: 8, to: 12 });
    socket.close();
    await ines.post(`/api/documents/${id}/versions`, { comment: `as it came: ${SECRET}` });
    await ines.post(`/api/documents/${id}/landmarks`, { number: 2, name: 'First', note: SECRET });
    await ines.post(`/api/documents/${id}/post`, {
      to: ['orla@saltings.example'],
      subject: 'Stores',
      text: SECRET,
      later: '@20',
      format: 'docx',
    });
  });
  afterEach(async () => {
    await server.stop(true);
    await rm(place, { recursive: true, force: true });
  });

  async function write(socket: Client, base: number, ...steps: object[]): Promise<void> {
    if (base === 0) await send(socket, 'join', { document: id });
    const edits = [edit(base + 1, ...steps)];
    await send(socket, 'edits', { document: id, client: 'client-ines', base, edits });
  }
  async function begin(): Promise<void> {
    const { body } = await ines.post(`/api/documents/${id}/erasures/preview`, { find: SECRET });
    await ines.post(`/api/documents/${id}/erasures`, { preview: body.id, reason: 'Not ours' });
  }
  async function again(): Promise<void> {
    server = await TestServer.start(join(place, 'data'));
    ines = await server.as('ines');
  }
  const certificates = async (): Promise<Certificate[]> =>
    (await ines.get(`/api/documents/${id}/erasures`)).body as Certificate[];

  /** The pieces of the secret that any file of a folder holds, as text in UTF-8 and UTF-16, or packed by what packs there. */
  async function piecesIn(folder: string): Promise<string[]> {
    const found = new Set<string>();
    const look = (bytes: Buffer): void => {
      for (const piece of PIECES)
        for (const encoding of ['utf8', 'utf16le', 'base64'] as const) {
          const sought =
            encoding === 'base64'
              ? Buffer.from(Buffer.from(SECRET).toString('base64'))
              : Buffer.from(piece, encoding);
          if (isIn(bytes, sought)) found.add(piece);
        }
    };
    for (const one of await readdir(folder, { recursive: true, withFileTypes: true }))
      if (one.isFile()) look(await readFile(join(one.parentPath, one.name)));
    for (const [table, column] of Object.entries({
      checkpoints: 'data',
      provenance: 'forms',
      letters: 'texts',
      gauges: 'sittings',
    }))
      for (const row of await server.app.database.rows<Record<string, Buffer>>(
        `SELECT "${column}" FROM "${table}"`,
        {},
      ))
        look(inflateSync(Buffer.from(row[column] as Buffer)));
    return [...found];
  }

  it('is copied while it runs, and what is erased since is erased again when the copy is put back', async () => {
    const backup = join(place, 'backup');
    await backUp(server.folder, backup);
    await expectAsync(backUp(server.folder, backup)).toBeRejectedWithError(/folder of its own/);
    await expectAsync(backUp(join(place, 'nowhere'), join(place, 'b'))).toBeRejectedWithError(/no data/);
    expect((await piecesIn(backup)).length).toBeGreaterThan(0);
    await begin();
    await server.app.eraser.idle();
    expect(await piecesIn(server.folder)).toEqual([]);
    await expectAsync(restore(backup, server.folder)).toBeRejectedWithError(/Stop it first/);
    await server.app.close();
    const { again: times } = await restore(backup, join(place, 'data'));
    expect(times).toBe(1);
    await again();
    expect(await piecesIn(server.folder)).toEqual([]);
    const [certificate] = await certificates();
    expect([certificate?.state, certificate?.reason, certificate?.by]).toEqual(['done', 'Not ours', 'ines']);
    expect((await ines.get(`/api/documents/${id}/versions/2/comments`)).body[0].comment).toMatch(
      /^as it came: /,
    );
    await expectAsync(restore(join(place, 'nowhere'), join(place, 'data'))).toBeRejectedWithError(
      /no backup/,
    );
  });

  it('re-opens nothing that ended since it was copied', async () => {
    const backup = join(place, 'backup');
    const tobias = await server.as('tobias');
    const made = async (title: string): Promise<string> =>
      (await ines.post('/api/documents', { title, kind: 'text' })).body.id;
    const share = (document: string, whom: string, how: object) =>
      ines.call('PUT', `/api/documents/${document}/shares/${whom}`, how);
    const [gone, binned] = [await made('Gone'), await made('Binned')];
    await share(id, 'tobias', { role: 'editor' });
    await share(id, 'jun', { role: 'editor' });
    const other = await made('Rota');
    await share(other, 'tobias', { role: 'editor' });
    const crew = (await ines.post('/api/groups', { name: 'Crew', people: ['tobias'] })).body.id;
    const third = await made('Crew’s');
    await share(third, crew, { role: 'viewer' });
    const link = (await ines.post(`/api/documents/${id}/links`, { shows: 'now' })).body;
    const { link: invitation } = await server.app.membership.invite(null, { email: 'noor@else.example' });
    await backUp(server.folder, backup);
    await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
    await share(id, 'jun', { role: 'viewer', history: 'since' });
    await share(other, 'tobias', { role: 'viewer' });
    await ines.call('PATCH', `/api/groups/${crew}`, { people: [] });
    await ines.call('DELETE', `/api/documents/${id}/links/${link.id}`);
    await ines.call('DELETE', `/api/documents/${gone}`);
    await ines.call('DELETE', `/api/bin/${gone}`);
    await ines.call('DELETE', `/api/documents/${binned}`);
    const good = 'quorum ladle sphinx tug';
    expect(
      (await tobias.call('PUT', '/api/me/password', { current: 'tidemill', password: good })).status,
    ).toBe(204);
    await ines.call('PATCH', '/api/members/jun', { disabled: true });
    await server.app.close();
    const { revoked } = await restore(backup, join(place, 'data'));
    expect(revoked).toBeTrue();
    server = await TestServer.start(join(place, 'data'));
    // Sessions of before are none; the password of before and the disabled do not get in.
    expect((await new Caller(server.port, ines.cookie).get('/api/session')).status).toBe(401);
    await expectAsync(server.as('tobias')).toBeRejectedWithError(/401/);
    await expectAsync(server.as('jun')).toBeRejectedWithError(/401/);
    ines = await server.as('ines');
    const titles = (await ines.get('/api/documents')).body.items.map(({ title }: { title: string }) => title);
    expect(titles.sort()).toEqual(['Crew’s', 'Rota', 'Stores']);
    expect((await ines.get('/api/bin')).body.map(({ title }: { title: string }) => title)).toEqual([
      'Binned',
    ]);
    const roles = await server.app.database.rows<{ id: string; role: string }>(
      `SELECT documents.id, standings.role FROM standings JOIN documents ON documents.key = standings.document
       JOIN people ON people.key = standings.person WHERE people.id = 'tobias'`,
      {},
    );
    expect(roles).toEqual([{ id: other, role: 'viewer' }]);
    const [jun] = await server.app.database.rows<{
      role: string;
      history: string;
      first: number;
      seq: number;
    }>(
      `SELECT role, history, first, documents.seq FROM standings JOIN documents ON documents.key = standings.document
       WHERE documents.id = :id AND standings.person = (SELECT key FROM people WHERE id = 'jun')`,
      { id },
    );
    expect([jun?.role, jun?.history, jun?.first]).toEqual(['viewer', 'since', jun?.seq]);
    const page = await fetch(`http://127.0.0.1:${server.port}${new URL(link.address).pathname}`);
    expect(page.status).toBe(410);
    await expectAsync(server.app.membership.invited(invitation.split('/').at(-1) ?? '')).toBeRejected();
  });

  it('is whole after an erasure was killed at any point, and started again', async () => {
    const random = new Random(TIMES === 1 ? 20261129 : Date.now());
    const app = server.app.eraser;
    spyOn(app, 'run').and.resolveTo();
    await begin();
    await server.app.close();
    const before = join(place, 'before');
    await cp(join(place, 'data'), before, { recursive: true });
    let longest = 900;
    for (let kill = 0; kill < KILLS; kill++) {
      await rm(join(place, 'data'), { recursive: true, force: true });
      await cp(before, join(place, 'data'), { recursive: true });
      const child = fork(join(import.meta.dirname, '../testing/erasing-process.js'), [join(place, 'data')]);
      const gone = new Promise((resolve) => child.once('exit', resolve));
      const begun = Date.now();
      child.once('message', () => child.once('message', () => (longest = Date.now() - begun)));
      await Promise.race([pause(random.between(50, longest)), gone]);
      child.kill('SIGKILL');
      await gone;
      await again();
      expect((await certificates()).map(({ state }) => state)).toEqual(['done']);
      expect(await piecesIn(server.folder))
        .withContext(`kill ${kill}`)
        .toEqual([]);
      await server.app.close();
      for await (const { faults } of verify(join(place, 'data'))) expect(faults).toEqual([]);
    }
    await again();
  });
});
