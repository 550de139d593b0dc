import type { Request, Response } from 'express';
import { SESSION_COOKIE, SESSION_LIFE } from '../access/sessions.js';

/** Gives a browser the token of its session. */
export function keepSession(request: Request, response: Response, token: string): void {
  response.cookie(SESSION_COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: request.secure,
    path: '/',
    maxAge: SESSION_LIFE,
  });
}
