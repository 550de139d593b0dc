import type { Signal } from '@angular/core';
import { Injectable, signal } from '@angular/core';
import type {
  Accepted,
  Answer,
  ClientToServer,
  EditsMessage,
  JoinMessage,
  Joined,
  PresenceMessage,
  ServerToClient,
  WireEdit,
} from '@oxbow/contract';
import { Observable, Subject } from 'rxjs';
import { io } from 'socket.io-client';
import type { Socket } from 'socket.io-client';
import { waitBefore } from './backoff';

type Events = { [K in keyof ServerToClient]: Parameters<ServerToClient[K]>[0] };

/** How long an answer may take before the message counts as lost and is sent again. */
const PATIENCE = 15_000;

/** A problem that the server answered with. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
    this.name = 'Refused';
  }
}

/** The live channel to the server: one connection for the whole app, opened when first needed. */
@Injectable({ providedIn: 'root' })
export class LiveChannel {
  private socket: Socket<ServerToClient, ClientToServer> | null = null;
  private readonly up = signal(false);
  /** How often in a row the line could not be opened. */
  private failed = 0;

  /** The server hung up, or does not know who connects: whoever is signed in here is perhaps so no longer. */
  readonly hungUp = new Subject<void>();
  /** Whether the connection stands. */
  readonly connected: Signal<boolean> = this.up.asReadonly();

  private get open(): Socket<ServerToClient, ClientToServer> {
    if (this.socket) return this.socket;
    const socket: Socket<ServerToClient, ClientToServer> = io({
      path: '/live',
      transports: ['websocket'],
      reconnectionDelay: 300,
      reconnectionDelayMax: 3000,
    });
    socket.on('connect', () => {
      this.failed = 0;
      this.up.set(true);
    });
    socket.on('disconnect', (why) => {
      this.up.set(false);
      if (why === 'io server disconnect') this.hungUp.next();
    });
    socket.on('connect_error', ({ message }) => {
      if (message === 'Please sign in') this.hungUp.next();
      else if (!socket.active) this.reconnect();
    });
    this.socket = socket;
    return socket;
  }

  /** Opens a line again that the server did not take, or hung up on, after a wait that grows each time. */
  reconnect(): void {
    const { socket } = this;
    setTimeout(() => socket && this.socket === socket && socket.connect(), waitBefore(this.failed++));
  }

  /** Everything the server says under one name. */
  on<K extends keyof Events>(event: K): Observable<Events[K]> {
    return new Observable((subscriber) => {
      const hear = (message: Events[K]): void => subscriber.next(message);
      const socket = this.open;
      socket.on(event as string as never, hear as never);
      return () => socket.off(event as string as never, hear as never);
    });
  }

  /** Calls back whenever the connection comes up, now too if it stands. Answers how to stop that. */
  whenConnected(act: () => void): () => void {
    const socket = this.open;
    socket.on('connect', act);
    if (socket.connected) act();
    return () => socket.off('connect', act);
  }

  /** Joins a document; one who has been there is told all that was accepted since, in as many answers as it takes. */
  async join(document: string, since?: number): Promise<Joined> {
    if (since === undefined) return this.asked({ document });
    const edits: WireEdit[] = [];
    for (;;) {
      const joined = await this.asked({ document, since: edits.at(-1)?.seq ?? since });
      edits.push(...joined.edits);
      if (joined.edits.length === 0 || edits.at(-1)?.seq === joined.seq) return { ...joined, edits };
    }
  }

  private async asked(message: JoinMessage): Promise<Joined> {
    return answered(await this.open.timeout(PATIENCE).emitWithAck('join', message));
  }

  async send(message: EditsMessage): Promise<Accepted> {
    return answered(await this.open.timeout(PATIENCE).emitWithAck('edits', message));
  }

  presence(message: PresenceMessage): void {
    if (this.open.connected) this.open.volatile.emit('presence', message);
  }

  leave(document: string): void {
    this.socket?.emit('leave', { document });
  }

  /** Closes the connection; whoever signs in next gets one of their own. */
  close(): void {
    this.socket?.disconnect();
    this.socket = null;
    this.up.set(false);
  }
}

function answered<T>(answer: Answer<T>): T {
  if (answer.ok) return answer.value;
  throw new Refused(answer.problem.status, answer.problem.detail ?? answer.problem.title);
}
