import type { Logger } from 'pino';
import type { Services } from '../services.js';
import { ClockWatch } from './clock-watch.js';
import { Cutting } from './cutting.js';
import { Rounds } from './rounds.js';

const SECOND = 1000;
const HOUR = 3600 * SECOND;

/** What is done by the clock, and how often. Each failure is reported, and the next round comes all the same. */
export function jobs(
  { database, versions, shares, bin, digests, thinning, facts }: Services,
  log: Logger,
): Rounds[] {
  const cutting = new Cutting(database, versions, log);
  const failed =
    (what: string) =>
    (error: unknown): void =>
      log.error({ err: error }, what);
  const clock = new ClockWatch(facts, (text) => log.error(text));
  /** Deletes for good what is due by the clock, while that is trusted. */
  const deleting = (due: (now: number) => Promise<unknown>) => async (): Promise<void> => {
    if (await clock.isTrusted()) await due(Date.now());
  };
  let looked = Date.now();
  const endShares = async (): Promise<void> => {
    const now = Date.now();
    await shares.ended(looked, now);
    looked = now;
  };
  return [
    new Rounds(15 * SECOND, endShares, failed('ending shares failed')),
    new Rounds(15 * SECOND, () => cutting.cutDue(Date.now()), failed('cutting versions failed')),
    new Rounds(
      HOUR,
      deleting((now) => bin.deleteDue(now)),
      failed('emptying the bin failed'),
    ),
    new Rounds(
      HOUR,
      deleting((now) => thinning.thinDue(now)),
      failed('letting go of versions by rules failed'),
    ),
    new Rounds(60 * SECOND, () => digests.sendDue(Date.now()), failed('mailing notices failed')),
  ];
}
