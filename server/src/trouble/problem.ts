import { Invalid } from '@oxbow/contract';
import type { Problem } from '@oxbow/contract';
import { FormatError } from '@oxbow/core/formats';
import { Refusal } from '@oxbow/core/history';
import { Trouble } from './trouble.js';

/** Any error as problem details after RFC 9457. What was not foreseen is a 500 that gives nothing away. */
export function problemOf(error: unknown): Problem {
  const problem = (
    status: number,
    title: string,
    detail?: string,
    errors?: readonly { path: string; message: string }[],
  ): Problem => ({
    type: 'about:blank',
    title,
    status,
    ...(detail ? { detail } : {}),
    ...(errors ? { errors: [...errors] } : {}),
  });
  if (error instanceof Trouble) return problem(error.status, error.title, error.detail, error.errors);
  if (error instanceof Invalid)
    return problem(400, 'Some of this cannot be taken', error.message, error.errors);
  if (error instanceof Refusal)
    return problem(422, 'This edit cannot be taken', `${error.path} ${error.message}`, [
      { path: error.path, message: error.message },
    ]);
  if (error instanceof FormatError)
    return problem(422, 'This file cannot be read', error.message, [
      { path: 'file', message: error.message },
    ]);
  const status = clientStatus(error);
  if (status)
    return problem(
      status,
      status === 413 ? 'This is too large' : 'This request cannot be read',
      error instanceof Error ? error.message : undefined,
      [{ path: '', message: 'could not be read' }],
    );
  return problem(
    500,
    'Something went wrong on the server',
    'Please look how things stand before you try again.',
  );
}

/** Errors of body parsers carry a status of their own. */
function clientStatus(error: unknown): number | null {
  const status = typeof error === 'object' && error !== null && 'status' in error ? Number(error.status) : 0;
  return status >= 400 && status < 500 ? status : null;
}
