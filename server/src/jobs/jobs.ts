import type { Logger } from 'pino';
import type { Services } from '../services.js';
import { Cutting } from './cutting.js';
import { Rounds } from './rounds.js';

const SECOND = 1000;
const HOUR = 3600 * SECOND;

/** What is done by the clock, and how often. Each failure is reported, and the next round comes all the same. */
export function jobs(
  { database, versions, shares, bin, digests, thinning }: Services,
  log: Logger,
): Rounds[] {
  const cutting = new Cutting(database, versions, log);
  const failed =
    (what: string) =>
    (error: unknown): void =>
      log.error({ err: error }, what);
  let looked = Date.now();
  const endShares = async (): Promise<void> => {
    const now = Date.now();
    await shares.ended(looked, now);
    looked = now;
  };
  return [
    new Rounds(15 * SECOND, endShares, failed('ending shares failed')),
    new Rounds(15 * SECOND, () => cutting.cutDue(Date.now()), failed('cutting versions failed')),
    new Rounds(HOUR, () => bin.deleteDue(Date.now()), failed('emptying the bin failed')),
    new Rounds(
      HOUR,
      async () => void (await thinning.thinDue(Date.now())),
      failed('letting go of versions by rules failed'),
    ),
    new Rounds(60 * SECOND, () => digests.sendDue(Date.now()), failed('mailing notices failed')),
  ];
}
