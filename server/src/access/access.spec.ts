import { TestServer } from '../testing/server.js';
import { checkPassword, hashPassword } from './passwords.js';
import { may } from './policy.js';
import type { Action } from './policy.js';

describe('who may do what', () => {
  it('is decided by one policy', () => {
    const all: Action[] = ['read', 'write', 'restore', 'keep', 'retitle', 'share'];
    expect(all.filter((action) => may('viewer', action))).toEqual(['read']);
    expect(all.filter((action) => may('editor', action))).toEqual([
      'read',
      'write',
      'restore',
      'keep',
      'retitle',
    ]);
    expect(all.filter((action) => may('owner', action))).toEqual(all);
    expect(all.filter((action) => may(null, action))).toEqual([]);
  });

  it('knows a password again, salts it, and takes no other', async () => {
    const [one, other] = await Promise.all([hashPassword('tidemill'), hashPassword('tidemill')]);
    expect(one).not.toBe(other);
    expect(await checkPassword('tidemill', one)).toBe(true);
    expect(await checkPassword('Tidemill', one)).toBe(false);
    expect(await checkPassword('tidemill', 'damaged')).toBe(false);
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

  it('slows down whoever tries many passwords', async () => {
    const server = await TestServer.start();
    const ines = await server.as('ines');
    const statuses = new Set<number>();
    for (let i = 0; i < 70; i++) statuses.add((await ines.post('/api/session', { email: 'x' })).status);
    expect([...statuses]).toEqual([400, 429]);
    await server.stop();
  });
});
