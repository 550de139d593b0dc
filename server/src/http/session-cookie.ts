import type { Request, Response } from 'express';
import { BROWSER_COOKIE, BROWSER_LIFE } from '../access/browsers.js';
import type { People, Signed } from '../access/people.js';
import { SESSION_COOKIE, SESSION_LIFE } from '../access/sessions.js';

/** Gives a browser the token of its session, and one by which it is known as its person's. */
export async function keepSession(
  request: Request,
  response: Response,
  token: string,
  { browsers }: Pick<People, 'browsers'>,
  person: Signed,
): Promise<void> {
  const options = { httpOnly: true, sameSite: 'lax', secure: request.secure, path: '/' } as const;
  response.cookie(SESSION_COOKIE, token, { ...options, maxAge: SESSION_LIFE });
  const browser = await browsers.remember(person.key, request.headers.cookie);
  response.cookie(BROWSER_COOKIE, browser, { ...options, maxAge: BROWSER_LIFE });
}
