import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary as common } from '@zxcvbn-ts/language-common';
import { dictionary as english, translations } from '@zxcvbn-ts/language-en';

/**
 * Least score that a password has to have, of 0 to 4: out of reach of guessing against a hash that is slow to make, after Wheeler 2016,
 * "zxcvbn: Low-Budget Password Strength Estimation" (from memory).
 */
const LEAST = 3;
/** Shorter ones are refused whatever the estimate says; NIST SP 800-63B, 5.1.1.1 (from memory). */
const SHORTEST = 8;

const estimator = new ZxcvbnFactory({
  dictionary: { ...common, ...english },
  graphs: adjacencyGraphs,
  translations,
});

/** Why a password is too easily guessed, in words; null for one that is not. No rules of composition: only how soon it is guessed. */
export function weaknessOf(password: string, about: readonly string[]): string | null {
  if (password.length < SHORTEST) return `must have at least ${SHORTEST} characters`;
  const { score, feedback } = estimator.check(
    password,
    about.flatMap((text) => [text, ...text.split(/[^\p{L}\p{N}]+/u)]).filter((word) => word.length > 2),
  );
  if (score >= LEAST) return null;
  const [advice = 'A few words that do not belong together are hard to guess.'] = [
    feedback.warning,
    ...feedback.suggestions,
  ].filter((said): said is string => Boolean(said));
  return `is too easily guessed. ${advice}`;
}
