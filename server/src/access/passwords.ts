import { Threads } from '../threads/threads.js';
import { costOf } from './password-hash.js';
import type { PasswordTask } from './password-task.js';

/** How long a password may wait and be worked on, in milliseconds. */
const LONGEST = 20_000;

/**
 * Makes and checks salted hashes of passwords, in a thread of its own: that costs time and memory on purpose, and must not take
 * them from the threads that read and write data.
 */
export class Passwords {
  private readonly threads = new Threads<PasswordTask, string | boolean | null>(
    new URL('./password-task.js', import.meta.url),
    undefined,
    1,
  );

  /** A hash to store, with its salt and cost in it. */
  async hash(password: string): Promise<string> {
    return (await this.threads.run({ password }, { longest: LONGEST })) as string;
  }

  /** Whether a password is the one that was hashed. Takes the same time either way. */
  async check(password: string, stored: string): Promise<boolean> {
    if (costOf(stored) === null) return false;
    return (await this.threads.run({ password, stored }, { longest: LONGEST })) as boolean;
  }

  /** Why a password is too easily guessed, in words that help to find a better one; null for one that is not. `about` is what others know of its owner. */
  async weakness(password: string, about: readonly string[]): Promise<string | null> {
    return (await this.threads.run({ password, about }, { longest: LONGEST })) as string | null;
  }

  close(): Promise<void> {
    return this.threads.close();
  }
}
