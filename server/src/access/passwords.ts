import { randomBytes, scrypt as scryptCallback, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const scrypt = promisify<string, Buffer, number, { N: number; r: number; p: number; maxmem: number }, Buffer>(
  scryptCallback,
);

/** Cost after the OWASP Password Storage Cheat Sheet for scrypt (N = 2^16, r = 8, p = 2); from memory. */
const COST = { N: 2 ** 16, r: 8, p: 2, maxmem: 256 * 1024 * 1024 };

/** A salted hash of a password, with what is needed to check it. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const hash = await scrypt(password.normalize('NFKC'), salt, 32, COST);
  return `${salt.toString('base64')}:${hash.toString('base64')}`;
}

/** Whether a password is the one that was hashed. Takes the same time either way. */
export async function checkPassword(password: string, stored: string): Promise<boolean> {
  const [salt = '', hash = ''] = stored.split(':');
  const expected = Buffer.from(hash, 'base64');
  const given = await scrypt(password.normalize('NFKC'), Buffer.from(salt, 'base64'), 32, COST);
  return expected.length === given.length && timingSafeEqual(expected, given);
}
