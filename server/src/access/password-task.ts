import { hashed, matches } from './password-hash.js';

/** A password to hash, or to hold against a stored hash. */
export interface PasswordTask {
  readonly password: string;
  readonly stored?: string;
}

/** Hashes or checks a password in a worker thread. */
export default function run({ password, stored }: PasswordTask): string | boolean {
  return stored === undefined ? hashed(password) : matches(password, stored);
}
