import { rm } from 'node:fs/promises';
import { AS_PERSON, BUDGETS, OTHER_PERSON, check, checkSigns, operations, paramsOf } from '@oxbow/contract';
import type { Operation, Operations } from '@oxbow/contract';
import { tellJson } from '@oxbow/core/content';
import type { Request, RequestHandler, Response, Router } from 'express';
import multer from 'multer';
import type { People, Signed } from '../access/people.js';
import { Slices } from '../threads/slices.js';
import { onBehalfOf } from '../threads/threads.js';
import { Trouble } from '../trouble/trouble.js';
import type { Ways } from './ways.js';

/** How deep the items of an answer's lists stand, as in a comparison's changes or a moment's blocks. */
const TOLD = 3;
const ONE = { least: 1, most: 1 };

type StaticOf<T> = T extends { static: infer S } ? S : undefined;
type Asked<O extends Operation> = {
  readonly person: O extends { open: true } ? Signed | null : Signed;
  readonly params: Record<string, string>;
  readonly query: StaticOf<O['query']>;
  readonly body: O extends { form: infer F } ? StaticOf<F> : StaticOf<O['body']>;
  readonly file: Express.Multer.File | undefined;
  readonly files: readonly Express.Multer.File[];
  readonly request: Request;
  readonly response: Response;
};
type Handler<O extends Operation> = (asked: Asked<O>) => Promise<StaticOf<O['answer']> | undefined | void>;

/** Takes the files of a form down in the data folder, where they lie until its call is answered. */
const uploadOf = (uploads: string, { most = BUDGETS.fileBytes, files = ONE }: Operation): RequestHandler =>
  multer({
    storage: multer.diskStorage({ destination: uploads }),
    limits: { fileSize: most, files: files.most, fields: 10, fieldSize: BUDGETS.callBytes },
  }).array('file');

/**
 * Mounts an operation: its input is checked against the contract, the caller signed in unless it is open, and what the
 * handler answers is sent with the operation's status. A handler that sends for itself answers undefined.
 */
export function mount<K extends keyof Operations>(
  router: Router,
  { people, uploads }: Pick<Ways, 'people' | 'uploads'>,
  id: K,
  handle: Handler<Operations[K]>,
): void {
  const operation: Operation = operations[id];
  const params = paramsOf(operation.path);
  const run = async (request: Request, response: Response): Promise<void> => {
    const person = await people.whose(request.headers.cookie);
    if (!person && !operation.open) throw new Trouble(401, 'Please sign in');
    const meant = request.get(AS_PERSON);
    if (person && !operation.open && meant !== undefined && meant !== person.id)
      throw new Trouble(OTHER_PERSON, 'Somebody else is signed in in this browser now', 'Nothing was done.');
    checkSigns([request.query, request.body]);
    const asked = {
      person: person as never,
      params: check(params, { ...request.params }) as Record<string, string>,
      query: (operation.query ? check(operation.query, { ...request.query }, true) : undefined) as never,
      body: bodyOf(operation, request) as never,
      file: filesOf(request)[0],
      files: filesOf(request),
      request,
      response,
    };
    const answer = await onBehalfOf(person?.key ?? 0, () => handle(asked));
    if (response.headersSent) return;
    if (answer === undefined) response.status(operation.status).end();
    else {
      const json = await new Slices().through(tellJson(answer, TOLD));
      response.status(operation.status).type('json').send(json);
    }
  };
  router[operation.method](
    operation.path,
    ...(operation.form ? [signedIn(people), uploadOf(uploads, operation)] : []),
    (request, response) => run(request, response).finally(() => discard(filesOf(request))),
  );
}

function filesOf({ files }: Request): readonly Express.Multer.File[] {
  return Array.isArray(files) ? files : [];
}

async function discard(files: readonly Express.Multer.File[]): Promise<void> {
  for (const { path } of files) await rm(path, { force: true });
}

/** Files are read only for those who are signed in. */
function signedIn(people: People): RequestHandler {
  return async (request, _response, next) => {
    if (!(await people.whose(request.headers.cookie))) throw new Trouble(401, 'Please sign in');
    next();
  };
}

function bodyOf(operation: Operation, request: Request): unknown {
  if (operation.form) {
    const body: unknown = check(operation.form, { ...(request.body as object | undefined) });
    const { least } = operation.files ?? ONE;
    if (filesOf(request).length < least)
      throw Trouble.field('file', least === 1 ? 'is missing' : `needs ${least} at least`);
    return body;
  }
  return operation.body ? check(operation.body, request.body) : undefined;
}
