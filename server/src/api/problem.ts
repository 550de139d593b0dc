import { Invalid } from '@oxbow/contract';
import type { Problem } from '@oxbow/contract';
import { FormatError } from '@oxbow/core/formats';
import { Refusal } from '@oxbow/core/history';
import type { ErrorRequestHandler } from 'express';
import { MulterError } from 'multer';
import type { Logger } from 'pino';

/** Something that went wrong in a way the caller can act on, with its HTTP status. */
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail?: string,
    readonly errors?: readonly { path: string; message: string }[],
  ) {
    super(detail ?? title);
    this.name = 'Trouble';
  }

  static field(path: string, message: string): Trouble {
    return new Trouble(422, 'Some of this cannot be taken', `${path} ${message}`, [{ path, message }]);
  }
}

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
  if (error instanceof MulterError) {
    const status = error.code === 'LIMIT_FILE_SIZE' ? 413 : 400;
    return problem(status, 'This file cannot be taken', error.message, [
      { path: error.field ?? 'file', message: error.message },
    ]);
  }
  const status = clientStatus(error);
  if (status)
    return problem(
      status,
      status === 413 ? 'This is too large' : 'This request cannot be read',
      error instanceof Error ? error.message : undefined,
      [{ path: '', message: 'could not be read' }],
    );
  return problem(500, 'Something went wrong on the server', 'Nothing was changed. Please try again.');
}

/** Errors of body parsers carry a status of their own. */
function clientStatus(error: unknown): number | null {
  const status = typeof error === 'object' && error !== null && 'status' in error ? Number(error.status) : 0;
  return status >= 400 && status < 500 ? status : null;
}

/** The one place where errors of handlers become answers. */
export function answerProblems(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.closed) return;
    const problem = problemOf(error);
    if (problem.status >= 500) log.error({ err: error, path: request.path }, 'request failed');
    if (response.headersSent) return next(error);
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
