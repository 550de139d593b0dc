import type { Server as HttpServer, IncomingMessage } from 'node:http';
import { setTimeout as pause } from 'node:timers/promises';
import {
  BEFORE,
  BUDGETS,
  EditsMessage,
  JoinMessage,
  LeaveMessage,
  PresenceMessage,
  check,
} from '@oxbow/contract';
import type {
  Accepted,
  Answer,
  ClientToServer,
  Joined,
  ServerToClient,
  Version,
  WireEdit,
} from '@oxbow/contract';
import { Refusal, readSteps } from '@oxbow/core/history';
import type { Logger } from 'pino';
import type { Socket } from 'socket.io';
import { LRUCache } from 'lru-cache';
import { Server } from 'socket.io';
import type { People, Signed } from '../access/people.js';
import type { Action } from '../access/policy.js';
import type { Standing, StandingsChange } from '../access/standings.js';
import { NOBODY } from '../access/view.js';
import type { View } from '../access/view.js';
import { blended } from '../histories/blended.js';
import type { Told } from '../histories/histories.js';
import { allowed } from '../access/granted.js';
import { problemOf } from '../trouble/problem.js';
import { Trouble } from '../trouble/trouble.js';
import { checkBudgets } from './budgets.js';
import { Here, placed } from './here.js';
import { erasedIn } from '../access/erased.js';
import type { Database } from '../store/database.js';
import type { StoredEdit } from '../store/log.js';
import { Slices } from '../threads/slices.js';
import type { Wanted } from '../ordering/batch.js';
import type { Rooms } from '../ordering/rooms.js';
import { ToldRoom } from '../ordering/told-room.js';
import type { ToldVersions } from '../versions/told-versions.js';

type Live = Server<ClientToServer, ServerToClient, object, Seat>;
type LiveSocket = Socket<ClientToServer, ServerToClient, object, Seat>;

/** Milliseconds between two words to the shelf about one document that is being written in. */
const SHELF_EVERY = 2000;
/** How often it is looked whether a session stands that another process may have ended, in milliseconds. */
const SESSION_LOOK = 60_000;
/** Milliseconds for which edits of one document are gathered into one message: with many writers most of the work is telling all. */
const TOGETHER = 10;
/** The longest that edits are gathered for, where telling everybody of them takes long. */
const LONGEST_TOGETHER = 60;
/** Beyond this a message is not even read: its sender is hung up on. */
const MOST_BYTES = 2 * BUDGETS.messageBytes;

/** Whose connection it is, and the session that it stands and falls with. */
interface Seat {
  person: Signed;
  session: string;
  until: number;
}

/** A history of a document that begins somewhere, and the room in which it is told. */
interface Limited {
  readonly view: Told & Pick<View, 'person' | 'history' | 'role'>;
  readonly room: string;
}

/** The live channel: who has which document open, and what they send each other. Every message is authorised again. */
export class Channel {
  private readonly io: Live;
  private readonly ids = new LRUCache<number, string>({ max: 50_000 });
  /** Of each document, the histories of it that begin somewhere for somebody who has it open. */
  private readonly limited = new Map<number, Map<string, Limited>>();
  private readonly soon = new Map<number, NodeJS.Timeout>();
  /** How long edits of a document are gathered, by what telling of them took last. */
  private readonly gathering = new LRUCache<number, number>({ max: 1000 });
  /** Accepted edits that those who have their document open are about to be told of. */
  private readonly outgoing = new Map<number, { rows: StoredEdit[]; told: Promise<void> }>();
  private readonly here = new Here();

  constructor(
    http: HttpServer,
    private readonly database: Database,
    private readonly people: People,
    private readonly rooms: Rooms,
    private readonly versions: ToldVersions,
    private readonly log: Logger,
    isAdmitted: (request: IncomingMessage) => boolean,
  ) {
    this.io = new Server(http, {
      path: '/live',
      serveClient: false,
      maxHttpBufferSize: MOST_BYTES,
      transports: ['websocket'],
      allowRequest: (request, decide) => decide(null, isAdmitted(request)),
    });
    this.io.use((socket, next) => {
      this.people.sessions.of(socket.handshake.headers.cookie).then(
        (session) => {
          if (!session) return next(new Error('Please sign in'));
          socket.data = { person: session.person, session: session.name, until: session.until };
          next();
        },
        (error: unknown) => next(error instanceof Error ? error : new Error('Please sign in')),
      );
    });
    this.io.on('connection', (socket) => this.connected(socket));
    rooms.onAccepted((document, edits) => this.accepted(document, edits));
    people.sessions.onEnded((session) => this.ended(session));
    people.standings.onChanged((documents) => void this.quietly(() => this.standingsChanged(documents)));
  }

  /** Hangs up on whoever was connected by a session that ended. */
  private ended(session: string): void {
    for (const socket of this.io.sockets.sockets.values())
      if (socket.data.session === session) socket.disconnect(true);
  }

  /** Hangs up when the session of a connection is over, also when that was between the handshake and now. */
  private async watchSession(socket: LiveSocket): Promise<void> {
    const wait = Math.min(socket.data.until - Date.now(), SESSION_LOOK);
    const timer = setTimeout(() => void this.quietly(() => this.watchSession(socket)), Math.max(0, wait));
    socket.once('disconnect', () => clearTimeout(timer));
    if (!(await this.people.sessions.of(socket.handshake.headers.cookie))) socket.disconnect(true);
  }

  async close(): Promise<void> {
    for (const timer of this.soon.values()) clearTimeout(timer);
    await this.io.close();
  }

  /** Tells everyone concerned that the shelf looks different: all, or those who share a document. */
  shelfChanged(document?: number): void {
    if (document === undefined) this.io.emit('shelf', {});
    else void this.quietly(() => this.tellSharers(document));
  }

  private async tellSharers(document: number): Promise<void> {
    const row = await this.database.models.documents.findByPk(document, { attributes: ['id'], raw: true });
    const sharers = new Set(await this.people.standings.having(document));
    for (const socket of this.io.sockets.sockets.values()) {
      if (row && sharers.has(socket.data.person.key)) socket.emit('shelf', { document: row.id });
    }
  }

  /** Writing changes the shelf too, but not at every keystroke. */
  private shelfSoon(document: number): void {
    if (this.soon.has(document)) return;
    this.soon.set(
      document,
      setTimeout(() => {
        this.soon.delete(document);
        this.shelfChanged(document);
      }, SHELF_EVERY),
    );
  }

  /** Tells those who have a document open, and may look back, that a version was cut. */
  versionCut(document: number, version: Version): void {
    const id = this.ids.get(document);
    if (id) this.io.to(wholeOf(id)).emit('version', { document: id, version });
    for (const { view, room } of this.limitedIn(document))
      void this.quietly(async () => {
        if (version.seq <= view.first || view.history === 'none') return;
        const told = await this.versions.told(view, version);
        this.io.to(room).emit('version', { document: view.id, version: told });
      });
  }

  /** Tells those who have a document open that versions of it are gone, or are there again. */
  versionsChanged(document: number): void {
    const id = this.ids.get(document);
    if (id) this.io.to(id).emit('versions', { document: id });
    this.shelfChanged(document);
  }

  /** Tells those who have documents open that something was erased in them. */
  erased(documents: readonly number[]): void {
    for (const document of documents) {
      const id = this.ids.get(document);
      if (id) this.io.to(id).emit('erased', { document: id });
      this.shelfChanged(document);
    }
  }

  /** Tells those who have a document open, and may know of it, that the landmarks on a moment are others now. */
  landmarksChanged({ key, id, first }: View, seq: number): void {
    this.io.to(wholeOf(id)).emit('landmarks', { document: id });
    for (const { view, room } of this.limitedIn(key))
      if (seq + first >= view.first && view.history !== 'none')
        this.io.to(room).emit('landmarks', { document: id });
  }

  /** The histories of a document that begin somewhere for somebody who has it open. */
  private limitedIn(document: number): Limited[] {
    const held = this.limited.get(document);
    for (const { room } of held?.values() ?? [])
      if (!this.io.sockets.adapter.rooms.has(room)) held?.delete(room);
    if (held?.size === 0) this.limited.delete(document);
    return [...(held?.values() ?? [])];
  }

  /** Tells somebody that they have a notice about a document. */
  noticed(person: number, document: number): void {
    void this.quietly(async () => {
      const row = await this.database.models.documents.findByPk(document, { attributes: ['id'], raw: true });
      for (const socket of this.io.sockets.sockets.values())
        if (row && socket.data.person.key === person) socket.emit('notice', { document: row.id });
    });
  }

  /** Who has some documents changed: whoever has one open and lost it, or has another history of it now, is put out at once. */
  private async standingsChanged({ documents, people, collections }: StandingsChange): Promise<void> {
    const rows = await this.database.models.documents.findAll({
      where: { key: [...documents] },
      attributes: ['id'],
      raw: true,
    });
    for (const socket of this.io.sockets.sockets.values()) {
      const person = socket.data.person.key;
      if (people && !people.includes(person)) continue;
      for (const { id } of rows.filter((row) => socket.rooms.has(row.id))) {
        const standing = await this.people.standings.of(id, person);
        if (standing && socket.rooms.has(roomOf({ ...standing, person }))) continue;
        this.leave(socket as LiveSocket, id);
        socket.emit('revoked', { document: id });
      }
      const [only] = rows;
      socket.emit('shelf', !collections && rows.length === 1 && only ? { document: only.id } : {});
    }
  }

  private connected(socket: LiveSocket): void {
    void this.quietly(() => this.watchSession(socket));
    socket.on('join', (message, answer) => void this.answering(answer, () => this.join(socket, message)));
    socket.on('edits', (message, answer) => void this.answering(answer, () => this.edits(socket, message)));
    socket.on(
      'leave',
      (message) => void this.quietly(async () => this.leave(socket, check(LeaveMessage, message).document)),
    );
    socket.on('presence', (message) => void this.quietly(() => this.presence(socket, message)));
    socket.on('disconnecting', () => {
      for (const room of socket.rooms) if (!room.includes(' ')) this.leave(socket, room);
    });
  }

  private async answering<T>(answer: unknown, act: () => Promise<T>): Promise<void> {
    const reply = typeof answer === 'function' ? (answer as (given: Answer<T>) => void) : () => undefined;
    try {
      reply({ ok: true, value: await act() });
    } catch (error) {
      const problem = problemOf(error);
      if (problem.status >= 500) this.log.error({ err: error }, 'live message failed');
      reply({ ok: false, problem });
    }
  }

  private async quietly(act: () => Promise<void>): Promise<void> {
    await this.answering(undefined, act);
  }

  /** The document that a message is about, for somebody who may do this with it. Asked for each message, stored or not. */
  private async granted(socket: LiveSocket, id: string, action: Action): Promise<Standing> {
    const standing = await this.people.standings.of(id, socket.data.person.key);
    const holder = standing?.holder ? (this.people.byKey(standing.holder) ?? null) : null;
    const has = allowed(standing, holder, action);
    this.ids.set(has.document, id);
    return has;
  }

  private async join(socket: LiveSocket, message: unknown): Promise<Joined> {
    const { document: id, since } = check(JoinMessage, message);
    const { document } = await this.granted(socket, id, 'read');
    const room = await this.rooms.get(document);
    await socket.join(id);
    const standing = await this.stillGranted(socket, id);
    const told = { ...standing, key: standing.document, person: socket.data.person.key };
    await socket.join(this.heardIn(told));
    const row = await this.database.models.documents.findByPk(document, { attributes: ['title'], raw: true });
    // Nobody is told an edit that a fall could still take back.
    const { doc, seq } = await new ToldRoom(room, told).storedHead();
    if (since !== undefined && since > seq) throw Trouble.field('since', 'lies in the future');
    return {
      seq,
      content: since === undefined ? doc.toJSON() : null,
      edits: since === undefined ? [] : (await this.missed(told, since, seq)).map((one) => this.wire(one)),
      title: row?.title ?? '',
      role: told.role,
      history: told.history,
      erased: await erasedIn(this.database, told),
      here: this.here.told(id, told, room).filter((one) => one.seq <= seq),
    };
  }

  /** What somebody who was away since an edit did not hear. */
  private async missed(told: Limited['view'], since: number, seq: number): Promise<StoredEdit[]> {
    const upTo = Math.min(seq, since + BUDGETS.joinedEdits);
    const edits = await this.rooms.histories.edits(told, since, upTo, told.person);
    if (told.history !== 'none' || edits.length === 0) return edits;
    const had = await this.rooms.histories.moment(told, since);
    return blended(edits, had, ({ author }) => author === told.person);
  }

  /** The room in which somebody hears of edits: all who have all of a document's history hear them told alike. */
  private heardIn(told: Limited['view']): string {
    const room = roomOf(told);
    if (room === wholeOf(told.id)) return room;
    const held = this.limited.get(told.key) ?? new Map<string, Limited>();
    this.limited.set(told.key, held.set(room, { view: told, room }));
    return room;
  }

  /** A share may have ended between the first look and the joining; whoever is in the room by then is put out as well. */
  private async stillGranted(socket: LiveSocket, id: string): Promise<Standing> {
    try {
      return await this.granted(socket, id, 'read');
    } catch (error) {
      this.leave(socket, id);
      throw error;
    }
  }

  private async edits(socket: LiveSocket, message: unknown): Promise<Accepted> {
    const { document: id, client, base, edits } = check(EditsMessage, message);
    checkBudgets(edits);
    const { document, first } = await this.granted(socket, id, 'write');
    const { schema } = await this.rooms.moments.kindOf(document);
    const room = new ToldRoom(await this.rooms.get(document), { id, first });
    const slices = new Slices();
    const wanted: Wanted[] = [];
    for (const [i, edit] of edits.entries()) {
      wanted.push({ ...edit, steps: within(`edits/${i}`, () => readSteps(schema, edit.steps)) });
      await slices.rest();
    }
    const results = await room.submit({
      author: socket.data.person.key,
      client: `${socket.data.person.id}.${client}`,
      base,
      edits: wanted,
      authorize: () => this.granted(socket, id, 'write'),
      mostMaps: BUDGETS.carriedMaps,
    });
    await this.outgoing.get(document)?.told;
    return {
      results: results.map(({ counter, seq, refusal }) =>
        refusal
          ? { counter, seq, refusal: { path: refusal.path, message: refusal.message } }
          : { counter, seq },
      ),
    };
  }

  private async presence(socket: LiveSocket, message: unknown): Promise<void> {
    const { document: id, ...place } = check(PresenceMessage, message);
    if (!socket.rooms.has(id)) return;
    const { document, first } = await this.granted(socket, id, 'read');
    const presence = { ...place, seq: place.seq + first, person: socket.data.person.id };
    // By now the window may have left the document, or its connection ended.
    if (!socket.connected || !socket.rooms.has(id) || !this.here.set(id, presence, socket.id)) return;
    socket.to(wholeOf(id)).emit('presence', { document: id, ...presence });
    for (const { view, room: heard } of this.limitedIn(document)) {
      const told = placed(presence, view);
      if (told) socket.to(heard).emit('presence', { document: id, ...told });
    }
  }

  private leave(socket: LiveSocket, id: string): void {
    for (const client of this.here.leave(id, socket.id)) socket.to(id).emit('left', { document: id, client });
    for (const room of socket.rooms) if (room === id || room.startsWith(`${id} `)) void socket.leave(room);
  }

  private accepted(document: number, rows: readonly StoredEdit[]): void {
    this.shelfSoon(document);
    const waiting = this.outgoing.get(document);
    if (waiting) {
      waiting.rows.push(...rows);
      return;
    }
    const told = pause(this.gathering.get(document) ?? TOGETHER).then(() => this.tellEdits(document));
    this.outgoing.set(document, { rows: [...rows], told });
  }

  /** Tells those who have a document open of what was accepted since they were last told, in one message. */
  private async tellEdits(document: number): Promise<void> {
    const { rows = [] } = this.outgoing.get(document) ?? {};
    this.outgoing.delete(document);
    const id = this.ids.get(document);
    const begun = performance.now();
    if (id) this.io.to(wholeOf(id)).emit('edits', { document: id, edits: rows.map((row) => this.wire(row)) });
    const took = performance.now() - begun;
    this.gathering.set(document, Math.min(LONGEST_TOGETHER, Math.max(TOGETHER, took * 6)));
    for (const { view, room } of this.limitedIn(document))
      await this.quietly(async () => {
        const edits = (await this.rooms.histories.told(view, rows, view.person)).map((row) => this.wire(row));
        this.io.to(room).emit('edits', { document: view.id, edits });
      });
  }

  /** An edit as it goes over the wire. */
  wire(row: StoredEdit): WireEdit {
    const { seq, counter, schema, wordsIn, wordsOut } = row;
    const parsed = <T>(json: string | null, otherwise: T): T =>
      json === null ? otherwise : (JSON.parse(json) as T);
    return {
      seq,
      author: row.author === NOBODY ? BEFORE : this.people.id(row.author),
      acceptedAt: Number(row.acceptedAt),
      writtenAt: Number(row.writtenAt),
      client: row.client.split('.').at(-1) ?? row.client,
      counter,
      schema,
      steps: parsed<WireEdit['steps']>(row.steps, []),
      sources: parsed<WireEdit['sources']>(row.sources, []).map(sourceTold),
      cause: parsed<WireEdit['cause']>(row.cause, { kind: 'writing' }),
      wordsIn,
      wordsOut,
    };
  }
}

/** The room of those who have all of a document's history. */
function wholeOf(id: string): string {
  return `${id} all`;
}

/** The room of those who have a document so. */
function roomOf({ id, first, history, person }: Pick<View, 'id' | 'first' | 'history' | 'person'>): string {
  return first === 0 && history === 'all' ? wholeOf(id) : `${id} from ${first} ${history} ${person}`;
}

/** What came from another document tells who wrote it there, and no number of that document's edits. */
function sourceTold(source: WireEdit['sources'][number]): WireEdit['sources'][number] {
  return source.of ? { ...source, seq: 0, offset: 0 } : source;
}

/** Runs a check whose refusals are about a part of a larger message. */
function within<T>(path: string, act: () => T): T {
  try {
    return act();
  } catch (error) {
    if (error instanceof Refusal) throw new Refusal(`${path}/${error.path}`, error.message);
    throw error;
  }
}
