import { randomInt, timingSafeEqual } from 'node:crypto';
import type {
  Invitation,
  InvitationInput,
  Invited,
  JoinInput,
  Me,
  Member,
  MemberPatch,
  Members,
  OrganisationInput,
  Preferences,
} from '@oxbow/contract';
import { Op } from 'sequelize';
import type { Transaction } from 'sequelize';
import { Attempts } from '../access/attempts.js';
import type { People, Signed } from '../access/people.js';
import { preferencesOf } from '../access/preferences.js';
import type { Letters } from '../mail/letters.js';
import type { Database } from '../store/database.js';
import type { Facts } from '../store/facts.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Link, Links } from './links.js';
import type { Settings } from './settings.js';

/** Signs of the code that sets a server up: none that is taken for another. */
const SIGNS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';

/** Who belongs here: setting up, inviting and joining, forgotten passwords, and whom administrators let in and out. */
export class Membership {
  private code: string | null = null;
  private readonly settingUp = new Attempts();
  private readonly forgetting = new Attempts();
  private listener: (person: number, email: string, transaction: Transaction) => Promise<void> = () =>
    Promise.resolve();

  /** `site` gives the address at which people reach this server; `report` hears of mail that nobody waits for. */
  constructor(
    private readonly database: Database,
    private readonly people: People,
    private readonly facts: Facts,
    private readonly settings: Settings,
    private readonly links: Links,
    private readonly letters: Letters,
    private readonly site: () => string,
    private readonly report: (error: unknown) => void,
  ) {}

  /** The organisation's name; null while nobody has moved in. */
  async organisation(): Promise<string | null> {
    if (await this.isEmpty()) return null;
    return (await this.facts.get('organisation')) ?? 'Oxbow Tide';
  }

  /** The code by which an empty server is set up; null for one that is not empty. Another each time the server begins. */
  async codeForSetUp(): Promise<string | null> {
    if (!(await this.isEmpty())) return null;
    const group = (): string => Array.from({ length: 4 }, () => SIGNS[randomInt(SIGNS.length)]).join('');
    return (this.code ??= `${group()}-${group()}-${group()}`);
  }

  /** Makes the organisation and its first administrator. Throws 409 for a server that is not empty, 422 for a wrong code. */
  async setUp(
    { code, organisation, email, password, ...profile }: OrganisationInput,
    address: string,
  ): Promise<Signed> {
    if (!(await this.isEmpty())) throw new Trouble(409, 'Somebody has moved in here already');
    await this.settingUp.begin({ account: 'set up', address });
    if (!this.code || !isSame(code.trim().toUpperCase(), this.code))
      throw Trouble.field('code', 'is not the one that the server printed when it began');
    await this.people.checkPassword(password, [profile.name, email, organisation]);
    this.code = null;
    await this.facts.keep('organisation', organisation.trim());
    return this.people.create({ ...profile, email, password, about: '', admin: true });
  }

  /** Who somebody is to themselves. */
  async me({ key, id, name, initials, colour }: Signed): Promise<Me> {
    const row = await this.row(key);
    const [admin, guest] = [row?.admin === 1, row?.guest === 1];
    const { invites } = await this.settings.get();
    const mayInvite = admin || (invites === 'everybody' && !guest);
    return { id, name, initials, colour, admin, guest, mayInvite, preferences: preferencesOf(row) };
  }

  /** Throws 403 for whoever may not invite people. */
  async checkMayInvite(person: Signed): Promise<void> {
    if (!(await this.me(person)).mayInvite)
      throw new Trouble(403, 'Only administrators invite people here', 'Ask one of them.');
  }

  /** Throws 422 where somebody may not share with addresses outside. */
  async checkMayTakeGuests(person: Signed): Promise<void> {
    const [{ guests }, { admin }] = [await this.settings.get(), await this.me(person)];
    if (guests === 'none') throw Trouble.field('email', 'is of nobody here, and no guests are taken here');
    if (guests === 'admins' && !admin)
      throw Trouble.field('email', 'is of nobody here, and only administrators invite guests');
  }

  /** Keeps how somebody wants things. */
  async prefer({ key }: Signed, preferences: Preferences): Promise<void> {
    await this.database.writes.add((transaction) =>
      this.database.models.people.update(
        { preferences: JSON.stringify(preferences) },
        { where: { key }, transaction },
      ),
    );
  }

  /** Throws 403 for whoever is no administrator. */
  async checkAdmin({ key }: Signed): Promise<void> {
    if ((await this.row(key))?.admin !== 1)
      throw new Trouble(403, 'Only administrators can do that', 'Ask one of them.');
  }

  /** Invites somebody; an invitation that they have already is broken. Answers it, and the link that was sent. Throws 422 where they are here already. */
  async invite(
    by: Signed | null,
    { email, message = '', guest = false }: InvitationInput,
  ): Promise<{ invitation: Invitation; link: string }> {
    const address = email.trim().toLowerCase();
    if ((await this.people.addresses()).has(address))
      throw Trouble.field('email', 'is somebody’s who is here already');
    const about = { email: address, person: null, by: by?.key ?? null, guest: guest ? 1 : 0 };
    const { token, link } = await this.links.make('join', about);
    const where = `${this.site()}/join/${token}`;
    const organisation = (await this.organisation()) ?? 'Oxbow Tide';
    await this.write(by, address, `You are invited to ${organisation}`, [
      `${by?.name ?? organisation} invites you to write with ${organisation}.`,
      ...(message ? [message] : []),
      `Follow this link within two weeks to choose a name and a password; it holds once:\n${where}`,
    ]);
    return { invitation: this.told(link), link: where };
  }

  /** Withdraws an invitation. */
  async withdraw(id: string): Promise<void> {
    if (!(await this.links.withdraw(id))) throw new Trouble(404, 'There is no such invitation');
  }

  /** What an invitation says to whoever holds its link. */
  async invited(token: string): Promise<Invited> {
    const { email, by } = await this.links.find('join', token);
    const organisation = (await this.organisation()) ?? 'Oxbow Tide';
    return { organisation, email, by: (by !== null && this.people.byKey(by)?.name) || organisation };
  }

  /** Takes an invitation. Throws 410 for one that does not hold, 422 for a password that is too easily guessed. */
  async join(token: string, { password, ...profile }: JoinInput): Promise<Signed> {
    const link = await this.links.find('join', token);
    await this.people.checkPassword(password, [profile.name, link.email, profile.initials]);
    return this.people.create(
      { ...profile, email: link.email, password, about: '', guest: await this.links.isForGuest(link) },
      (transaction) => this.links.use(link, transaction),
      (made, transaction) => this.listener(made, link.email, transaction),
    );
  }

  /** Calls `listener` with whoever joins, by the address they were invited at, within the transaction in which they do. */
  onJoined(listener: (person: number, email: string, transaction: Transaction) => Promise<void>): void {
    this.listener = listener;
  }

  /** Sends a link to set a new password, if somebody has the address; nobody who asks is told, nor waits for it. */
  async forgotten(email: string, address: string): Promise<void> {
    const account = email.trim().toLowerCase();
    await this.forgetting.begin({ account, address });
    void this.sendReset(account).catch(this.report);
  }

  /** A link by which somebody sets a new password; null where nobody has the address. */
  async sendReset(email: string): Promise<string | null> {
    const row = await this.database.models.people.findOne({ where: { email, disabled: 0 }, raw: true });
    if (!row?.password) return null;
    const { token } = await this.links.make('reset', { email, person: row.key, by: null, guest: 0 });
    const where = `${this.site()}/reset/${token}`;
    await this.write(null, email, 'A new password', [
      'Somebody, probably you, asked for a new password here. If it was not you, do nothing.',
      `Follow this link within an hour to set one; it holds once:\n${where}`,
    ]);
    return where;
  }

  /** Sets a new password by a link, and signs its owner out everywhere. */
  async reset(token: string, password: string): Promise<void> {
    const link = await this.links.find('reset', token);
    const row = link.person === null ? null : await this.row(link.person);
    const person = row && this.people.byKey(row.key);
    if (!row || !person || Number(row.disabled) !== 0) throw new Trouble(410, 'This link does not hold');
    await this.people.checkPassword(password, [row.name, row.email, row.initials]);
    await this.people.setPassword(row.key, password, (transaction) => this.links.use(link, transaction));
  }

  /** Everybody here, and who is invited. */
  async members(): Promise<Members> {
    const rows = await this.database.models.people.findAll({
      where: { password: { [Op.ne]: '' } },
      raw: true,
    });
    const people = await Promise.all(rows.map((row) => this.member(row)));
    return { people, invitations: (await this.links.open()).map((link) => this.told(link)) };
  }

  /** Disables somebody, or lets them in again, or makes them an administrator. There is always one who is not disabled. */
  async change(id: string, { admin, disabled }: MemberPatch): Promise<Member> {
    const person = this.people.byId(id);
    const held = person && (await this.row(person.key));
    if (!person || !held?.password) throw new Trouble(404, 'There is nobody of that name here');
    const next = {
      admin: admin === undefined ? held.admin : admin ? 1 : 0,
      disabled: disabled === undefined ? Number(held.disabled) : disabled ? Date.now() : 0,
    };
    const { people } = this.database.models;
    const ended = await this.database.writes.add(async (transaction) => {
      await people.update(next, { where: { key: person.key }, transaction });
      if ((await people.count({ where: { admin: 1, disabled: 0 }, transaction })) === 0)
        throw new Trouble(409, 'Somebody has to be an administrator', 'Make somebody else one first.');
      if (next.disabled === 0) return [];
      await this.links.breakResets(person.key, transaction);
      return this.people.sessions.endWithin(person.key, transaction);
    });
    this.people.sessions.hangUp(ended);
    return this.member({ ...held, ...next });
  }

  private async member(row: Stored<'people'>): Promise<Member> {
    const [last] = await this.people.sessions.list({ key: row.key });
    return {
      id: row.id,
      name: row.name,
      initials: row.initials,
      colour: row.colour,
      email: row.email,
      admin: row.admin === 1,
      guest: row.guest === 1,
      disabled: Number(row.disabled) !== 0,
      seen: last ? new Date(Number(last.seen)).toISOString() : null,
    };
  }

  private told({ id, email, by, at, until, guest }: Link): Invitation {
    const time = (when: number): string => new Date(Number(when)).toISOString();
    return {
      id,
      email,
      by: by === null ? null : this.people.id(by),
      at: time(at),
      until: time(until),
      guest: guest === 1,
    };
  }

  private async write(
    from: Signed | null,
    to: string,
    subject: string,
    lines: readonly string[],
  ): Promise<void> {
    const name = from?.name ?? (await this.organisation()) ?? 'Oxbow Tide';
    const draft = {
      from: { name, address: '' },
      to: [to],
      subject,
      text: lines.join('\n\n'),
      at: new Date(),
      files: [],
    };
    await this.letters.send(draft, 'out');
  }

  private async isEmpty(): Promise<boolean> {
    return (await this.database.models.people.count({ where: { password: { [Op.ne]: '' } } })) === 0;
  }

  private row(key: number): Promise<Stored<'people'> | null> {
    return this.database.models.people.findByPk(key, { raw: true });
  }
}

function isSame(one: string, other: string): boolean {
  const [a, b] = [Buffer.from(one), Buffer.from(other)];
  return a.length === b.length && timingSafeEqual(a, b);
}
