import { MessageChannel } from 'node:worker_threads';
import { Trouble } from '../trouble/trouble.js';
import { Caller, remote, serve } from './remote.js';

interface Sums {
  add(a: number, b: number): Promise<number>;
  refuse(): never;
  fail(): Promise<never>;
}

describe('a service of another thread', () => {
  it('is called as if it was here, also before it is there, and its troubles are the same', async () => {
    const { port1, port2 } = new MessageChannel();
    const sums: Sums = {
      add: async (a, b) => a + b,
      refuse: () => {
        throw new Trouble(422, 'Not that', 'a is wrong', [{ path: 'a', message: 'is wrong' }]);
      },
      fail: () => Promise.reject(new Error('broken')),
    };
    let open: (services: { sums: Sums }) => void = () => undefined;
    serve(port2, new Promise<{ sums: Sums }>((resolve) => (open = resolve)));
    const caller = new Caller(port1);
    const there = remote<Sums>(() => caller, 'sums');
    const early = there.add(1, 2);
    open({ sums });
    expect(await early).toBe(3);
    const trouble = await (there.refuse() as Promise<never>).catch((error: unknown) => error as Trouble);
    expect(trouble).toBeInstanceOf(Trouble);
    expect([trouble.status, trouble.errors]).toEqual([422, [{ path: 'a', message: 'is wrong' }]]);
    await expectAsync(there.fail()).toBeRejectedWithError(/broken/);
    const never = there.add(1, 1);
    caller.gone();
    await expectAsync(never).toBeRejectedWithError(/gone/);
    port1.close();
  });
});
