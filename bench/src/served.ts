import { fork } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import type { ClientToServer, ServerToClient } from '@oxbow/contract';
import { io } from 'socket.io-client';
import type { Socket } from 'socket.io-client';
import type { Ask, Seat, Served } from './serving.js';

export type Client = Socket<ServerToClient, ClientToServer>;

/** A server in a process of its own, and what can be asked of it. */
export class ServedApp {
  private constructor(
    private readonly child: ChildProcess,
    readonly port: number,
  ) {}

  static async start(): Promise<ServedApp> {
    const child = fork(fileURLToPath(new URL('./serving.js', import.meta.url)), [], {
      env: { ...process.env, UV_THREADPOOL_SIZE: '8' },
    });
    return new ServedApp(child, await answered<number>(child));
  }

  people(count: number): Promise<Seat[]> {
    return this.ask({ ask: 'people', count });
  }

  document(title: string, owners: readonly Seat[], text?: string): Promise<string> {
    return this.ask({ ask: 'document', title, owners: owners.map(({ key }) => key), text });
  }

  /** Begins to measure; `end` answers what it took since. */
  async begin(): Promise<void> {
    await this.ask({ ask: 'begin' });
  }

  end(): Promise<Served> {
    return this.ask({ ask: 'end' });
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

  async stop(): Promise<void> {
    const ended = once(this.child, 'exit');
    this.child.disconnect();
    await ended;
  }

  private ask<T>(asked: Ask): Promise<T> {
    this.child.send(asked);
    return answered<T>(this.child);
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
