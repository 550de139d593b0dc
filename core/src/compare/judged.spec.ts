import { documentOf } from '../testing/index.js';
import { assemble } from './assemble.js';
import type { Change } from './changes.js';
import type { Comparison } from './compare.js';
import { compare } from './compare.js';
import judged from './judged.json' with { type: 'json' };

/** A pair, and what a careful editor would mark, judged one by one. Common practice, no source. */
interface Case {
  readonly name: string;
  readonly why: string;
  readonly earlier: readonly string[];
  readonly later: readonly string[];
  readonly marks: readonly string[];
  /** What is marked today, where that falls short. */
  readonly now?: readonly string[];
}

declare const console: { log(line: string): void };

const CASES: readonly Case[] = judged;

/**
 * A change as one line: `- out`, `+ in`, `out > in`, `~ moved`, `= copied`, `/ split off`, `& joined`, `form what: text`, and the group it
 * belongs to in braces. `⏎` stands for the end of a line, `⇥` for the next cell.
 */
function line({ kind, earlier, later, form }: Change): string {
  const lines = {
    added: `+ ${later}`,
    removed: `- ${earlier}`,
    replaced: `${earlier} > ${later}`,
    moved: earlier.trim() === later.trim() ? `~ ${later.trim()}` : `~ ${earlier} > ${later}`,
    copied: `= ${later}`,
    split: `/ ${later}`,
    joined: `& ${earlier}`,
    typography: `${earlier} > ${later}`,
    form: `form ${form.join(' ')}: ${later}`,
  };
  return lines[kind].replaceAll('\n', '⏎').replaceAll('\t', '⇥');
}

function marksOf({ changes }: Comparison): string[] {
  return changes.map((change) =>
    change.group === null ? line(change) : `${line(change)} {${change.group}}`,
  );
}

describe('judged cases', () => {
  let asJudged = 0;

  afterAll(() => {
    console.log(`Judged cases: ${asJudged} of ${CASES.length} are marked as a careful editor would`);
  });

  for (const { name, earlier, later, marks, now } of CASES)
    it(name, () => {
      const [one, other] = [documentOf(earlier), documentOf(later)];
      const comparison = compare(one, other);
      const found = marksOf(comparison);
      if (JSON.stringify(found) === JSON.stringify(marks)) asJudged++;
      expect(found).toEqual([...(now ?? marks)]);
      // What falls short no more is to be said so.
      if (now) expect(now).not.toEqual([...marks]);
      expect(assemble(comparison, () => 'later').eq(other)).toBe(true);
      expect(assemble(comparison, () => 'earlier').eq(one)).toBe(true);
    });
});
