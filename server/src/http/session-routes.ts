import { openApi } from '@oxbow/contract';
import type { Request, Router } from 'express';
import { Op } from 'sequelize';
import { SESSION_COOKIE, idOfSession } from '../access/sessions.js';
import type { SessionOf } from '../access/sessions.js';
import type { Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import { keepSession } from './session-cookie.js';
import type { Ways } from './ways.js';

/** Who somebody is: signing in and out, and what needs nobody to be signed in. */
export function sessionRoutes(router: Router, services: Ways): void {
  const { people, facts, demo, version } = services;
  mount(router, services, 'signIn', async ({ body, response, request }) => {
    const signed = await people.signIn(body.email, body.password, request.ip ?? '', {
      agent: request.get('user-agent') ?? '',
      cookies: request.headers.cookie,
    });
    if (!signed)
      throw new Trouble(401, 'That address and password do not belong together', undefined, [
        { path: 'password', message: 'does not belong to this address' },
      ]);
    await keepSession(request, response, signed.token, people, signed.person);
    return services.membership.me(signed.person);
  });
  mount(router, services, 'whoAmI', async ({ person }) => services.membership.me(person));
  mount(router, services, 'signOut', async ({ request, response }) => {
    await people.sessions.end(request.headers.cookie);
    response.clearCookie(SESSION_COOKIE, { path: '/' });
  });
  const own = async (request: Request): Promise<SessionOf> => {
    const session = await people.sessions.of(request.headers.cookie);
    if (!session) throw new Trouble(401, 'Please sign in');
    return session;
  };
  mount(router, services, 'listSessions', async ({ person, request }) => {
    const { name } = await own(request);
    const told = (await people.sessions.list(person)).map(({ token, begun, seen, agent }) => ({
      id: idOfSession(token),
      begun: new Date(Number(begun)).toISOString(),
      seen: new Date(Number(seen)).toISOString(),
      agent,
      current: token === name,
    }));
    return told.sort((one, other) => Number(other.current) - Number(one.current));
  });
  mount(router, services, 'endOtherSessions', async ({ person, request }) => {
    await people.sessions.endOthers(person, (await own(request)).name);
  });
  mount(router, services, 'endSession', async ({ person, params }) => {
    const ended = await people.sessions.endOne(person, params['session'] ?? '');
    if (ended === 0) throw new Trouble(404, 'You are not signed in there');
  });
  mount(router, services, 'changeProfile', async ({ person, body }) =>
    services.membership.me(await people.changeProfile(person, body)),
  );
  mount(router, services, 'changePreferences', async ({ person, body }) => {
    const { preferences } = await services.membership.me(person);
    if (preferences.mail === 'none' && body.mail !== 'none') await services.digests.begin(person);
    await services.membership.prefer(person, body);
    return services.membership.me(person);
  });
  mount(router, services, 'changePassword', async ({ body, request }) => {
    await people.changePassword(await own(request), body, request.ip ?? '');
  });
  mount(router, services, 'demoPeople', async () => {
    if (!demo || !(await facts.get('demo'))) throw new Trouble(404, 'There is no such thing here');
    const rows = await services.database.models.people.findAll({
      where: { password: { [Op.ne]: '' } },
      order: [['key', 'ASC']],
      raw: true,
    });
    return rows.map((row) => ({ ...shown(row), email: row.email, about: row.about }));
  });
  mount(router, services, 'listPeople', async ({ person }) => (await services.met.by(person)).map(shown));
  mount(router, services, 'health', async () => {
    await services.database.sequelize.query('SELECT 1');
    return { ready: true, why: 'The database answers and its tables are up to date.' };
  });
  mount(router, services, 'describe', async () => openApi(version));
}

function shown({ id, name, initials, colour }: Pick<Signed, 'id' | 'name' | 'initials' | 'colour'>) {
  return { id, name, initials, colour };
}
