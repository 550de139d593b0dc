import { createHash, randomBytes } from 'node:crypto';
import { parse } from 'cookie';
import { Op } from 'sequelize';
import type { Database } from '../store/database.js';

export const BROWSER_COOKIE = 'oxbow_browser';
/** How long a browser is known as somebody's, in milliseconds. */
export const BROWSER_LIFE = 365 * 24 * 3600_000;

/**
 * Browsers in which somebody has signed in before, each known by the digest of a token that only it has. Attempts in one of them are counted
 * by themselves, so that nobody can keep somebody else's account waiting by guessing at it elsewhere.
 */
export class Browsers {
  constructor(private readonly database: Database) {}

  /** What tells a browser from others, if it is known as the account's of an address; else null. */
  async known(cookies: string | undefined, email: string): Promise<string | null> {
    const token = tokenIn(cookies);
    if (!token) return null;
    const name = digest(token);
    const rows = await this.database.rows(
      `SELECT browsers.token FROM browsers JOIN people ON people.key = browsers.person
       WHERE browsers.token = :name AND browsers.until > :now AND people.email = :email`,
      { name, now: Date.now(), email: email.trim().toLowerCase() },
    );
    return rows.length > 0 ? name : null;
  }

  /** Notes a browser as one of a person's. Returns the token that it is to keep: the one that it has, or a new one. */
  async remember(person: number, cookies: string | undefined): Promise<string> {
    const { browsers } = this.database.models;
    const [now, held] = [Date.now(), tokenIn(cookies)];
    return this.database.writes.add(async (transaction) => {
      await browsers.destroy({ where: { until: { [Op.lte]: now } }, transaction });
      if (held) {
        const where = { token: digest(held), person };
        const [count] = await browsers.update({ until: now + BROWSER_LIFE }, { where, transaction });
        if (count > 0) return held;
      }
      const token = randomBytes(32).toString('base64url');
      await browsers.create({ token: digest(token), person, until: now + BROWSER_LIFE }, { transaction });
      return token;
    });
  }
}

function tokenIn(cookies: string | undefined): string | undefined {
  return cookies ? parse(cookies)[BROWSER_COOKIE] : undefined;
}

function digest(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
