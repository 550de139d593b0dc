import { Semaphore } from 'async-mutex';

/** How many go through at once; each that leaves costs as many steps. */
const ALL = 1000;

/** Lets work through side by side, and now and then one piece alone: when what began before is over, and before what comes after. */
export class Gate {
  private readonly places = new Semaphore(ALL);

  /** Does something beside others. Work within must not ask to be let through itself. */
  pass<T>(act: () => Promise<T>): Promise<T> {
    return this.places.runExclusive(act);
  }

  /** Does something while nothing else is under way. */
  alone<T>(act: () => Promise<T>): Promise<T> {
    return this.places.runExclusive(act, ALL);
  }

  /** A service each of whose calls goes through the gate. */
  before<S extends object>(service: S): S {
    return new Proxy(service, {
      get: (target, name) => {
        const member: unknown = Reflect.get(target, name);
        if (typeof member !== 'function') return member;
        return (...given: unknown[]) =>
          this.pass(async () => (await Reflect.apply(member, target, given)) as unknown);
      },
    });
  }
}
