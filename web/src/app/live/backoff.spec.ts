import { waitBefore } from './backoff';

describe('waiting before a try', () => {
  it('doubles with each that failed, up to half a minute, and is never quite the same', () => {
    const waits = [0, 1, 2, 3, 4, 5, 6, 7, 20].map((failed) => waitBefore(failed, () => 0.5));
    expect(waits).toEqual([500, 1000, 2000, 4000, 8000, 16_000, 30_000, 30_000, 30_000]);
    expect([waitBefore(0, () => 0), waitBefore(0, () => 1)]).toEqual([375, 625]);
  });
});
