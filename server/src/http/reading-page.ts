import { FORMATS } from '@oxbow/core/formats';
import type { Request, Response, Router } from 'express';
import express from 'express';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { TooMany, networkOf } from '../access/attempts.js';
import type { Shown } from '../reading/reading-links.js';
import { problemOf } from '../trouble/problem.js';
import { DocumentCache } from '../store/epochs.js';
import { Trouble } from '../trouble/trouble.js';
import { mount } from './route.js';
import type { Ways } from './ways.js';

/** Pages that one network address may ask for within a minute. */
const A_MINUTE = 120;
/** Letters of pages that are held ready. */
const HELD = 32 * 1024 * 1024;

const STYLE = `:root{color-scheme:light dark;--page:#fffdf8;--ink:#17343a;--line:#d8d2c2;--accent:#0b5c73}
@media(prefers-color-scheme:dark){:root{--page:#10262b;--ink:#e9e4d8;--line:#3a5157;--accent:#7cc4d8}}
body{margin:0;background:var(--page);color:var(--ink);font:18px/1.6 "Source Serif 4",Georgia,serif}
body{max-width:68ch;margin-inline:auto;padding:40px 24px 80px;overflow-wrap:anywhere}
h1,h2,h3,h4{line-height:1.25}a{color:var(--accent)}img{max-width:100%;height:auto}
table{border-collapse:collapse;display:block;overflow-x:auto}td,th{border:1px solid var(--line);padding:4px 10px;text-align:start}
blockquote{margin-inline:0;padding-inline-start:16px;border-inline-start:3px solid var(--line)}
pre{overflow-x:auto;padding:12px;border:1px solid var(--line)}
form{display:flex;flex-wrap:wrap;gap:12px;align-items:end}label{display:grid;gap:4px;font:15px/1.4 system-ui,sans-serif}
input,button{font:16px/1.4 system-ui,sans-serif;padding:8px 12px;border:1px solid var(--ink);border-radius:6px;background:var(--page);color:var(--ink)}
button{background:var(--ink);color:var(--page)}
@media print{body{max-width:none;padding:0}}`;

/** The pages that reading links show, and what they show as data. They need no sign-in, hold no script and no cookie, and are not to be indexed. */
export function readingPages(router: Router, ways: Ways): void {
  const { readingLinks, files, images } = ways;
  const limit = new RateLimiterMemory({ keyPrefix: 'reading', points: A_MINUTE, duration: 60 });
  const held = new DocumentCache<Buffer>(ways.database.epochs, {
    maxSize: HELD,
    weight: ({ length }) => length + 1,
  });

  /** Opens a link for whoever asks; a password comes as that of HTTP Basic, or in a form. */
  const opened = async (request: Request<{ token: string }>, password: string | null): Promise<Shown> => {
    const address = request.ip ?? '';
    await limit.consume(networkOf(address)).catch((refused: unknown) => {
      if (refused instanceof Error) throw refused;
      throw new TooMany(60);
    });
    return readingLinks.open(request.params.token, password, address);
  };
  const pageOf = async ({ key, seq, epoch, title, doc }: Shown): Promise<Buffer> => {
    const entry = held.entry(key, `${seq} ${epoch} ${title}`);
    if (entry.value) return entry.value;
    const about = { title, author: '', at: '', images: await images.shownIn(key, doc), style: STYLE };
    const page = Buffer.from(await files.write('html', doc, about));
    entry.set(page);
    return page;
  };
  const show = async (
    request: Request<{ token: string }>,
    response: Response,
    password: string | null,
  ): Promise<void> => {
    try {
      const shown = await opened(request, password);
      const page = await pageOf(shown);
      guard(response, shown.frames);
      readingLinks.visited(request.params.token);
      response.type(FORMATS.html.type).send(page);
    } catch (error) {
      const problem = problemOf(error);
      if (problem.status >= 500) throw error;
      guard(response, ['*']);
      if (error instanceof TooMany) response.set('Retry-After', String(error.seconds));
      response.status(problem.status).type(FORMATS.html.type).send(refusal(error, problem));
    }
  };

  router.get('/read/:token', (request, response) => show(request, response, null));
  router.post(
    '/read/:token',
    express.urlencoded({ limit: '2kb', extended: false }),
    (request: Request<{ token: string }>, response) => {
      const { password } = (request.body ?? {}) as { password?: unknown };
      return show(request, response, typeof password === 'string' ? password.slice(0, 200) : null);
    },
  );
  mount(router, ways, 'read', async ({ params, request, response }) => {
    response.set({ 'X-Robots-Tag': 'noindex, nofollow', 'Cache-Control': 'no-store' });
    const asked = Object.assign(request, { params }) as Request<{ token: string }>;
    const { title, doc } = await opened(asked, basicPassword(request.headers.authorization));
    readingLinks.visited(asked.params.token);
    return { title, content: doc.toJSON() as object } as never;
  });
}

/** What goes with a page: that it is not indexed, kept or told of elsewhere, runs nothing, and where it may be framed. */
function guard(response: Response, frames: readonly string[]): void {
  const ancestors = frames.length > 0 ? frames.join(' ') : "'none'";
  response.removeHeader('X-Frame-Options');
  response.set({
    'Content-Security-Policy': `default-src 'none'; img-src data:; style-src 'unsafe-inline'; form-action 'self'; base-uri 'none'; frame-ancestors ${ancestors}`,
    'X-Robots-Tag': 'noindex, nofollow',
    'Cache-Control': 'no-store',
    'Referrer-Policy': 'no-referrer',
  });
}

/** The page of a link that shows nothing: why, and where a password is asked for a field for it. */
function refusal(error: unknown, { title, detail }: { title: string; detail?: string }): string {
  const form =
    error instanceof Trouble && error.status === 401
      ? `<form method="post"><label>Password <input name="password" type="password" required maxlength="200" autocomplete="off" autofocus></label><button>Read it</button></form>`
      : '';
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="robots" content="noindex,nofollow"><title>${title}</title><meta name="viewport" content="width=device-width"><style>${STYLE}</style></head><body><main><h1>${title}</h1>${detail ? `<p>${detail}</p>` : ''}${form}</main></body></html>`;
}

/** The password of HTTP Basic (RFC 7617, section 2); null where there is none. */
function basicPassword(header: string | undefined): string | null {
  const [, given] = /^Basic ([A-Za-z0-9+/=]+)$/i.exec(header ?? '') ?? [];
  if (given === undefined) return null;
  const pair = Buffer.from(given, 'base64').toString('utf8');
  return pair.includes(':') ? pair.slice(pair.indexOf(':') + 1) : null;
}
