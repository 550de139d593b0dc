import type { Facts } from '../store/facts.js';
import { ClockWatch } from './clock-watch.js';

const [HOUR, DAY] = [3600_000, 24 * 3600_000];
const BEGUN = Date.parse('2026-12-02T12:00:00Z');

describe('watching the clock', () => {
  let kept: string | null;
  let wall: number;
  let steady: number;
  let said: string[];
  let watch: ClockWatch;

  const facts = {
    get: () => Promise.resolve(kept),
    keep: (_name: string, value: string) => Promise.resolve(void (kept = value)),
  } as unknown as Facts;
  const started = (): ClockWatch =>
    new ClockWatch(
      facts,
      (text) => said.push(text),
      () => wall,
      () => steady,
    );
  const pass = (time: number): void => {
    [wall, steady] = [wall + time, steady + time];
  };

  beforeEach(() => {
    [kept, wall, steady, said] = [null, BEGUN, 0, []];
    watch = started();
  });

  it('trusts it while it goes on, over stops of a day, and when it is set back', async () => {
    for (let i = 0; i < 5; i++) {
      expect(await watch.isTrusted()).toBeTrue();
      pass(HOUR);
    }
    wall += DAY;
    steady = 0;
    watch = started();
    expect(await watch.isTrusted()).toBeTrue();
    wall -= 3 * DAY;
    expect(await watch.isTrusted()).toBeTrue();
    expect(said).toEqual([]);
  });

  it('does not after a jump of more than two days, also over a restart, until it is back or somebody says so', async () => {
    await watch.isTrusted();
    wall += 40 * DAY;
    for (let i = 0; i < 100; i++) {
      expect(await watch.isTrusted()).toBeFalse();
      pass(HOUR);
    }
    expect(said.length).toBe(1);
    expect(said[0]).toContain('npm run people -- clock');
    watch = started();
    expect(await watch.isTrusted()).toBeFalse();
    wall -= 40 * DAY;
    expect(await watch.isTrusted()).toBeTrue();
    wall += 40 * DAY;
    expect(await watch.isTrusted()).toBeFalse();
    kept = String(wall);
    expect(await watch.isTrusted()).toBeTrue();
  });

  it('waits a shorter jump out, as after sleep', async () => {
    await watch.isTrusted();
    wall += 8 * HOUR;
    for (let i = 0; i < 8; i++) {
      expect(await watch.isTrusted()).toBeFalse();
      pass(HOUR);
    }
    expect(await watch.isTrusted()).toBeTrue();
  });
});
