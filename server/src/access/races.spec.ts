import { Caller, TestServer } from '../testing/server.js';

const GOOD = 'quorum ladle sphinx tug';
const AT_ONCE = 8;

describe('signing in while the account changes', () => {
  let server: TestServer;
  let ines: Caller;

  beforeEach(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
  });
  afterEach(() => server.stop());

  /** Signs tobias in, and returns a caller with the session if one began. */
  const signIn = async (): Promise<Caller | null> => {
    const response = await fetch(`http://127.0.0.1:${server.port}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: 'tobias@withy.example', password: 'tidemill' }),
    });
    const cookie = response.headers.get('set-cookie')?.split(';')[0];
    return response.ok && cookie ? new Caller(server.port, cookie) : null;
  };
  /** How many of some callers are signed in. */
  const signedIn = async (callers: readonly (Caller | null)[]): Promise<number> => {
    const statuses = await Promise.all(callers.map(async (one) => (await one?.get('/api/session'))?.status));
    return statuses.filter((status) => status === 200).length;
  };

  for (const wait of [0, 120])
    it(`begins no session that outlives being disabled, ${wait} ms into it`, async () => {
      const signingIn = Array.from({ length: AT_ONCE }, signIn);
      await new Promise((resolve) => setTimeout(resolve, wait));
      const { status } = await ines.call('PATCH', '/api/members/tobias', { disabled: true });
      expect(status).toBe(200);
      const callers = await Promise.all(signingIn);
      expect(await signedIn(callers)).toBe(0);
      // Sessions that began before are gone, not asleep.
      await ines.call('PATCH', '/api/members/tobias', { disabled: false });
      expect(await signedIn(callers)).toBe(0);
    });

  it('begins no session by a password that was changed meanwhile', async () => {
    const tobias = await server.as('tobias');
    const signingIn = Array.from({ length: 4 }, signIn);
    const changed = await tobias.call('PUT', '/api/me/password', { current: 'tidemill', password: GOOD });
    expect(changed.status).toBe(204);
    const late = Array.from({ length: 3 }, signIn);
    expect(await signedIn([...(await Promise.all(signingIn)), ...(await Promise.all(late))])).toBe(0);
    expect(await signedIn([tobias])).toBe(1);
  });

  it('changes no password by one that was changed meanwhile, or in a session that ended', async () => {
    const tobias = await server.as('tobias');
    const other = await server.as('tobias');
    const change = (who: Caller, password: string) =>
      who.call('PUT', '/api/me/password', { current: 'tidemill', password });
    const replies = await Promise.all([change(tobias, GOOD), change(other, `${GOOD} two`)]);
    expect(replies.map(({ status }) => status).filter((status) => status === 204).length).toBe(1);
    expect(await signedIn([tobias, other])).toBe(1);
  });
});
