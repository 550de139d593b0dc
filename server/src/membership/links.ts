import { createHash, randomBytes } from 'node:crypto';
import { nanoid } from 'nanoid';
import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import type { Database } from '../store/database.js';
import type { Stored } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';

/** What a link is for: to join, or to set a new password. */
export type LinkKind = 'join' | 'reset';
export type Link = Stored<'invitations'>;

/** How long links hold, in milliseconds. */
const HOLDS: Record<LinkKind, number> = { join: 14 * 24 * 3600_000, reset: 3600_000 };

/** Links that are sent by mail: each carries a token that only its mail has, and holds once, for a time. */
export class Links {
  constructor(private readonly database: Database) {}

  /**
   * A new link to an address, in place of those of its kind that were sent there before; one for a guest does not take the place of one for
   * a member. Answers its token.
   */
  async make(
    kind: LinkKind,
    about: Pick<Link, 'email' | 'person' | 'by' | 'guest'>,
  ): Promise<{ token: string; link: Link }> {
    const token = randomBytes(32).toString('base64url');
    const at = Date.now();
    const link = {
      token: digest(token),
      id: nanoid(10),
      kind,
      ...about,
      at,
      until: at + HOLDS[kind],
      used: 0,
    };
    const { invitations } = this.database.models;
    await this.database.writes.add(async (transaction) => {
      const before = { kind, email: about.email, used: 0, ...(about.guest === 1 ? { guest: 1 } : {}) };
      await invitations.destroy({ where: before, transaction });
      await invitations.create(link, { transaction });
    });
    return { token, link };
  }

  /** The link of a token. Throws 410 for one that is over, and for one that never was. */
  async find(kind: LinkKind, token: string): Promise<Link> {
    const link = await this.database.models.invitations.findOne({
      where: { token: digest(token), kind, used: 0, until: { [Op.gt]: Date.now() } },
      raw: true,
    });
    if (!link) throw new Trouble(410, 'This link does not hold', OVER[kind]);
    return link;
  }

  /** Whether whoever takes a link comes as a guest: not where they are invited as a member, too. */
  async isForGuest({ email, guest }: Link): Promise<boolean> {
    if (guest !== 1) return false;
    const where = { kind: 'join', email, guest: 0, used: 0, until: { [Op.gt]: Date.now() } };
    return (await this.database.models.invitations.count({ where })) === 0;
  }

  /** Uses a link up, within the transaction that does what it is for. Throws 410 when somebody was faster. */
  async use(link: Link, transaction: Transaction): Promise<void> {
    const [count] = await this.database.models.invitations.update(
      { used: Date.now() },
      { where: { token: link.token, used: 0 }, transaction },
    );
    if (count === 0) throw new Trouble(410, 'This link does not hold', OVER[link.kind as LinkKind]);
    const others = { kind: link.kind, email: link.email, used: 0 };
    await this.database.models.invitations.destroy({ where: others, transaction });
  }

  /** Those to join that nobody has used yet, newest first. */
  open(): Promise<Link[]> {
    return this.database.models.invitations.findAll({
      where: { kind: 'join', used: 0, until: { [Op.gt]: Date.now() } },
      order: [['at', 'DESC']],
      raw: true,
    });
  }

  /** Breaks a link by its id; answers whether there was one. */
  async withdraw(id: string): Promise<boolean> {
    const gone = await this.database.writes.add((transaction) =>
      this.database.models.invitations.destroy({ where: { id, kind: 'join', used: 0 }, transaction }),
    );
    return gone > 0;
  }

  /** Breaks the links to a new password that somebody has. */
  async breakResets(person: number, transaction: Transaction): Promise<void> {
    await this.database.models.invitations.destroy({
      where: { kind: 'reset', person, used: 0 },
      transaction,
    });
  }
}

const OVER: Record<LinkKind, string> = {
  join: 'It was used, withdrawn, replaced by a newer one, or is older than two weeks. Ask whoever invited you for another.',
  reset: 'It was used, replaced by a newer one, or is older than an hour. Ask for another.',
};

function digest(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
