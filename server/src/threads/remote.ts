import type { MessagePort, Worker } from 'node:worker_threads';
import { Trouble } from '../trouble/trouble.js';

/** Either end of the line between two threads. */
type Line = MessagePort | Worker;

/** What another thread does, called as if it was here: methods answer by promise, arguments and answers are copied. */
export type Remote<S> = {
  readonly [K in keyof S]: S[K] extends (...given: infer G) => infer R
    ? (...given: G) => Promise<Awaited<R>>
    : never;
};

interface Call {
  readonly call: number;
  readonly service: string;
  readonly method: string;
  readonly given: readonly unknown[];
}

interface Answer {
  readonly answer: number;
  readonly value?: unknown;
  readonly trouble?: Pick<Trouble, 'status' | 'title' | 'detail' | 'errors'>;
  readonly failed?: string;
}

type Methods = Record<string, (...given: readonly unknown[]) => unknown>;

/** Answers the calls of the other thread with services by name, once they are there. */
export function serve(
  line: Line,
  services: Readonly<Record<string, object>> | Promise<Readonly<Record<string, object>>>,
): void {
  line.on('message', (message: Call | Answer) => {
    if (!('call' in message)) return;
    const { call, service, method, given } = message;
    Promise.resolve(services)
      .then((all) => (all[service] as Methods)[method]?.(...given))
      .then(
        (value): Answer => ({ answer: call, value }),
        (error: unknown): Answer => ({ answer: call, ...told(error) }),
      )
      .then((answer) => line.postMessage(answer));
  });
}

function told(error: unknown): Pick<Answer, 'trouble' | 'failed'> {
  if (error instanceof Trouble) {
    const { status, title, detail, errors } = error;
    return { trouble: { status, title, detail, errors } };
  }
  return { failed: error instanceof Error ? (error.stack ?? error.message) : String(error) };
}

/** Calls services of another thread. Rejects with the `Trouble` they threw, and with an error when that thread is gone. */
export class Caller {
  private readonly open = new Map<
    number,
    { done: (value: unknown) => void; failed: (error: Error) => void }
  >();
  private last = 0;

  constructor(private readonly line: Line) {
    line.on('message', (message: Call | Answer) => {
      if (!('answer' in message)) return;
      const call = this.open.get(message.answer);
      this.open.delete(message.answer);
      if (!call) return;
      const { value, trouble, failed } = message;
      if (trouble) call.failed(new Trouble(trouble.status, trouble.title, trouble.detail, trouble.errors));
      else if (failed !== undefined) call.failed(new Error(failed));
      else call.done(value);
    });
  }

  /** The other thread is gone: whatever waits for it fails. */
  gone(): void {
    for (const { failed } of this.open.values()) failed(new Error('The thread is gone'));
    this.open.clear();
  }

  /** Calls a method of a service by its name there. */
  call(service: string, method: string, given: readonly unknown[]): Promise<unknown> {
    const call = ++this.last;
    return new Promise((done, failed) => {
      this.open.set(call, { done, failed });
      this.line.postMessage({ call, service, method, given } satisfies Call);
    });
  }
}

/** A service of another thread by its name there; the thread is asked for when the first call is made. */
export function remote<S extends object>(caller: () => Caller, service: string): Remote<S> {
  return new Proxy({} as Remote<S>, {
    get:
      (_target, method) =>
      (...given: readonly unknown[]) =>
        caller().call(service, String(method), given),
  });
}
