import { createServer } from 'node:http';
import type { IncomingMessage, Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { BUDGETS, preparing } from '@oxbow/contract';
import compression from 'compression';
import express from 'express';
import helmet from 'helmet';
import { pino } from 'pino';
import { answerProblems } from './http/answer.js';
import { apiRoutes } from './http/routes.js';
import { jobs } from './jobs/jobs.js';
import { Channel } from './live/channel.js';
import { openServices } from './services.js';
import type { Ground, Services } from './services.js';
import { isLoopback } from './settings.js';
import { Slices } from './threads/slices.js';
import { Trouble } from './trouble/trouble.js';

/**
 * Milliseconds that a line is kept open for the next call: longer than browsers and proxies take one again, so that none is sent down
 * a line that just ended.
 */
const KEPT_OPEN = 75_000;

/** The password that all people of the demo have. */
const DEMO_PASSWORD = 'tidemill';

export interface AppOptions extends Omit<Ground, 'log'> {
  /** Folder of the built web app, when this process serves it. */
  readonly web?: string;
  /** Lists the invented people for signing in. */
  readonly demo?: boolean;
  /** Whether it answers only what this machine asks itself: a demo that nobody asked for by name. */
  readonly isLocal?: boolean;
  /** The proxies in front of it, as Express's `trust proxy` takes them: how many, or their addresses. None when not given. */
  readonly proxy?: number | string;
  readonly log?: Ground['log'];
  readonly version?: string;
  /** Whether it does what is done by the clock; not where times are made up. */
  readonly clock?: boolean;
}

/** A running server: its services, and its ways in. */
export interface App extends Services {
  readonly http: Server;
  /** Starts listening, and what is done by the clock; answers the port. */
  listen(port: number, host?: string): Promise<number>;
  /** Ends connections, stores what spares the next start work, and closes the database. */
  close(): Promise<void>;
}

/** Puts the server together; nothing listens until `listen`. */
export async function createApp({
  folder,
  url,
  web,
  demo = false,
  isLocal = false,
  proxy = 0,
  log = pino({ level: 'silent' }),
  version = '0.1.0',
  clock = true,
  site,
  mailing,
}: AppOptions): Promise<App> {
  let port = 0;
  const services = await openServices({
    folder,
    url,
    log,
    site: site ?? (() => `http://localhost:${port}`),
    mailing,
  });
  const { database, rooms, versions, past, seals, notices } = services;
  await services.deletion.finish();
  await services.erasures.resume();
  if (!demo && (await services.facts.get('demo'))) services.people.refusePassword(DEMO_PASSWORD);
  const app = express();
  const http = createServer(app);
  http.keepAliveTimeout = KEPT_OPEN;
  const channel = new Channel(
    http,
    database,
    services.people,
    rooms,
    services.told,
    log,
    (request) =>
      isOwnOrigin(request.headers.origin, request.headers.host) && (!isLocal || isAskedHere(request)),
  );
  rooms.onAccepted((document) => past.wrote(document));
  past.onNotice((person, document) => channel.noticed(person, document));
  notices.onNotice((person, document) => channel.noticed(person, document));
  versions.onChanged((document) => channel.versionsChanged(document));
  services.eraser.onErased((documents) => channel.erased(documents));
  versions.onCut((document, cut) => {
    past.chronicles
      .indexSoon(document)
      .catch((error: unknown) => log.error({ err: error }, 'indexing failed'));
    seals.upTo(document, cut.seq).catch((error: unknown) => log.error({ err: error }, 'sealing failed'));
    channel.versionCut(document, cut);
    channel.shelfChanged(document);
  });

  app.disable('x-powered-by');
  if (isLocal)
    app.use((request, _response, next) => {
      if (!isAskedHere(request))
        throw new Trouble(
          403,
          'This is a demo for the machine it runs on',
          'To show it to others, start it with OXBOW_DEMO=on; for people of your own, with OXBOW_DEMO=off.',
        );
      next();
    });
  app.set('trust proxy', proxy);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'img-src': ["'self'", 'data:', 'blob:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'connect-src': ["'self'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(compression());
  app.use('/api', (request, _response, next) => {
    if (
      request.method !== 'GET' &&
      request.method !== 'HEAD' &&
      !isOwnOrigin(request.headers.origin, request.headers.host)
    )
      throw new Trouble(403, 'This request comes from another site');
    next();
  });
  app.use(express.json({ limit: BUDGETS.callBytes }));
  app.use(apiRoutes({ ...services, channel, demo, version }));
  app.use('/api', () => {
    throw new Trouble(404, 'There is no such call');
  });
  if (web && existsSync(web)) serveWeb(app, web);
  app.use(answerProblems(log));

  const rounds = clock ? jobs(services, log) : [];
  const prepared = new Slices().through(preparing());
  return {
    ...services,
    http,
    listen: (wanted, host = '127.0.0.1') =>
      new Promise((resolve, reject) => {
        http.once('error', reject);
        http.listen({ port: wanted, host, exclusive: true }, () => {
          ({ port } = http.address() as AddressInfo);
          for (const one of rounds) one.start();
          resolve(port);
        });
      }),
    async close() {
      await prepared;
      await Promise.all(rounds.map((one) => one.stop()));
      await services.readingLinks.count();
      await services.eraser.idle();
      await past.close();
      const hungUp = channel.close();
      http.closeAllConnections();
      await hungUp;
      await rooms.close();
      await services.comparisons.close();
      await services.files.close();
      await services.people.close();
      await seals.idle();
      await database.close();
    },
  };
}

/** Whether a request comes from this site's own pages, or from no page at all. */
function isOwnOrigin(origin: string | undefined, host: string | undefined): boolean {
  if (origin === undefined) return true;
  return URL.canParse(origin) && new URL(origin).host === host;
}

/** Whether a request comes from this machine, to this machine, with nothing in between. */
function isAskedHere({ headers }: IncomingMessage): boolean {
  return (
    isLoopback(headers.host ?? '') &&
    headers['x-forwarded-for'] === undefined &&
    headers['forwarded'] === undefined
  );
}

function serveWeb(app: express.Express, web: string): void {
  app.use(
    express.static(web, {
      index: false,
      immutable: true,
      maxAge: '1y',
      setHeaders: (response, path) => {
        if (/[\\/](ngsw|safety-worker|worker-basic)[^\\/]*$/.test(path))
          response.set('Cache-Control', 'no-cache');
      },
    }),
  );
  app.get('/{*path}', (request, response, next) => {
    if (/\.\w+$/.test(request.path)) return next();
    response.set('Cache-Control', 'no-cache').sendFile(join(web, 'index.html'));
  });
}
