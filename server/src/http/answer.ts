import type { ErrorRequestHandler } from 'express';
import { MulterError } from 'multer';
import type { Logger } from 'pino';
import { TooMany } from '../access/attempts.js';
import { problemOf } from '../trouble/problem.js';
import { Trouble } from '../trouble/trouble.js';

/** The one place where errors of handlers become answers. */
export function answerProblems(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.closed) return;
    const problem = problemOf(error instanceof MulterError ? troubleOf(error) : error);
    if (problem.status >= 500) log.error({ err: error, path: request.path }, 'request failed');
    if (response.headersSent) return next(error);
    if (error instanceof TooMany) response.set('Retry-After', String(error.seconds));
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}

/** What a form that could not be read went wrong with. */
function troubleOf(error: MulterError): Trouble {
  const status = error.code === 'LIMIT_FILE_SIZE' ? 413 : 400;
  return new Trouble(status, 'This file cannot be taken', error.message, [
    { path: error.field ?? 'file', message: error.message },
  ]);
}
