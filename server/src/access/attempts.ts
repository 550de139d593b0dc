import { isIPv6 } from 'node:net';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { Trouble } from '../trouble/trouble.js';

/** So many attempts go without waiting; after them each wait is twice the one before, up to the longest, in seconds. */
interface Rule {
  readonly free: number;
  readonly longest: number;
}

const DAY = 24 * 3600;

/**
 * Attempts on one account from one network, on one account from anywhere, and from one network on any account. Many people may share a
 * network, and anybody can try anybody's account: the last two are wide, and do not apply to a browser that the account has been used in.
 */
const RULES = {
  pair: { free: 5, longest: 15 * 60 },
  account: { free: 100, longest: 60 },
  address: { free: 400, longest: 15 * 60 },
} satisfies Record<string, Rule>;

/** Somebody has tried something too often. */
export class TooMany extends Trouble {
  constructor(
    /** Seconds to wait. */
    readonly seconds: number,
  ) {
    super(429, 'Too many attempts', `Please wait ${said(seconds)} and try again.`);
  }
}

/** Who tries: an account or what stands for one, from a network address, in a browser that the account is known to use. */
export interface Attempt {
  readonly account: string;
  readonly address: string;
  /** What tells the browser from others; null for one that is not known to be the account's. */
  readonly browser?: string | null;
}

/**
 * Counts attempts to do one thing, those that fail for a day, and makes whoever goes on trying wait longer and longer. Whoever knows the
 * password is let in again after the wait at once. Each purpose has a counter of its own. Held in memory: each process of a server counts
 * for itself.
 */
export class Attempts {
  private readonly limits = {
    pair: new Limit('pair', RULES.pair),
    account: new Limit('account', RULES.account),
    address: new Limit('address', RULES.address),
  };

  /** An attempt begins. Throws `TooMany` while there is a wait. */
  async begin(attempt: Attempt): Promise<void> {
    const counted = this.countedFor(attempt);
    const waits = await Promise.all(counted.map(([limit, key]) => limit.wait(key)));
    const longest = Math.max(...waits);
    if (longest > 0) throw new TooMany(longest);
    await Promise.all(counted.map(([limit, key]) => limit.count(key)));
  }

  /** An attempt was right: what it added is taken off again, and this account is forgiven at this address. */
  async right(attempt: Attempt): Promise<void> {
    await Promise.all(
      this.countedFor(attempt).map(([limit, key]) => limit.forgive(key, limit === this.limits.pair)),
    );
  }

  private countedFor({ account, address, browser = null }: Attempt): (readonly [Limit, string])[] {
    const [who, place] = [account.trim().toLowerCase(), networkOf(address)];
    const { pair, account: anywhere, address: anybody } = this.limits;
    if (browser !== null) return [[pair, `browser ${browser} ${who}`]];
    return [
      [pair, `${place} ${who}`],
      [anywhere, who],
      [anybody, place],
    ];
  }
}

/** One way of counting. */
class Limit {
  private readonly counts: RateLimiterMemory;
  private readonly waits: RateLimiterMemory;

  constructor(
    name: string,
    private readonly rule: Rule,
  ) {
    this.counts = new RateLimiterMemory({ keyPrefix: `${name}-count`, points: 1e9, duration: DAY });
    this.waits = new RateLimiterMemory({ keyPrefix: `${name}-wait`, points: 1, duration: 1 });
  }

  /** Seconds to wait before the next attempt. */
  async wait(key: string): Promise<number> {
    const held = await this.waits.get(key);
    return held && held.consumedPoints > 1 ? Math.ceil(held.msBeforeNext / 1000) : 0;
  }

  async count(key: string): Promise<void> {
    const { consumedPoints } = await this.counts.penalty(key);
    const over = consumedPoints - this.rule.free;
    if (over > 0) await this.waits.block(key, Math.min(this.rule.longest, 2 ** over));
  }

  async forgive(key: string, wholly: boolean): Promise<void> {
    await this.waits.delete(key);
    if (wholly) await this.counts.delete(key);
    else await this.counts.reward(key);
  }
}

/** An address, or of one of IPv6 the network that one household has: its first 64 bits (RFC 4291, section 2.5.4). */
export function networkOf(address: string): string {
  if (!isIPv6(address) || address.startsWith('::ffff:')) return address;
  const [head = '', tail = ''] = address.split('::');
  const front = head.split(':').filter(Boolean);
  const back = tail.split(':').filter(Boolean);
  const zeros = Array.from({ length: Math.max(0, 8 - front.length - back.length) }, () => '0');
  return [...front, ...zeros, ...back].slice(0, 4).join(':');
}

function said(seconds: number): string {
  if (seconds < 60) return seconds === 1 ? 'a second' : `${seconds} seconds`;
  const minutes = Math.ceil(seconds / 60);
  return minutes === 1 ? 'a minute' : `${minutes} minutes`;
}
