import { createHash, randomBytes } from 'node:crypto';
import { parse } from 'cookie';
import { Op } from 'sequelize';
import type { Transaction, WhereOptions } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import type { Signed } from './signed.js';

export const SESSION_COOKIE = 'oxbow_session';
/** How long a session lasts, in milliseconds. */
export const SESSION_LIFE = 30 * 24 * 3600_000;
/** How exactly it is known when a session was last used, in milliseconds. */
const SEEN = 3600_000;
/** Letters of what a browser says of itself that are kept. */
const LONGEST_AGENT = 250;

/** Somebody's session: its name here, and when it ends by itself. */
export interface SessionOf {
  readonly name: string;
  readonly person: Signed;
  readonly until: number;
}

/** Who is signed in where. A session is known by the digest of a token that only its browser has. */
export class Sessions {
  private readonly enders: ((session: string) => void)[] = [];

  /** `person` gives somebody by the database's number of them. */
  constructor(
    private readonly database: Database,
    private readonly person: (key: number) => Signed | undefined,
  ) {}

  /**
   * Begins a session and deletes expired ones. Returns its token; null where the person may not sign in any more. `hash` is the password
   * hash that the caller was checked against: when it changed since, no session begins. Both are read again in the transaction.
   */
  async begin(person: number, agent: string, hash?: string): Promise<string | null> {
    const token = randomBytes(32).toString('base64url');
    const now = Date.now();
    const row = { token: digest(token), person, until: now + SESSION_LIFE, begun: now, seen: now };
    const { people, sessions } = this.database.models;
    const begun = await this.database.writes.add(async (transaction) => {
      const held = await people.findByPk(person, {
        attributes: ['password', 'disabled'],
        raw: true,
        transaction,
      });
      if (!held || Number(held.disabled) !== 0 || (hash !== undefined && held.password !== hash))
        return false;
      await sessions.destroy({ where: { until: { [Op.lt]: now } }, transaction });
      await sessions.create({ ...row, agent: agent.slice(0, LONGEST_AGENT) }, { transaction });
      return true;
    });
    return begun ? token : null;
  }

  /** The session that a request's cookies belong to, if it is not over and its person is not disabled. */
  async of(cookies: string | undefined): Promise<SessionOf | null> {
    const token = tokenIn(cookies);
    if (!token) return null;
    const [name, now] = [digest(token), Date.now()];
    const [row] = await this.database.rows<{ person: number; until: number | string; seen: number | string }>(
      `SELECT person, until, seen FROM sessions JOIN people ON people.key = sessions.person
       WHERE token = :name AND until > :now AND people.disabled = 0`,
      { name, now },
    );
    const person = row && this.person(row.person);
    if (!person) return null;
    if (Number(row.seen) < now - SEEN)
      await this.database.writes.add((transaction) =>
        this.database.models.sessions.update({ seen: now }, { where: { token: name }, transaction }),
      );
    return { name, person, until: Number(row.until) };
  }

  /** Somebody's sessions that are not over, those used last first. */
  async list(person: Pick<Signed, 'key'>): Promise<Stored<'sessions'>[]> {
    return this.database.models.sessions.findAll({
      where: { person: person.key, until: { [Op.gt]: Date.now() } },
      order: [
        ['seen', 'DESC'],
        ['begun', 'DESC'],
      ],
      raw: true,
    });
  }

  /** Ends the session that a request's cookies belong to. */
  async end(cookies: string | undefined): Promise<void> {
    const token = tokenIn(cookies);
    if (token) await this.endThose({ token: digest(token) });
  }

  /** Ends all of somebody's sessions but one; those that are open are hung up on at once. */
  endOthers(person: Signed, but: string): Promise<number> {
    return this.endThose({ person: person.key, token: { [Op.ne]: but } });
  }

  /** Ends one of somebody's sessions, by the id that it is told under. Answers how many that were: one, or none. */
  async endOne(person: Signed, id: string): Promise<number> {
    const named = (await this.list(person)).find(({ token }) => idOfSession(token) === id);
    return named ? this.endThose({ person: person.key, token: named.token }) : 0;
  }

  /** Calls `listener` with the name of a session that somebody ended. */
  onEnded(listener: (session: string) => void): void {
    this.enders.push(listener);
  }

  /**
   * Ends all of somebody's sessions, but one if it is named, as part of a transaction. Returns their names; pass them to `hangUp` once it is
   * committed.
   */
  async endWithin(person: number, transaction: Transaction, but?: string): Promise<string[]> {
    const where = { person, ...(but === undefined ? {} : { token: { [Op.ne]: but } }) };
    return this.deleted(where, transaction);
  }

  /** Closes the connections of sessions that ended. */
  hangUp(names: readonly string[]): void {
    for (const name of names) for (const listener of this.enders) listener(name);
  }

  private async endThose(where: WhereOptions<Stored<'sessions'>>): Promise<number> {
    const ended = await this.database.writes.add((transaction) => this.deleted(where, transaction));
    this.hangUp(ended);
    return ended.length;
  }

  private async deleted(
    where: WhereOptions<Stored<'sessions'>>,
    transaction: Transaction,
  ): Promise<string[]> {
    const { sessions } = this.database.models;
    const rows = await sessions.findAll({ where, attributes: ['token'], raw: true, transaction });
    const names = rows.map(({ token }) => token);
    await sessions.destroy({ where: { token: names }, transaction });
    return names;
  }
}

/** Letters of a session's name that tell it from others to the outside; of no use for getting in. */
const TOLD = 24;

/** The id that a session is told under. */
export function idOfSession(name: string): string {
  return name.slice(0, TOLD);
}

function tokenIn(cookies: string | undefined): string | undefined {
  return cookies ? parse(cookies)[SESSION_COOKIE] : undefined;
}

function digest(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
