import { rm } from 'node:fs/promises';
import { createApp } from '../app.js';
import type { App } from '../app.js';
import type { HistoryReach, Role } from '@oxbow/contract';
import { TestServer } from '../testing/server.js';
import { Attempts, TooMany } from './attempts.js';
import { costOf, decoy, hashed, matches } from './password-hash.js';
import { may } from './policy.js';
import type { Action } from './policy.js';

describe('who may do what', () => {
  it('is decided by one policy', () => {
    const all: Action[] = [
      'read',
      'lookBack',
      'comment',
      'write',
      'restore',
      'keep',
      'retitle',
      'share',
      'archive',
    ];
    const as = (role: Role, history: HistoryReach = 'all') =>
      all.filter((action) => may({ role, history }, action));
    expect(as('viewer')).toEqual(['read', 'lookBack']);
    expect(as('commenter')).toEqual(['read', 'lookBack', 'comment']);
    expect(as('editor')).toEqual(all.filter((action) => action !== 'share' && action !== 'archive'));
    expect(as('owner')).toEqual(all);
    expect(as('viewer', 'none')).toEqual(['read']);
    expect(as('editor', 'none')).toEqual(['read', 'write', 'retitle']);
    expect(as('editor', 'since')).toEqual(as('editor'));
    expect(all.filter((action) => may(null, action))).toEqual([]);
  });

  it('knows a password again, salts it, and takes no other', () => {
    const [one, other] = [hashed('tidemill'), hashed('tidemill')];
    expect(one).not.toBe(other);
    expect(one).toMatch(/^\$scrypt\$ln=16,r=8,p=2\$/);
    expect([matches('tidemill', one), matches('Tidemill', one)]).toEqual([true, false]);
    for (const damaged of ['', 'damaged', 'a:b', one.replace('ln=16', 'ln=60')])
      expect(matches('tidemill', damaged)).toBe(false);
  });

  it('holds a password against a decoy at the cost of any other, and never takes it', () => {
    expect(costOf(decoy())).toEqual(costOf(hashed('tidemill')));
    for (const password of ['', 'nobody', 'tidemill']) expect(matches(password, decoy())).toBe(false);
  });

  it('checks a hash of any cost, as the test vector of RFC 7914, section 12, is one', () => {
    const salt = Buffer.from('SodiumChloride').toString('base64').replace(/=/g, '');
    const hash = Buffer.from(
      '7023bdcb3afd7348461c06cd81fd38ebfda8fbba904f8e3ea9b543f6545da1f2' +
        'd5432955613f0fcf62d49705242a9af9e61e85dc0d651e40dfcf017b45575887',
      'hex',
    );
    const stored = `$scrypt$ln=14,r=8,p=1$${salt}$${hash.toString('base64').replace(/=/g, '')}`;
    expect([matches('pleaseletmein', stored), matches('pleaseletmeout', stored)]).toEqual([true, false]);
  });

  it('ends with signing out, and stores no token as it is', async () => {
    const server = await TestServer.start();
    const ines = await server.as('ines');
    expect((await ines.get('/api/session')).body.id).toBe('ines');
    const [session] = await server.app.database.models.sessions.findAll({ raw: true });
    expect(ines.cookie).not.toContain(session?.token ?? 'none');
    expect((await ines.call('DELETE', '/api/session')).status).toBe(204);
    expect((await ines.get('/api/session')).status).toBe(401);
    await server.stop();
  });

  it('makes whoever guesses wait longer and longer, and lets in who knows the password elsewhere', async () => {
    const server = await TestServer.start();
    const attempt = (password: string, address: string, email = 'ines@withy.example') =>
      fetch(`http://127.0.0.1:${server.port}/api/session`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-Forwarded-For': address },
        body: JSON.stringify({ email, password }),
      });
    const guesses = await Promise.all(Array.from({ length: 12 }, () => attempt('guess', '192.0.2.7')));
    const held = guesses.filter(({ status }) => status === 429);
    expect(guesses.filter(({ status }) => status === 401).length + held.length).toBe(12);
    expect(held.length).toBeGreaterThan(0);
    expect(held[0]?.headers.get('retry-after')).toMatch(/^\d+$/);
    expect(((await held[0]?.json()) as { detail: string }).detail).toContain('Please wait');
    expect((await attempt('tidemill', '198.51.100.4')).status).toBe(200);
    await server.stop();
  });

  it('doubles the wait with each guess, and forgets it all once the password was right', async () => {
    jasmine.clock().install().mockDate(new Date('2026-11-28T12:00:00Z'));
    try {
      const attempts = new Attempts();
      const waits: number[] = [];
      const guess = (): Promise<void> =>
        attempts.begin({ account: 'ines@withy.example', address: '192.0.2.7' });
      for (let i = 0; i < 5; i++) await guess();
      for (let i = 0; i < 12; i++) {
        await guess();
        const seconds = await guess().then(
          () => 0,
          (error: unknown) => (error as TooMany).seconds,
        );
        waits.push(seconds);
        jasmine.clock().tick(seconds * 1000 + 1);
      }
      expect(waits).toEqual([2, 4, 8, 16, 32, 64, 128, 256, 512, 900, 900, 900]);
      await guess();
      await attempts.right({ account: 'ines@withy.example', address: '192.0.2.7' });
      for (let i = 0; i < 6; i++) await guess();
      await expectAsync(guess()).toBeRejectedWithError(TooMany, /2 seconds/);
    } finally {
      jasmine.clock().uninstall();
    }
  });

  it('counts a network address for whatever accounts it tries, and one network of IPv6 as one', async () => {
    const attempts = new Attempts();
    const begin = (account: string, address: string): Promise<void> => attempts.begin({ account, address });
    for (let i = 0; i < 401; i++) await begin(`person${i}`, `2001:db8:0:7::${(i + 1).toString(16)}`);
    await expectAsync(begin('another', '2001:db8::7:0:0:0:1')).toBeRejectedWithError(TooMany);
    await expectAsync(begin('another', '2001:db8:0:8::1')).toBeResolved();
    for (let i = 0; i < 100; i++) await begin('sought', `192.0.2.${i}`);
    await expectAsync(begin('sought', '192.0.2.100')).toBeResolved();
    await expectAsync(begin('sought', '192.0.2.101')).toBeRejectedWithError(TooMany);
  });

  it('keeps nobody waiting for what others guess: behind the same address, or at the same account', async () => {
    const attempts = new Attempts();
    for (let i = 0; i < 60; i++) await attempts.begin({ account: `person${i}`, address: '192.0.2.7' });
    await expectAsync(attempts.begin({ account: 'ines', address: '192.0.2.7' })).toBeResolved();
    for (let i = 0; i < 200; i++)
      await attempts.begin({ account: 'ines', address: `198.51.100.${i}` }).catch(() => undefined);
    const own = { account: 'ines', address: '198.51.100.9', browser: 'known' };
    for (let i = 0; i < 5; i++) await attempts.begin(own);
    await attempts.right(own);
    await expectAsync(attempts.begin(own)).toBeResolved();
  });

  it('knows a browser again in which somebody signed in, and takes it for nobody else’s', async () => {
    const server = await TestServer.start();
    const { browsers } = server.app.people;
    const token = await browsers.remember(server.people.ines.key, undefined);
    const cookies = `oxbow_browser=${token}`;
    expect(await browsers.known(cookies, 'Ines@withy.example')).not.toBeNull();
    expect(await browsers.known(cookies, 'tobias@withy.example')).toBeNull();
    expect(await browsers.known('oxbow_browser=guess', 'ines@withy.example')).toBeNull();
    expect(await browsers.remember(server.people.ines.key, cookies)).toBe(token);
    expect(await browsers.remember(server.people.tobias.key, cookies)).not.toBe(token);
    await server.stop();
  });

  it('lets nobody in by the demo’s password where it is no demo, or through a proxy where it is one by itself', async () => {
    const first = await TestServer.start();
    await first.stop(true);
    const ask = async (app: App, headers: Record<string, string> = {}): Promise<number> => {
      const port = await app.listen(0);
      const { status } = await fetch(`http://127.0.0.1:${port}/api/session`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...headers },
        body: JSON.stringify({ email: 'ines@withy.example', password: 'tidemill' }),
      });
      await app.close();
      return status;
    };
    const { folder } = first;
    expect(await ask(await createApp({ folder, clock: false }))).toBe(401);
    const local = () => createApp({ folder, clock: false, demo: true, isLocal: true });
    expect(await ask(await local())).toBe(200);
    expect(await ask(await local(), { 'X-Forwarded-For': '192.0.2.1' })).toBe(403);
    await rm(folder, { recursive: true, force: true });
  });

  it('lists nobody where the data was not made as the demo', async () => {
    const server = await TestServer.start();
    const ines = await server.as('ines');
    expect((await ines.get('/api/session/people')).status).toBe(200);
    await server.app.database.models.facts.destroy({ where: { name: 'demo' } });
    expect((await ines.get('/api/session/people')).status).toBe(404);
    await server.stop();
  });
});
