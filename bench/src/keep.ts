import { setTimeout as pause } from 'node:timers/promises';
import { KEEP_EVERYTHING } from '@oxbow/contract';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { Asked, ServedApp, quantile } from './served.js';
import type { Seat } from './serving.js';

const VERSIONS = Number(process.env['BENCH_VERSIONS'] ?? 10_000);
const KEPT = 100;
const TITLE = 'Sluice log';
/** Milliseconds for which somebody types alone, to have something to hold the rest against. */
const ALONE = 10_000;

/**
 * What letting go of versions by a rule costs: 10,000 versions are made of one document, all but a hundred of them go, and somebody
 * types in another document all the while.
 */
export async function benchKeep(): Promise<Figure[]> {
  const app = await ServedApp.start();
  let typing: Asked | null = null;
  try {
    const [owner, typist] = (await app.people(2)) as [Seat, Seat];
    const id = await app.document(TITLE, [owner], 'The mill. ');
    const other = await app.document(
      'Other',
      [typist],
      'The tide mill stands where the creek meets the marsh. ',
    );
    typing = await Asked.start('./typist.js', [String(app.port), typist.cookie, other]);
    const asking = typing;
    const during = async <T>(act: () => Promise<T>) => {
      await asking.ask('begin');
      const begun = performance.now();
      const value = await act();
      const seconds = (performance.now() - begun) / 1000;
      return { value, seconds, p99: quantile(await asking.ask<number[]>('end'), 0.99) };
    };
    const made = await during(() => app.versions(TITLE, VERSIONS));
    await pause(ALONE);
    const alone = await during(() => pause(ALONE));
    const before = await app.bytes();
    const rule = { ...KEEP_EVERYTHING, keep: 'last', last: KEPT };
    const set = await app.call(owner, 'PUT', `/api/documents/${id}/rule`, { rule });
    if (!set.ok) throw new Error(await set.text());
    const thinned = await during(() => app.thin());
    if (thinned.value !== VERSIONS - KEPT) throw new Error(`${thinned.value} versions went`);
    const after = await app.bytes();
    const mega = (count: number): string => `${(count / 1e6).toFixed(1)} MB`;
    return [
      less(
        `letting go of ${VERSIONS - KEPT} of ${VERSIONS} versions / making them`,
        thinned.seconds / made.seconds,
        {
          goal: 0.5,
          note: `${thinned.seconds.toFixed(0)} s / ${made.seconds.toFixed(0)} s`,
        },
      ),
      less('what others wait for an edit meanwhile / alone, 99th percentile', thinned.p99 / alone.p99, {
        goal: 2,
        note: `${thinned.p99.toFixed(0)} ms / ${alone.p99.toFixed(0)} ms; while they are made ${made.p99.toFixed(0)} ms`,
      }),
      less('bytes of the database afterwards / before', after / before, {
        note: `${mega(after)} / ${mega(before)}`,
      }),
    ];
  } finally {
    await typing?.stop();
    await app.stop();
  }
}
