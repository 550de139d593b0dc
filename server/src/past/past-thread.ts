import { parentPort, workerData } from 'node:worker_threads';
import { People } from '../access/people.js';
import { openDatabase } from '../store/database.js';
import type { DatabaseOptions } from '../store/database.js';
import { Moments } from '../store/moments.js';
import { Gate } from '../threads/gate.js';
import { giveWay } from '../threads/give-way.js';
import { Caller, remote, serve } from '../threads/remote.js';
import { Chronicles } from './chronicles.js';
import { Histories } from '../histories/histories.js';
import { Heads } from './heads.js';
import { LookingBack } from './looking-back.js';
import { Notices } from './notices.js';
import { Seeking } from './seeking.js';
import type { Mainland } from './past.js';
import { Watching } from './watching.js';

// The thread that looks back: it reads the data by itself, and has what it found out of words written by the main thread.
if (!parentPort) throw new Error('This runs as a thread');
giveWay();
const caller = new Caller(parentPort);
const main = remote<Mainland>(() => caller, 'main');
serve(parentPort, opened(workerData as DatabaseOptions));

async function opened(options: DatabaseOptions) {
  const trouble = (error: unknown): void => {
    void main.trouble(error instanceof Error ? (error.stack ?? error.message) : String(error));
  };
  const database = await openDatabase(options);
  const people = new People(database);
  await people.load();
  const moments = new Moments(database);
  const heads = new Heads(database, moments);
  const histories = new Histories(database.epochs, moments, heads);
  const gate = new Gate();
  const chronicles = new Chronicles(database, histories, people, main, trouble, gate);
  const notices = new Notices(database, people);
  notices.onNotice((person, document) => void main.noticed(person, document));
  const watching = new Watching(database, moments.log, chronicles, people, notices, trouble, gate);
  const memory = {
    raiseEpoch: (document: number): void => database.epochs.raise(document),
    // While nothing is under way: what was read before is neither kept nor written afterwards.
    letGo: (document: number, chunk: number): Promise<void> =>
      gate.alone(async () => {
        database.epochs.raise(document);
        await main.letGo(document, chunk);
      }),
  };
  const ending = {
    async end(): Promise<void> {
      await watching.close();
      await chronicles.close();
      await people.close();
      await database.close();
    },
  };
  return {
    lookingBack: gate.before(new LookingBack(chronicles)),
    seeking: gate.before(new Seeking(chronicles)),
    watching: gate.before(watching),
    chronicles: gate.before(chronicles),
    people,
    memory,
    ending,
  };
}
