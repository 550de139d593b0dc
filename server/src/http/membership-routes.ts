import type { Request, Response, Router } from 'express';
import type { Me } from '@oxbow/contract';
import type { Signed } from '../access/people.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import { keepSession } from './session-cookie.js';
import type { Ways } from './ways.js';

/** Moving in, inviting and being invited, and what administrators do. */
export function membershipRoutes(router: Router, services: Ways): void {
  const { people, membership } = services;
  /** Signs somebody in who has just come. */
  const welcome = async (person: Signed, request: Request, response: Response): Promise<Me> => {
    const token = await people.sessions.begin(person.key, request.get('user-agent') ?? '');
    if (token === null) throw new Trouble(401, 'Please sign in');
    await keepSession(request, response, token, people, person);
    return membership.me(person);
  };
  mount(router, services, 'organisation', async () => ({ name: await membership.organisation() }));
  mount(router, services, 'setUp', async ({ body, request, response }) =>
    welcome(await membership.setUp(body, request.ip ?? ''), request, response),
  );
  mount(router, services, 'listMembers', async ({ person }) => {
    await membership.checkAdmin(person);
    return membership.members();
  });
  mount(router, services, 'changeMember', async ({ person, params, body }) => {
    await membership.checkAdmin(person);
    return membership.change(params['person'] ?? '', body);
  });
  mount(router, services, 'settings', () => services.settings.get());
  mount(router, services, 'changeSettings', async ({ person, body }) => {
    await membership.checkAdmin(person);
    return services.settings.change(body);
  });
  mount(router, services, 'invite', async ({ person, body }) => {
    await membership.checkMayInvite(person);
    return (await membership.invite(person, body)).invitation;
  });
  mount(router, services, 'withdrawInvitation', async ({ person, params }) => {
    await membership.checkAdmin(person);
    await membership.withdraw(params['invitation'] ?? '');
  });
  mount(router, services, 'invitation', async ({ params }) => membership.invited(params['token'] ?? ''));
  mount(router, services, 'join', async ({ params, body, request, response }) =>
    welcome(await membership.join(params['token'] ?? '', body), request, response),
  );
  mount(router, services, 'forgotten', async ({ body, request }) => {
    await membership.forgotten(body.email, request.ip ?? '');
  });
  mount(router, services, 'resetPassword', async ({ params, body }) => {
    await membership.reset(params['token'] ?? '', body.password);
  });
}
