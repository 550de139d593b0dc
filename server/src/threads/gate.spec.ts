import { setImmediate } from 'node:timers/promises';
import { Gate } from './gate.js';

describe('a gate', () => {
  it('lets work through side by side, and one piece alone between what began before and what comes after', async () => {
    const gate = new Gate();
    const order: string[] = [];
    const ends: (() => void)[] = [];
    const work = (name: string) => async (): Promise<void> => {
      order.push(`${name} begins`);
      await new Promise<void>((end) => ends.push(end));
      order.push(`${name} ends`);
    };
    const first = [gate.pass(work('one')), gate.pass(work('two'))];
    const alone = gate.alone(work('alone'));
    const later = gate.pass(work('later'));
    await setImmediate();
    expect(order).toEqual(['one begins', 'two begins']);
    ends.splice(0).forEach((end) => end());
    await Promise.all(first);
    await setImmediate();
    expect(order.slice(2)).toEqual(['one ends', 'two ends', 'alone begins']);
    ends.splice(0).forEach((end) => end());
    await alone;
    await setImmediate();
    ends.splice(0).forEach((end) => end());
    await later;
    expect(order.slice(5)).toEqual(['alone ends', 'later begins', 'later ends']);
  });

  it('goes on after work that failed, and stands before a service without changing it', async () => {
    const gate = new Gate();
    const service = gate.before({
      kept: 2,
      times(by: number): number {
        return this.kept * by;
      },
      fail: () => Promise.reject(new Error('no')),
    });
    await expectAsync(Promise.resolve(service.times(3))).toBeResolvedTo(6);
    await expectAsync(service.fail()).toBeRejectedWithError('no');
    await expectAsync(gate.alone(() => Promise.resolve('alone'))).toBeResolvedTo('alone');
    expect(service.kept).toBe(2);
  });
});
