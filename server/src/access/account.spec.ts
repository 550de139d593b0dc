import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';
import { weaknessOf } from './password-strength.js';

describe('somebody’s account', () => {
  let server: TestServer;
  let [here, there]: Caller[] = [];

  beforeEach(async () => {
    server = await TestServer.start();
    [here, there] = await Promise.all([server.as('ines'), server.as('ines')]);
  });
  afterEach(() => server.stop());

  const change = (who: Caller | undefined, current: string, password: string) =>
    who?.call('PUT', '/api/me/password', { current, password });
  const sessions = async (who: Caller | undefined) =>
    (await who?.get('/api/me/sessions'))?.body as { id: string; agent: string; current: boolean }[];
  const isIn = async (who: Caller | undefined) => (await who?.get('/api/session'))?.status === 200;
  const live = async (who: Caller | undefined): Promise<{ closed: Promise<void> }> => {
    const socket = await who?.live();
    return { closed: new Promise<void>((resolve) => socket?.once('disconnect', () => resolve())) };
  };

  it('tells where one is signed in, and nobody else’s places', async () => {
    const tobias = await server.as('tobias');
    const told = await sessions(here);
    expect(told.length).toBe(2);
    expect(told.filter(({ current }) => current).length).toBe(1);
    expect([told[0]?.current, told[0]?.agent]).toEqual([true, jasmine.stringContaining('node')]);
    for (const { id } of told) expect(here?.cookie).not.toContain(id);
    const [own] = await sessions(tobias);
    expect((await here?.call('DELETE', `/api/me/sessions/${own?.id}`))?.status).toBe(404);
    expect(await isIn(tobias)).toBe(true);
  });

  it('signs out in one place by its whole name only, and everywhere else at once, open windows too', async () => {
    const third = await server.as('ines');
    const other = (await sessions(here)).find(({ current }) => !current);
    for (const id of [(other?.id ?? '').slice(0, 1), '_', `${other?.id}0`])
      expect((await here?.call('DELETE', `/api/me/sessions/${id}`))?.status).toBe(404);
    expect((await sessions(here)).length).toBe(3);
    expect((await here?.call('DELETE', `/api/me/sessions/${other?.id}`))?.status).toBe(204);
    expect((await sessions(here)).length).toBe(2);
    const left = (await isIn(there)) ? there : third;
    const { closed } = await live(left);
    expect((await here?.call('DELETE', '/api/me/sessions'))?.status).toBe(204);
    await closed;
    expect([await isIn(here), await isIn(left)]).toEqual([true, false]);
  });

  it('takes another password from whoever knows the old one, and no session but theirs outlives it', async () => {
    const { closed } = await live(there);
    const refused = await change(here, 'tidemall', 'quorum ladle sphinx tug');
    expect(refused?.status).toBe(422);
    expect(refused?.body.errors).toEqual([{ path: 'current', message: 'is not your password' }]);
    const weak = await change(here, 'tidemill', 'ines@withy.example');
    expect(weak?.body.errors[0]).toEqual({
      path: 'password',
      message: jasmine.stringMatching('too easily guessed'),
    });
    expect([await isIn(here), await isIn(there)]).toEqual([true, true]);
    expect((await change(here, 'tidemill', 'quorum ladle sphinx tug'))?.status).toBe(204);
    await closed;
    expect([await isIn(here), await isIn(there)]).toEqual([true, false]);
    await expectAsync(server.as('ines')).toBeRejectedWithError(/^ines was not let in: 401/);
  });

  it('does not let the old password be guessed at without end', async () => {
    const answers: (number | undefined)[] = [];
    for (let i = 0; i < 8; i++)
      answers.push((await change(here, `guess ${i}`, 'quorum ladle sphinx tug'))?.status);
    expect(answers[0]).toBe(422);
    expect(answers.at(-1)).toBe(429);
  });

  it('judges a password by how soon it is guessed, not by what signs it is made of', () => {
    for (const weak of ['short', 'password', 'Passw0rd!', 'qwertyuiop', 'abcabcabc', '19840213', 'inesokell'])
      expect(weaknessOf(weak, ['Ines Okell', 'ines@withy.example']))
        .withContext(weak)
        .not.toBeNull();
    for (const strong of ['quorum ladle sphinx tug', 'vk2mq-81xz-pw0rl', 'der graue Reiher steht im Schilf'])
      expect(weaknessOf(strong, ['Ines Okell', 'ines@withy.example']))
        .withContext(strong)
        .toBeNull();
  });
});
