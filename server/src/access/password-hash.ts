import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';

/** What a hash costs to make: the logarithm of N, the block size, and how often. */
export interface Cost {
  readonly ln: number;
  readonly r: number;
  readonly p: number;
}

/** After the OWASP Password Storage Cheat Sheet for scrypt (N = 2^16, r = 8, p = 2); from memory. */
export const COST: Cost = { ln: 16, r: 8, p: 2 };

const FORM =
  /^\$scrypt\$ln=(\d{1,2}),r=(\d{1,2}),p=(\d{1,2})\$([A-Za-z0-9+/]{11,86})\$([A-Za-z0-9+/]{22,86})$/;
/** The most that a stored hash may ask for: 256 MB. */
const MOST = 18 + 3;

/** The cost that a stored hash says it was made at; null for what is no hash that is checked here. */
export function costOf(stored: string): Cost | null {
  const [, ln = 0, r = 0, p = 0] = (FORM.exec(stored) ?? []).map(Number);
  return ln > 0 && r > 0 && p > 0 && ln + Math.log2(r) <= MOST ? { ln, r, p } : null;
}

/** A salted hash of a password in the PHC string format, salt and cost in it. Slow on purpose. */
export function hashed(password: string, cost: Cost = COST, salt = randomBytes(16)): string {
  return phc(cost, salt, derived(password, salt, 32, cost));
}

/** What looks like a hash and is of no password, for checks that must take as long as any: made without the cost of making one. */
export function decoy(cost: Cost = COST): string {
  return phc(cost, randomBytes(16), randomBytes(32));
}

/** Whether a password is the one that was hashed; at the cost that the hash says. */
export function matches(password: string, stored: string): boolean {
  const cost = costOf(stored);
  const [, , , salt = '', hash = ''] = stored.split('$');
  if (!cost) return false;
  const expected = Buffer.from(hash, 'base64');
  return timingSafeEqual(expected, derived(password, Buffer.from(salt, 'base64'), expected.length, cost));
}

function derived(password: string, salt: Buffer, length: number, { ln, r, p }: Cost): Buffer {
  const N = 2 ** ln;
  return scryptSync(password.normalize('NFKC'), salt, length, { N, r, p, maxmem: 128 * N * r * 2 });
}

function phc({ ln, r, p }: Cost, salt: Buffer, hash: Buffer): string {
  return `$scrypt$ln=${ln},r=${r},p=${p}$${plain(salt)}$${plain(hash)}`;
}

/** Base 64 without padding, as the PHC string format has it. */
function plain(bytes: Buffer): string {
  return bytes.toString('base64').replace(/=+$/, '');
}
