import { hashed, matches } from './password-hash.js';

/** A password to hash, to hold against a stored hash, or to judge by what is known of its owner. */
export interface PasswordTask {
  readonly password: string;
  readonly stored?: string;
  readonly about?: readonly string[];
}

/** Hashes, checks or judges a password in a worker thread. What judging goes by is large, and fetched when first needed. */
export default async function run({
  password,
  stored,
  about,
}: PasswordTask): Promise<string | boolean | null> {
  if (about) return (await import('./password-strength.js')).weaknessOf(password, about);
  return stored === undefined ? hashed(password) : matches(password, stored);
}
