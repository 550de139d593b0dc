import { fork } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import type { ClientToServer, ServerToClient } from '@oxbow/contract';
import { io } from 'socket.io-client';
import type { Socket } from 'socket.io-client';
import type { Ask, Seat, Served } from './serving.js';

export type Client = Socket<ServerToClient, ClientToServer>;

/** A process of our own that answers what it is asked, one question at a time. */
export class Asked {
  private constructor(private readonly child: ChildProcess) {}

  /** Starts a script of this folder; resolves when it says that it is ready. */
  static async start(script: string, args: readonly string[] = []): Promise<Asked> {
    return (await Asked.startSaying(script, args)).asked;
  }

  /** The same, with what it said. */
  static async startSaying<T>(
    script: string,
    args: readonly string[] = [],
  ): Promise<{ asked: Asked; said: T }> {
    const child = fork(fileURLToPath(new URL(script, import.meta.url)), args, {
      env: { ...process.env, UV_THREADPOOL_SIZE: '8' },
    });
    return { asked: new Asked(child), said: await answered<T>(child) };
  }

  ask<T>(question: Ask | string): Promise<T> {
    this.child.send(question);
    return answered<T>(this.child);
  }

  async stop(): Promise<void> {
    const ended = once(this.child, 'exit');
    this.child.disconnect();
    await ended;
  }
}

/** A server in a process of its own, and what can be asked of it. */
export class ServedApp {
  private constructor(
    private readonly process: Asked,
    readonly port: number,
  ) {}

  /** Starts a server on a folder, which is removed in the end; without one, on an empty one. */
  static async start(folder?: string): Promise<ServedApp> {
    const { asked, said } = await Asked.startSaying<number>('./serving.js', folder ? [folder] : []);
    return new ServedApp(asked, said);
  }

  people(count: number): Promise<Seat[]> {
    return this.process.ask({ ask: 'people', count });
  }

  document(title: string, owners: readonly Seat[], text?: string): Promise<string> {
    return this.process.ask({ ask: 'document', title, owners: owners.map(({ key }) => key), text });
  }

  /** Shares the document of a title with people; answers its id. */
  share(title: string, people: readonly Seat[]): Promise<string> {
    return this.process.ask({ ask: 'share', title, people: people.map(({ key }) => key) });
  }

  /** Writes in the document of a title and keeps a version, so many times. */
  async versions(title: string, count: number): Promise<void> {
    await this.process.ask({ ask: 'versions', title, count });
  }

  /** Lets go of what rules let go of; answers how many versions went. */
  thin(): Promise<number> {
    return this.process.ask({ ask: 'thin' });
  }

  /** Bytes of the database on disk without its free pages. */
  bytes(): Promise<number> {
    return this.process.ask({ ask: 'bytes' });
  }

  /** Begins to measure; `end` answers what it took since. */
  async begin({ profile = false } = {}): Promise<void> {
    await this.process.ask({ ask: 'begin', profile });
  }

  end(): Promise<Served> {
    return this.process.ask({ ask: 'end' });
  }

  /** Opens the live channel for somebody. */
  async live({ cookie }: Seat): Promise<Client> {
    const socket: Client = io(`http://127.0.0.1:${this.port}`, {
      path: '/live',
      transports: ['websocket'],
      forceNew: true,
      reconnection: false,
      extraHeaders: { Cookie: cookie },
    });
    await new Promise<void>((resolve, reject) => {
      socket.once('connect', resolve);
      socket.once('connect_error', reject);
    });
    return socket;
  }

  /** Makes a call of the API for somebody. */
  call({ cookie }: Seat, method: string, path: string, body?: object | FormData): Promise<Response> {
    const form = body instanceof FormData;
    return fetch(`http://127.0.0.1:${this.port}${path}`, {
      method,
      headers: { Cookie: cookie, ...(body && !form ? { 'Content-Type': 'application/json' } : {}) },
      body: form ? body : body && JSON.stringify(body),
    });
  }

  stop(): Promise<void> {
    return this.process.stop();
  }
}

async function answered<T>(child: ChildProcess): Promise<T> {
  const [message] = (await once(child, 'message')) as [{ value: T; error?: string }];
  if (message.error) throw new Error(message.error);
  return message.value;
}

/** A quantile of some numbers, 0 for none. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}
