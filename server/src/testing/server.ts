import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Answer, ClientToServer, ServerToClient, WireEdit } from '@oxbow/contract';
import { io } from 'socket.io-client';
import type { Socket } from 'socket.io-client';
import { hashed } from '../access/password-hash.js';
import type { Signed } from '../access/people.js';
import { createApp } from '../app.js';
import type { App } from '../app.js';

export type Client = Socket<ServerToClient, ClientToServer>;

/** A server of its own for a test, in a folder of its own, with three people whose password is "tidemill". */
export class TestServer {
  private constructor(
    readonly app: App,
    readonly port: number,
    readonly folder: string,
    readonly people: Record<'ines' | 'tobias' | 'jun', Signed>,
  ) {}

  /** With `url`, the data is kept in the PostgreSQL there. */
  static async start(folder?: string, url?: string): Promise<TestServer> {
    const data = folder ?? (await mkdtemp(join(tmpdir(), 'oxbow-')));
    const app = await createApp({ folder: data, url, demo: true, proxy: 1, clock: false });
    await app.facts.keep('demo', 'yes');
    const passwordHash = (password ??= hashed('tidemill'));
    const make = async (name: 'ines' | 'tobias' | 'jun', colour: number): Promise<Signed> =>
      app.people.byId(name) ??
      app.people.create({
        id: name,
        name,
        initials: name.slice(0, 2).toUpperCase(),
        colour,
        email: `${name}@withy.example`,
        about: '',
        passwordHash,
        admin: name === 'ines',
      });
    const people = {
      ines: await make('ines', 0),
      tobias: await make('tobias', 1),
      jun: await make('jun', 2),
    };
    return new TestServer(app, await app.listen(0), data, people);
  }

  async stop(keep = false): Promise<void> {
    await this.app.close();
    if (!keep) await rm(this.folder, { recursive: true, force: true });
  }

  /** Signs somebody in and answers a caller of the API as them. */
  async as(person: 'ines' | 'tobias' | 'jun'): Promise<Caller> {
    const response = await fetch(`http://127.0.0.1:${this.port}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: `${person}@withy.example`, password: 'tidemill' }),
    });
    const cookie = response.headers.get('set-cookie')?.split(';')[0];
    if (!response.ok || !cookie)
      throw new Error(`${person} was not let in: ${response.status} ${await response.text()}`);
    return new Caller(this.port, cookie);
  }
}

let password: string | undefined;

export interface Reply {
  readonly status: number;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers are checked by the test that reads them
  readonly body: any;
}

/** Calls the API and the live channel as one person. */
export class Caller {
  constructor(
    private readonly port: number,
    readonly cookie: string,
    /** The address that calls seem to come from. */
    private readonly address?: string,
  ) {}

  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Reply> {
    const form = body instanceof FormData;
    const response = await fetch(`http://127.0.0.1:${this.port}${path}`, {
      method,
      headers: {
        Cookie: this.cookie,
        ...(this.address === undefined ? {} : { 'X-Forwarded-For': this.address }),
        ...(body === undefined || form ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      body: form ? body : typeof body === 'string' ? body : JSON.stringify(body),
    });
    const text = await response.text();
    const json = response.headers.get('content-type')?.includes('json');
    return { status: response.status, body: json ? JSON.parse(text) : text };
  }

  get(path: string): Promise<Reply> {
    return this.call('GET', path);
  }

  post(path: string, body?: unknown): Promise<Reply> {
    return this.call('POST', path, body);
  }

  /** Opens the live channel. */
  async live(origin?: string): Promise<Client> {
    const socket: Client = io(`http://127.0.0.1:${this.port}`, {
      path: '/live',
      transports: ['websocket'],
      forceNew: true,
      reconnection: false,
      extraHeaders: { Cookie: this.cookie, ...(origin ? { Origin: origin } : {}) },
    });
    await new Promise<void>((resolve, reject) => {
      socket.once('connect', resolve);
      socket.once('connect_error', reject);
    });
    return socket;
  }
}

/** The step that types `text` at a position. */
export function typing(at: number, text: string): object {
  return { stepType: 'replace', from: at, to: at, slice: { content: [{ type: 'text', text }] } };
}

/** One edit as a client sends it. */
export function edit(counter: number, ...steps: object[]): object {
  return { counter, steps, sources: [], writtenAt: Date.now(), cause: { kind: 'writing' } };
}

/** Sends a message on the live channel and answers the server's answer. */
export async function send<T>(socket: Client, event: 'join' | 'edits', message: object): Promise<Answer<T>> {
  return (await socket
    .timeout(60_000)
    .emitWithAck(event as 'join', message as never)) as unknown as Answer<T>;
}

export type { WireEdit };
