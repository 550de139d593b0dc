import { createServer } from 'node:http';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import { pino } from 'pino';
import type { Logger } from 'pino';
import { People } from './access/people.js';
import { Assembling } from './assembling.js';
import { Images } from './api/images.js';
import { Trouble, answerProblems } from './api/problem.js';
import { apiRoutes } from './api/routes.js';
import { Archives } from './archive/archives.js';
import { Seals } from './archive/seals.js';
import { CheckOuts } from './check-outs.js';
import { Comparisons } from './compare/comparisons.js';
import { Credited } from './compare/credited.js';
import { Documents } from './documents.js';
import { Filing } from './filing.js';
import { Files } from './formats/files.js';
import { Versions } from './jobs/versions.js';
import { Homecoming } from './homecoming.js';
import { Landmarks } from './landmarks.js';
import { Channel } from './live/channel.js';
import { Rooms } from './live/rooms.js';
import { Arrivals } from './mail/arrivals.js';
import { Letters } from './mail/letters.js';
import { Post } from './mail/post.js';
import { Chronicles } from './past/chronicles.js';
import { LookingBack } from './past/looking-back.js';
import { Looks } from './past/looks.js';
import { Notices } from './past/notices.js';
import { Watching } from './past/watching.js';
import { Shelf } from './shelf.js';
import { TakingBack } from './taking-back.js';
import { openDatabase } from './store/database.js';
import type { Database } from './store/database.js';

export interface AppOptions {
  /** Folder the data lives in. */
  readonly folder: string;
  /** A PostgreSQL address, to keep the data there instead of in SQLite. */
  readonly url?: string;
  /** Folder of the built web app, when this process serves it. */
  readonly web?: string;
  /** Lists the invented people for signing in. */
  readonly demo?: boolean;
  readonly log?: Logger;
  readonly version?: string;
}

/** A running server's parts. */
export interface App {
  readonly http: Server;
  readonly database: Database;
  readonly people: People;
  readonly documents: Documents;
  readonly images: Images;
  readonly landmarks: Landmarks;
  readonly chronicles: Chronicles;
  readonly looks: Looks;
  readonly letters: Letters;
  /** Starts listening and answers the port. */
  listen(port: number, host?: string): Promise<number>;
  /** Ends connections, stores what spares the next start work, and closes the database. */
  close(): Promise<void>;
}

/** How often pauses are looked for. */
const CUT_EVERY = 15_000;
/** Sign-in attempts by one address in a quarter of an hour. */
const SIGN_INS = 60;

/** Puts the server together; nothing listens until `listen`. */
export async function createApp({
  folder,
  url,
  web,
  demo = false,
  log = pino({ level: 'silent' }),
  version = '0.1.0',
}: AppOptions): Promise<App> {
  const database = await openDatabase({ folder, url });
  const people = new People(database);
  await people.load();
  const rooms = new Rooms(database, (error) => log.error({ err: error }, 'keeping a checkpoint failed'));
  const comparisons = new Comparisons();
  const versions = new Versions(database, rooms.moments, people, comparisons);
  const documents = new Documents(database, rooms, versions, people);
  const images = new Images(database);
  const credited = new Credited(database, documents, people, comparisons, images);
  const files = new Files();
  const filing = new Filing(database, documents, images, files);
  const seals = new Seals(database, rooms.moments.log, (key) => people.id(key));
  const archives = new Archives(database, people, rooms.moments.log, seals, images, files);
  const letters = new Letters(join(folder, 'mail'), files, (name, error) =>
    log.warn({ err: error, name }, 'a message could not be read'),
  );
  const arrivals = new Arrivals(database, people, documents, filing, letters);
  const post = new Post(people, documents, credited, images, files, letters);
  const landmarks = new Landmarks(database, people);
  const homecoming = new Homecoming(documents, people, images, comparisons);
  const assembling = new Assembling(documents, comparisons, images);
  const chronicles = new Chronicles(database, rooms, people, (error) =>
    log.error({ err: error }, 'indexing the words of a document failed'),
  );
  const lookingBack = new LookingBack(chronicles);
  const takingBack = new TakingBack(database, documents, chronicles, comparisons, people);
  const looks = new Looks(database);
  const checkOuts = new CheckOuts(database, documents, people);
  const shelf = new Shelf(database, rooms.moments.log, versions, people, looks, checkOuts);
  const notices = new Notices(database, people);
  const watching = new Watching(database, chronicles, people, notices, (error) =>
    log.error({ err: error }, 'telling of changes failed'),
  );

  const app = express();
  const http = createServer(app);
  const channel = new Channel(http, database, people, rooms, log, isOwnOrigin);
  rooms.onAccepted((document) => watching.wrote(document));
  notices.onNotice((person, document) => channel.noticed(person, document));
  versions.onCut((document, cut) => {
    chronicles.indexSoon(document);
    seals.upTo(document, cut.seq).catch((error: unknown) => log.error({ err: error }, 'sealing failed'));
    channel.versionCut(document, cut);
    channel.shelfChanged(document);
  });

  app.disable('x-powered-by');
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
  app.use(
    '/api/session',
    rateLimit({
      windowMs: 15 * 60_000,
      limit: SIGN_INS,
      skip: (request) => request.method !== 'POST',
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: () => {
        throw new Trouble(429, 'Too many attempts', 'Please wait a quarter of an hour and try again.');
      },
    }),
  );
  app.use(express.json({ limit: '1mb' }));
  app.use(
    apiRoutes({
      database,
      people,
      documents,
      credited,
      images,
      files,
      filing,
      archives,
      arrivals,
      post,
      landmarks,
      shelf,
      lookingBack,
      looks,
      watching,
      notices,
      takingBack,
      homecoming,
      assembling,
      checkOuts,
      channel,
      demo,
      version,
    }),
  );
  app.use('/api', () => {
    throw new Trouble(404, 'There is no such call');
  });
  if (web && existsSync(web)) serveWeb(app, web);
  app.use(answerProblems(log));

  const cutting = setInterval(() => void cutDue(database, versions, log), CUT_EVERY);
  return {
    http,
    database,
    people,
    documents,
    images,
    landmarks,
    chronicles,
    looks,
    letters,
    listen: (port, host = '127.0.0.1') =>
      new Promise((resolve, reject) => {
        http.once('error', reject);
        http.listen(port, host, () => resolve((http.address() as AddressInfo).port));
      }),
    async close() {
      clearInterval(cutting);
      await watching.close();
      await chronicles.close();
      const hungUp = channel.close();
      http.closeAllConnections();
      await hungUp;
      await rooms.close();
      await comparisons.close();
      await files.close();
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

function serveWeb(app: express.Express, web: string): void {
  app.use(express.static(web, { index: false, immutable: true, maxAge: '1y' }));
  app.get('/{*path}', (request, response, next) => {
    if (/\.\w+$/.test(request.path)) return next();
    response.set('Cache-Control', 'no-cache').sendFile(join(web, 'index.html'));
  });
}

async function cutDue(database: Database, versions: Versions, log: Logger): Promise<void> {
  try {
    const open = await database.models.documents.findAll({
      attributes: ['key'],
      where: database.sequelize.literal(
        'seq > (SELECT COALESCE(MAX(versions.seq), -1) FROM versions WHERE versions.document = document.key)',
      ),
      raw: true,
    });
    for (const { key } of open) await versions.cutDue(key, Date.now());
  } catch (error) {
    log.error({ err: error }, 'cutting versions failed');
  }
}
