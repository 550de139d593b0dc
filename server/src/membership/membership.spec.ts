import { mkdtemp, readFile, readdir, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import PostalMime from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import { createApp } from '../app.js';
import type { App } from '../app.js';
import { Caller, TestServer, send } from '../testing/server.js';
import type { Reply } from '../testing/server.js';
import { PEOPLE_USAGE, peopleCommand } from './command.js';

const GOOD = 'quorum ladle sphinx tug';
const profile = { name: 'Noor Vane', initials: 'NV', colour: 3 };

/** The links in a folder's mail, oldest first, with whom each was sent to. */
async function linksIn(
  folder: string,
  box = 'outbox',
): Promise<{ to: string; path: string; text: string }[]> {
  const names = await readdir(join(folder, 'mail', box)).catch(() => []);
  const letters = await Promise.all(
    names.map(async (name) => PostalMime.parse(await readFile(join(folder, 'mail', box, name)))),
  );
  return letters
    .sort((a, b) => (a.date ?? '').localeCompare(b.date ?? ''))
    .map(({ to, text = '' }) => ({
      to: to?.[0]?.address ?? '',
      path: /https?:\/\/[^/]+(\/(?:join|reset)\/[\w-]+)/.exec(text)?.[1] ?? '',
      text,
    }));
}

describe('moving in', () => {
  let folder: string;
  let app: App;
  let nobody: Caller;
  let port: number;

  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'oxbow-empty-'));
    app = await createApp({ folder });
    port = await app.listen(0);
    nobody = new Caller(port, '');
  });
  afterEach(async () => {
    await app.close();
    await rm(folder, { recursive: true, force: true });
  });

  const setUp = (code: string, password = GOOD): Promise<Reply> =>
    nobody.post('/api/organisation', {
      ...{ code, organisation: 'The Withy Trust', email: 'Ruth@withy.example', password },
      ...{ name: 'Ruth Amsel', initials: 'RA', colour: 0 },
    });

  it('begins with a code that only whoever started the server knows, once', async () => {
    expect((await nobody.get('/api/organisation')).body).toEqual({ name: null });
    const code = (await app.membership.codeForSetUp()) ?? '';
    expect(code).toMatch(/^[A-Z0-9]{4}-[A-Z0-9]{4}-[A-Z0-9]{4}$/);
    const wrong = await setUp('AAAA-AAAA-AAAA');
    expect([wrong.status, wrong.body.errors[0].path]).toEqual([422, 'code']);
    const weak = await setUp(code, 'ruthamsel');
    expect([weak.status, weak.body.errors[0].path]).toEqual([422, 'password']);
    const made = await setUp(code.toLowerCase());
    expect([made.status, made.body]).toEqual([
      201,
      jasmine.objectContaining({ name: 'Ruth Amsel', admin: true, guest: false }),
    ]);
    expect((await nobody.get('/api/organisation')).body).toEqual({ name: 'The Withy Trust' });
    expect((await setUp(code)).status).toBe(409);
    expect(await app.membership.codeForSetUp()).toBeNull();
    const signedIn = await nobody.post('/api/session', { email: 'ruth@withy.example', password: GOOD });
    expect([signedIn.status, signedIn.body.admin]).toEqual([200, true]);
  });

  it('makes whoever guesses at the code wait', async () => {
    await app.membership.codeForSetUp();
    const answers = await Promise.all(Array.from({ length: 12 }, (_, i) => setUp(`AAAA-AAAA-AA${10 + i}`)));
    expect(answers.some(({ status }) => status === 429)).toBeTrue();
  });
});

describe('people who are invited', () => {
  let server: TestServer;
  let ines: Caller;
  let nobody: Caller;

  beforeEach(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    nobody = new Caller(server.port, '');
  });
  afterEach(() => server.stop());

  const invite = (email: string, more: object = {}): Promise<Reply> =>
    ines.post('/api/people', { email, ...more });
  const linkTo = async (email: string): Promise<string> =>
    (await linksIn(server.folder)).filter(({ to }) => to === email).at(-1)?.path ?? '';
  const join = (path: string, password = GOOD): Promise<Reply> =>
    nobody.post(`/api${path}`, { ...profile, password });

  it('leaves a member’s invitation in force when somebody shares with their address', async () => {
    const invited = await server.app.membership.invite(server.people.ines, { email: 'noor@else.example' });
    const guest = await server.app.membership.invite(server.people.tobias, {
      email: 'noor@else.example',
      guest: true,
    });
    const token = (link: string): string => link.split('/').at(-1) ?? '';
    await expectAsync(server.app.membership.invited(token(invited.link))).toBeResolved();
    const profile = { name: 'Noor Vane', initials: 'NV', colour: 1, password: 'quorum ladle sphinx tug' };
    const noor = await server.app.membership.join(token(guest.link), profile);
    expect((await server.app.membership.me(noor)).guest).toBeFalse();
    await expectAsync(server.app.membership.invited(token(invited.link))).toBeRejected();
  });

  it('come by a link that holds once, with a name and a password of their own', async () => {
    const { status, body } = await invite('Noor@withy.example', {
      message: 'We read on Tuesdays.',
      guest: true,
    });
    expect([status, body.email, body.guest, 'link' in body]).toEqual([
      201,
      'noor@withy.example',
      true,
      false,
    ]);
    const [mail] = await linksIn(server.folder);
    expect(mail?.text).toContain('We read on Tuesdays.');
    const path = await linkTo('noor@withy.example');
    expect((await nobody.get(`/api${path}`)).body).toEqual(
      jasmine.objectContaining({ email: 'noor@withy.example', by: 'ines' }),
    );
    expect((await join(path, 'password')).body.errors[0].path).toBe('password');
    const joined = await join(path);
    expect([joined.status, joined.body.name, joined.body.guest]).toEqual([201, 'Noor Vane', true]);
    expect((await join(path)).status).toBe(410);
    expect((await nobody.get(`/api${path}`)).status).toBe(410);
    expect((await nobody.post('/api/session', { email: 'noor@withy.example', password: GOOD })).status).toBe(
      200,
    );
    expect((await invite('noor@withy.example')).body.errors[0].path).toBe('email');
  });

  it('join only once when two take the same link at once', async () => {
    await invite('noor@withy.example');
    const path = await linkTo('noor@withy.example');
    const answers = await Promise.all([join(path), join(path), join(path)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 410, 410]);
  });

  it('find a link broken that was replaced, withdrawn, guessed, of another kind, or is too old', async () => {
    await invite('noor@withy.example');
    const first = await linkTo('noor@withy.example');
    const { body } = await invite('noor@withy.example');
    const second =
      (await linksIn(server.folder)).map(({ path }) => path).find((path) => path !== first) ?? '';
    expect((await nobody.get(`/api${first}`)).status).toBe(410);
    expect((await nobody.get(`/api${second}`)).status).toBe(200);
    expect((await nobody.post(`/api${second.replace('join', 'reset')}`, { password: GOOD })).status).toBe(
      410,
    );
    expect((await nobody.get(`/api/join/${'x'.repeat(43)}`)).status).toBe(410);
    expect((await ines.call('DELETE', `/api/invitations/${body.id}`)).status).toBe(204);
    expect((await nobody.get(`/api${second}`)).status).toBe(410);
    expect((await ines.call('DELETE', `/api/invitations/${body.id}`)).status).toBe(404);
    await invite('noor@withy.example');
    const { database } = server.app;
    await database.writes.add((transaction) =>
      database.models.invitations.update({ until: Date.now() - 1 }, { where: { kind: 'join' }, transaction }),
    );
    for (const { path } of await linksIn(server.folder)) expect((await join(path)).status).toBe(410);
  });

  it('are invited, seen all together, and let in and out by administrators only', async () => {
    const jun = await server.as('jun');
    for (const [method, path, body] of [
      ['POST', '/api/people', { email: 'else@withy.example' }],
      ['GET', '/api/members'],
      ['PATCH', '/api/members/tobias', { disabled: true }],
      ['DELETE', '/api/invitations/none'],
    ] as const) {
      expect((await jun.call(method, path, body)).status)
        .withContext(path)
        .toBe(403);
      expect((await nobody.call(method, path, body)).status)
        .withContext(path)
        .toBe(401);
    }
    await invite('noor@withy.example');
    const { people, invitations } = (await ines.get('/api/members')).body;
    expect(people.map(({ id }: { id: string }) => id)).toEqual(['ines', 'tobias', 'jun']);
    expect(invitations.map(({ email }: { email: string }) => email)).toEqual(['noor@withy.example']);
  });

  it('who are disabled are signed out at once, in open windows too; their work and its credit stay', async () => {
    const tobias = await server.as('tobias');
    const { body: document } = await tobias.post('/api/documents', { title: 'Rota', kind: 'text' });
    const socket = await tobias.live();
    await send(socket, 'join', { document: document.id });
    const hungUp = new Promise((resolve) => socket.once('disconnect', resolve));
    await nobody.post('/api/forgotten', { email: 'tobias@withy.example' });
    await server.app.database.writes.idle();
    expect((await ines.call('PATCH', '/api/members/tobias', { disabled: true })).body.disabled).toBeTrue();
    await hungUp;
    expect((await tobias.get('/api/session')).status).toBe(401);
    const again = await nobody.post('/api/session', { email: 'tobias@withy.example', password: 'tidemill' });
    expect(again.status).toBe(401);
    for (const { to, path } of await linksIn(server.folder))
      if (to === 'tobias@withy.example')
        expect((await nobody.post(`/api${path}`, { password: GOOD })).status).toBe(410);
    expect(server.app.people.byId('tobias')?.name).toBe('tobias');
    expect((await ines.call('PATCH', '/api/members/tobias', { disabled: false })).status).toBe(200);
    expect(
      (await nobody.post('/api/session', { email: 'tobias@withy.example', password: 'tidemill' })).status,
    ).toBe(200);
  });

  it('always have an administrator', async () => {
    for (const patch of [{ admin: false }, { disabled: true }])
      expect((await ines.call('PATCH', '/api/members/ines', patch)).status).toBe(409);
    expect((await ines.call('PATCH', '/api/members/jun', { admin: true })).body.admin).toBeTrue();
    const jun = await server.as('jun');
    expect((await jun.call('PATCH', '/api/members/ines', { admin: false })).status).toBe(200);
    expect((await ines.get('/api/members')).status).toBe(403);
  });

  it('who forgot their password get a link, once; whoever asks learns of nobody', async () => {
    const known = await nobody.post('/api/forgotten', { email: 'Jun@withy.example' });
    const unknown = await nobody.post('/api/forgotten', { email: 'nobody@withy.example' });
    expect([known.status, known.body]).toEqual([202, '']);
    expect([unknown.status, unknown.body]).toEqual([known.status, known.body]);
    let links: Awaited<ReturnType<typeof linksIn>> = [];
    while (links.length === 0) links = await linksIn(server.folder);
    expect(links.map(({ to }) => to)).toEqual(['jun@withy.example']);
    const jun = await server.as('jun');
    const path = `/api${links[0]?.path ?? ''}`;
    expect((await nobody.post(path, { password: 'junjunjun' })).body.errors[0].path).toBe('password');
    expect((await nobody.post(path, { password: GOOD })).status).toBe(204);
    expect((await jun.get('/api/session')).status).toBe(401);
    expect((await nobody.post(path, { password: GOOD })).status).toBe(410);
    expect((await nobody.post('/api/session', { email: 'jun@withy.example', password: GOOD })).status).toBe(
      200,
    );
  });

  it('are let in and out without a browser too', async () => {
    const ground = { folder: server.folder, site: 'https://withy.example' };
    const run = (...words: string[]): Promise<string[]> => peopleCommand(words, ground);
    expect((await run('list'))[0]).toBe('ines@withy.example  ines  (administrator)');
    const [, link = ''] = await run('invite', 'noor@withy.example', 'guest');
    expect(link).toMatch(/^https:\/\/withy\.example\/join\/[\w-]{43}$/);
    expect((await join(link.replace('https://withy.example', ''))).body.guest).toBeTrue();
    expect(await run('disable', 'jun@withy.example')).toEqual(['jun may not sign in any more']);
    expect(
      (await nobody.post('/api/session', { email: 'jun@withy.example', password: 'tidemill' })).status,
    ).toBe(401);
    expect(await run('enable', 'JUN@withy.example')).toEqual(['jun may sign in again']);
    expect(await run('admin', 'jun@withy.example')).toEqual(['jun is an administrator now']);
    expect((await run('reset', 'jun@withy.example'))[1]).toContain('https://withy.example/reset/');
    await expectAsync(run('reset', 'nobody@withy.example')).toBeRejectedWithError(/Nobody/);
    await expectAsync(run('disable')).toBeRejectedWithError(RangeError);
    await expectAsync(run('dismiss', 'jun@withy.example')).toBeRejectedWithError(RangeError);
    for (const act of ['list', 'invite', 'reset', 'disable', 'enable', 'admin'])
      expect(PEOPLE_USAGE).toContain(act);
  });
});

describe('mail where there is a mail server', () => {
  // The reference is another implementation of SMTP (RFC 5321).
  it('goes out by it, and a copy is kept', async () => {
    const taken: { to: string[]; text: string }[] = [];
    const smtp = new SMTPServer({
      authOptional: true,
      // The name of whoever calls is asked of a server of names, which a machine without one waits for.
      disableReverseLookup: true,
      disabledCommands: ['STARTTLS', 'AUTH'],
      onData(stream, session, done) {
        const chunks: Buffer[] = [];
        stream.on('data', (chunk: Buffer) => chunks.push(chunk));
        stream.on('end', () => {
          const to = session.envelope.rcptTo.map(({ address }) => address);
          taken.push({ to, text: Buffer.concat(chunks).toString() });
          done();
        });
      },
    });
    await new Promise<void>((resolve) =>
      smtp.listen({ port: 0, host: '127.0.0.1', exclusive: true }, resolve),
    );
    const folder = await mkdtemp(join(tmpdir(), 'oxbow-smtp-'));
    const { port } = smtp.server.address() as AddressInfo;
    const app = await createApp({
      folder,
      mailing: { smtp: `smtp://127.0.0.1:${port}`, from: 'house@withy.example' },
      site: () => 'https://withy.example',
    });
    try {
      await app.membership.invite(null, { email: 'noor@withy.example' });
      expect(taken.map(({ to }) => to)).toEqual([['noor@withy.example']]);
      const mail = await PostalMime.parse(taken[0]?.text ?? '');
      expect(mail.text).toContain('https://withy.example/join/');
      expect(mail.from?.address).toBe('house@withy.example');
      expect((await linksIn(folder, 'sent')).length).toBe(1);
      expect(await linksIn(folder)).toEqual([]);
    } finally {
      await app.close();
      await new Promise<void>((resolve) => smtp.close(() => resolve()));
      await rm(folder, { recursive: true, force: true });
    }
  });
});
