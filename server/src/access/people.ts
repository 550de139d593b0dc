import { randomBytes } from 'node:crypto';
import type { Person } from '@oxbow/contract';
import { nanoid } from 'nanoid';
import type { Transaction } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Attempts } from './attempts.js';
import { Browsers } from './browsers.js';
import { Ownership } from './ownership.js';
import { decoy } from './password-hash.js';
import { Passwords } from './passwords.js';
import { Sessions } from './sessions.js';
import type { Signed } from './signed.js';
import type { SessionOf } from './sessions.js';
import { Standings } from './standings.js';
import type { View } from './view.js';
import { Trouble } from '../trouble/trouble.js';

export type { Signed } from './signed.js';

/** People, their sessions and their shares. */
export class People {
  private readonly known = new Map<number, Signed>();
  /** Those of them who are only named by a file or a message. */
  private readonly claims = new Map<number, Stored<'claims'>>();
  readonly passwords = new Passwords();
  /** Counts attempts to get in. */
  private readonly attempts = new Attempts();
  /** Browsers that people have signed in with. */
  readonly browsers: Browsers;
  /** What the passwords of those are held against who are not known, so that they take as long. */
  private readonly decoy = decoy();
  /** Passwords that everybody knows: whoever has one does not get in by it. */
  private readonly refused = new Set<string>();
  private readonly changers: (() => Promise<void>)[] = [];

  /** How people stand to documents, at hand for what comes often. */
  readonly standings: Standings;

  /** Who owns documents, and did until lately. */
  readonly ownership: Ownership;

  /** Who is signed in where. */
  readonly sessions: Sessions;

  constructor(private readonly database: Database) {
    this.ownership = new Ownership(database);
    this.browsers = new Browsers(database);
    this.standings = new Standings(database, this.ownership);
    this.sessions = new Sessions(database, (key) => this.known.get(key));
  }

  /** Lets nobody in by a password from now on. */
  refusePassword(password: string): void {
    this.refused.add(password);
  }

  /** Reads everybody once; people are few and rarely change. */
  async load(): Promise<void> {
    for (const row of await this.database.models.people.findAll({ raw: true }))
      this.known.set(row.key, signed(row));
    for (const claim of await this.database.models.claims.findAll({ raw: true })) this.claimed(claim);
  }

  /** Calls `listener` when somebody is new, or is told otherwise; whoever changed that waits for it. */
  onChanged(listener: () => Promise<void>): void {
    this.changers.push(listener);
  }

  /** Takes note of a claim that was made or vouched for, and lets it be known. */
  async noteClaim(claim: Stored<'claims'>): Promise<void> {
    this.claimed(claim);
    await this.changed();
  }

  private async changed(): Promise<void> {
    for (const listener of this.changers) await listener();
  }

  /** Takes note of a claim: whoever it is about is told as claimed, or as who they were vouched to be. */
  private claimed(claim: Stored<'claims'>): void {
    this.claims.set(claim.person, claim);
  }

  /** Everybody, by the name under which they are told: of a claim, what was vouched for it, or that nothing was. */
  get all(): Signed[] {
    return [...this.known.values()].map((person) => this.told(person));
  }

  /** Everybody who is somebody here, and not only named by a file or a message. */
  get members(): Signed[] {
    return [...this.known.values()].filter(({ key }) => !this.claims.has(key));
  }

  private told(person: Signed): Signed {
    const claim = this.claims.get(person.key);
    if (!claim) return person;
    if (claim.vouched === null) return { ...person, name: `${person.name}, as claimed` };
    return { ...(this.known.get(claim.vouched) ?? person), key: person.key, id: person.id };
  }

  /** The outside's id of a person; of a claim that was vouched for, of who it is. */
  id(key: number): string {
    return this.unvouchedId(this.claims.get(key)?.vouched ?? key);
  }

  /** The id of a person as such, whatever was vouched. */
  unvouchedId(key: number): string {
    return this.known.get(key)?.id ?? 'unknown';
  }

  /** The names under which logs have people: of a claim, what it says. */
  get logNames(): { byKey(key: number): string; byId(id: string): string } {
    const byKey = (key: number): string => this.claims.get(key)?.says || this.unvouchedId(key);
    return {
      byKey,
      byId: (id) => {
        const person =
          this.claims.size > 0 ? [...this.known.values()].find((one) => one.id === id) : undefined;
        return person ? byKey(person.key) : id;
      },
    };
  }

  /** The name a person was given, without a word on whether it is claimed. */
  givenName(key: number): string {
    return this.known.get(key)?.name ?? '';
  }

  byId(id: string): Signed | undefined {
    return this.all.find((person) => person.id === id);
  }

  /** Makes somebody; what is done `before` and `after` is done with it or not at all. */
  async create(
    person: Omit<Person, 'id'> & {
      id?: string;
      email: string;
      about: string;
      passwordHash?: string;
      password?: string;
      admin?: boolean;
      guest?: boolean;
    },
    before: (transaction: Transaction) => Promise<void> = () => Promise.resolve(),
    after: (key: number, transaction: Transaction) => Promise<void> = () => Promise.resolve(),
  ): Promise<Signed> {
    const row = {
      id: person.id ?? nanoid(12),
      name: person.name,
      email: person.email.toLowerCase(),
      initials: person.initials,
      colour: person.colour,
      about: person.about,
      password:
        person.passwordHash ??
        (await this.passwords.hash(person.password ?? randomBytes(24).toString('base64'))),
      admin: person.admin ? 1 : 0,
      guest: person.guest ? 1 : 0,
      disabled: 0,
      preferences: '{}',
      mailed: 0,
    };
    const created = await this.database.writes.add(async (transaction) => {
      await before(transaction);
      const made = await this.database.models.people.create(row, { transaction });
      await after(made.key, transaction);
      return made;
    });
    const made = signed(created);
    this.known.set(made.key, made);
    await this.changed();
    return made;
  }

  /**
   * Answers a new session's token, or null for a wrong address or password, which take equally long. Throws `TooMany` where
   * somebody tried too often, from the network address or with the account.
   */
  async signIn(
    email: string,
    password: string,
    address: string,
    { agent, cookies }: { readonly agent: string; readonly cookies: string | undefined },
  ): Promise<{ token: string; person: Signed } | null> {
    const attempt = { account: email, address, browser: await this.browsers.known(cookies, email) };
    await this.attempts.begin(attempt);
    const row = await this.database.models.people.findOne({
      where: { email: email.trim().toLowerCase() },
      raw: true,
    });
    const isRight = await this.passwords.check(password, row?.password || this.decoy);
    if (!isRight || this.refused.has(password) || !row?.password || Number(row.disabled) !== 0) return null;
    const token = await this.sessions.begin(row.key, agent, row.password);
    if (token === null) return null;
    await this.attempts.right(attempt);
    return { token, person: signed(row) };
  }

  /**
   * Gives somebody another password, if they know the one they have, and signs them out everywhere else. Throws 422 with the field
   * that is wrong, and `TooMany` where the old one was guessed at too often.
   */
  async changePassword(
    { person, name }: SessionOf,
    change: { readonly current: string; readonly password: string },
    address: string,
  ): Promise<void> {
    const row = await this.database.models.people.findByPk(person.key, { raw: true });
    if (!row) throw new Trouble(404, 'There is nobody of that name here');
    // Whoever is signed in is counted by their session: nobody else's guesses keep them waiting.
    const attempt = { account: row.email, address, browser: name };
    await this.attempts.begin(attempt);
    if (!(await this.passwords.check(change.current, row.password)))
      throw Trouble.field('current', 'is not your password');
    await this.attempts.right(attempt);
    await this.checkPassword(change.password, [row.name, row.email, row.initials]);
    await this.setPassword(
      person.key,
      change.password,
      async (transaction) => {
        const [held, sessions] = await Promise.all([
          this.database.models.people.findByPk(person.key, { raw: true, transaction }),
          this.database.models.sessions.count({ where: { token: name }, transaction }),
        ]);
        if (held?.password !== row.password)
          throw Trouble.field('current', 'was changed meanwhile, and is not your password any more');
        if (sessions === 0) throw new Trouble(401, 'Please sign in');
      },
      name,
    );
  }

  /** Changes how somebody is told to others. */
  async changeProfile(
    { key }: Signed,
    profile: Pick<Person, 'name' | 'initials' | 'colour'>,
  ): Promise<Signed> {
    const row = { name: profile.name.trim(), initials: profile.initials, colour: profile.colour };
    await this.database.writes.add((transaction) =>
      this.database.models.people.update(row, { where: { key }, transaction }),
    );
    const person = { ...(this.known.get(key) as Signed), ...row };
    this.known.set(key, person);
    await this.changed();
    return person;
  }

  /** Throws 422 for a password that is too easily guessed; `about` is what others know of its owner. */
  async checkPassword(password: string, about: readonly string[]): Promise<void> {
    const why = await this.passwords.weakness(password, about);
    if (why !== null) throw Trouble.field('password', why);
  }

  /**
   * Gives somebody another password and ends all their sessions but the one named `but`, in one transaction; `check` runs first in it.
   * Throws what `check` throws, and 410 for somebody who is disabled.
   */
  async setPassword(
    key: number,
    password: string,
    check: (transaction: Transaction) => Promise<void>,
    but?: string,
  ): Promise<void> {
    const hash = await this.passwords.hash(password);
    const ended = await this.database.writes.add(async (transaction) => {
      await check(transaction);
      const where = { key, disabled: 0 };
      const [count] = await this.database.models.people.update({ password: hash }, { where, transaction });
      if (count === 0) throw new Trouble(410, 'This account is disabled');
      return this.sessions.endWithin(key, transaction, but);
    });
    this.sessions.hangUp(ended);
  }

  /** Who a request's cookies belong to. */
  async whose(cookies: string | undefined): Promise<Signed | null> {
    return (await this.sessions.of(cookies))?.person ?? null;
  }

  /** Everybody by the address they have, in small letters. */
  async addresses(): Promise<ReadonlyMap<string, Signed>> {
    const rows = await this.database.models.people.findAll({ attributes: ['key', 'email'], raw: true });
    return new Map(
      rows.flatMap(({ key, email }) => {
        const person = this.claims.has(key) ? undefined : this.known.get(key);
        return person && email ? [[email, person] as const] : [];
      }),
    );
  }

  /** Every document that somebody has. */
  documents(person: Signed): Promise<View[]> {
    return this.standings.views(person.key);
  }

  /** A document by its outside id, as a person has it; null when there is none or it is not theirs to see. */
  async access(id: string, person: Signed): Promise<Access | null> {
    const found = await this.standings.view(id, person.key);
    if (!found) return null;
    const { view, holder } = found;
    return { document: view, holder: holder === null ? null : (this.known.get(holder) ?? null) };
  }

  close(): Promise<void> {
    return this.passwords.close();
  }

  /** Who somebody is by the database's number of them. */
  byKey(key: number): Signed | undefined {
    const person = this.known.get(key);
    return person && this.told(person);
  }
}

/** A document as a person has it. */
export interface Access {
  readonly document: View;
  /** Who has it checked out. */
  readonly holder: Signed | null;
}

function signed(row: Pick<Stored<'people'>, 'key' | 'id' | 'name' | 'initials' | 'colour'>): Signed {
  return { key: row.key, id: row.id, name: row.name, initials: row.initials, colour: row.colour };
}
