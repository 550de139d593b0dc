import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import PostalMime from 'postal-mime';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

describe('settings', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;

  beforeEach(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
  });
  afterEach(() => server.stop());

  const guide = async (): Promise<string> =>
    (await tobias.post('/api/documents', { title: 'Guide', kind: 'text' })).body.id;

  it('of the organisation are read by everybody here and changed by administrators', async () => {
    const first = {
      name: 'Oxbow Tide',
      invites: 'admins',
      guests: 'everybody',
      binDays: 30,
      secondOwner: false,
    };
    expect((await tobias.get('/api/settings')).body).toEqual(first);
    expect((await tobias.call('PATCH', '/api/settings', { binDays: 3 })).status).toBe(403);
    for (const wrong of [{ binDays: 0 }, { invites: 'nobody' }, {}, { name: ' ' }])
      expect((await ines.call('PATCH', '/api/settings', wrong)).status)
        .withContext(JSON.stringify(wrong))
        .toBe(400);
    expect((await ines.call('PATCH', '/api/settings', { name: 'The mill ', binDays: 3 })).body).toEqual({
      ...first,
      name: 'The mill',
      binDays: 3,
    });
    expect((await ines.get('/api/organisation')).body).toEqual({ name: 'The mill' });
  });

  it('say who may invite people, and who may bring guests', async () => {
    const id = await guide();
    const invite = (email: string) => tobias.post('/api/people', { email });
    const share = (email: string) => tobias.post(`/api/documents/${id}/shares`, { email, role: 'viewer' });
    expect((await invite('a@else.example')).status).toBe(403);
    expect((await tobias.get('/api/session')).body.mayInvite).toBeFalse();
    await ines.call('PATCH', '/api/settings', { invites: 'everybody' });
    expect((await invite('a@else.example')).status).toBe(201);
    expect((await tobias.get('/api/session')).body.mayInvite).toBeTrue();
    expect((await share('b@else.example')).status).toBe(201);
    for (const guests of ['admins', 'none']) {
      await ines.call('PATCH', '/api/settings', { guests });
      const { status, body } = await share('c@else.example');
      expect([status, body.errors[0].path]).toEqual([422, 'email']);
    }
    expect((await share('jun@withy.example')).status).toBe(201);
  });

  it('of oneself are kept, and one is told by another name everywhere', async () => {
    const preferences = { mail: 'daily', holdBack: true, theme: 'dark', keys: false };
    expect((await tobias.get('/api/session')).body.preferences).toEqual({
      mail: 'none',
      holdBack: false,
      theme: 'system',
      keys: true,
    });
    expect((await tobias.call('PUT', '/api/me/preferences', preferences)).body.preferences).toEqual(
      preferences,
    );
    expect((await tobias.get('/api/session')).body.preferences).toEqual(preferences);
    expect((await tobias.call('PUT', '/api/me/preferences', { ...preferences, mail: 'hourly' })).status).toBe(
      400,
    );
    const profile = { name: 'Tobias of the wheel', initials: 'TW', colour: 4 };
    expect((await tobias.call('PATCH', '/api/me', profile)).body).toEqual(jasmine.objectContaining(profile));
    const id = await guide();
    await tobias.call('PUT', `/api/documents/${id}/shares/ines`, { role: 'viewer' });
    const met = (await ines.get('/api/people')).body;
    expect(met.find((one: { id: string }) => one.id === 'tobias')).toEqual({ id: 'tobias', ...profile });
    expect((await tobias.call('PATCH', '/api/me', { ...profile, colour: 99 })).status).toBe(400);
  });

  it('mail notices once a day or each, none twice, and none of before', async () => {
    const id = await guide();
    const person = server.people.tobias.key;
    const ask = (who: number, at: number): Promise<void> =>
      server.app.notices.tell(1, person, `asked by ${who}`, 'asked', [{ seq: 0, at }], {
        by: ['jun'],
        text: 'Please.',
        words: 0,
        undo: [],
      });
    const letters = async (): Promise<string[]> => {
      const box = join(server.folder, 'mail', 'outbox');
      const names = (await readdir(box).catch(() => [])).sort();
      const read = await Promise.all(
        names.map(async (name) => PostalMime.parse(await readFile(join(box, name)))),
      );
      return read.map(({ subject, text }) => `${subject}: ${text}`);
    };
    const prefer = (mail: string) =>
      tobias.call('PUT', '/api/me/preferences', { mail, holdBack: false, theme: 'system', keys: true });
    const now = Date.now();
    await ask(1, now);
    await server.app.digests.sendDue(now + 1);
    await prefer('daily');
    await ask(2, now);
    await server.app.digests.sendDue(now + 3600_000);
    expect(await letters()).toEqual([]);
    await ask(3, now);
    await server.app.digests.sendDue(now + 25 * 3600_000);
    await server.app.digests.sendDue(now + 25 * 3600_000);
    const [daily, ...more] = await letters();
    expect(daily).toContain('2 notices: jun asks you to share “Guide”');
    expect(daily).toContain(`/documents/${id}`);
    expect(more).toEqual([]);
    await prefer('each');
    await ask(4, now);
    await server.app.digests.sendDue(now + 1);
    const each = (await letters()).filter((one) => !one.startsWith('2 notices'));
    expect(each).toEqual([jasmine.stringContaining('jun asks you to share “Guide”: ')]);
  });
});
