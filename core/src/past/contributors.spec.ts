import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import type { Trace } from '../history/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import type { Past } from '../testing/pasts.js';
import { blockTexts, writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { LEAST, PASTED, PAUSE, contributions, wordsByDay } from './contributors.js';
import { ledgerOf } from './ledger.js';

const gap = (random: Random): number => (random.chance(0.2) ? random.between(1, 2000) * 60_000 : 900);
const SPACED = '\u3000';

/** The characters of a state that begin a word: those at the start of a block or after a space. */
function begun(doc: Node): Set<string> {
  const out = new Set<string>();
  for (const block of blockTexts(doc))
    [...block].forEach((sign, i) => {
      if (sign !== SPACED && (i === 0 || block.charAt(i - 1) === SPACED)) out.add(sign);
    });
  return out;
}

function tracesOf({ edits }: Past): Trace[] {
  return edits.map(({ seq, acceptedAt, author }) => ({
    seq,
    at: acceptedAt,
    author,
    wordsIn: 0,
    wordsOut: 0,
  }));
}

/** What each person did, by reading full copies of every state: characters are used once ever, so they tell their writer. */
function byBruteForce(past: Past, after: number, upTo: number) {
  const people = new Map<string, Record<'written' | 'pasted' | 'broughtBack' | 'kept' | 'removed', number>>();
  const of = (author: string) => {
    const held = people.get(author) ?? { written: 0, pasted: 0, broughtBack: 0, kept: 0, removed: 0 };
    people.set(author, held);
    return held;
  };
  const known = new Set<string>();
  const bornIn = new Map<string, number>();
  past.docs.forEach((doc, seq) => {
    for (const sign of doc.textContent) if (!bornIn.has(sign)) bornIn.set(sign, seq);
  });
  for (let seq = 1; seq <= upTo; seq++) {
    const [before, now] = [past.docs[seq - 1] as Node, past.docs[seq] as Node];
    const [old, fresh] = [new Set(before.textContent), new Set(now.textContent)];
    const came = [...begun(now)].filter((sign) => !old.has(sign));
    const first = came.filter((sign) => !known.has(sign));
    const author = past.makers(seq).author;
    if (seq > after) {
      of(author).written += first.length;
      if (first.length > PASTED) of(author).pasted += first.length;
      of(author).broughtBack += came.length - first.length;
      of(author).removed += [...begun(before)].filter((sign) => !fresh.has(sign)).length;
    }
    for (const sign of fresh) known.add(sign);
  }
  for (const sign of begun(past.docs[upTo] as Node)) {
    const seq = bornIn.get(sign) ?? 0;
    if (seq > after) of(past.makers(seq).author).kept++;
  }
  return people;
}

eachKind('contributors', (hand) => {
  it('are credited with what full copies of every state say, for any range', () => {
    fc.assert(
      fc.property(fc.integer(), fc.nat(40), fc.nat(40), (seed, one, other) => {
        let next = 0x4e00;
        const wrote = (random: Random, length: number): string =>
          Array.from({ length }, () => (random.chance(0.3) ? SPACED : String.fromCharCode(next++))).join('');
        const past = writePast(new Random(seed), 40, { hand, gap, text: wrote });
        const [after, upTo] = [Math.min(one, other), Math.max(one, other)];
        const traces = tracesOf(past).filter(({ seq }) => seq > after && seq <= upTo);
        const truth = byBruteForce(past, after, upTo);
        const found = contributions(past.tape, past.makers, traces, after, upTo);
        const worked = new Set(traces.map(({ author }) => author));
        expect(new Set(found.map(({ author }) => author))).toEqual(new Set([...worked, ...truth.keys()]));
        for (const { author, written, pasted, broughtBack, kept, removed } of found) {
          expect({ written, pasted, broughtBack, kept, removed })
            .withContext(author)
            .toEqual(truth.get(author) ?? { written: 0, pasted: 0, broughtBack: 0, kept: 0, removed: 0 });
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('are counted sittings and time from gaps, as a loop over their edits does', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const past = writePast(new Random(seed), 30, { hand, gap });
        const traces = tracesOf(past);
        for (const person of contributions(past.tape, past.makers, traces, 0, 30)) {
          const own = traces.filter(({ author }) => author === person.author).map(({ at }) => at);
          let [sat, time] = [own.length > 0 ? 1 : 0, 0];
          for (let i = 1; i < own.length; i++) {
            const idle = (own[i] ?? 0) - (own[i - 1] ?? 0);
            if (idle > PAUSE) sat++;
            else time += idle;
          }
          expect([person.sittings, person.time, person.edits]).toEqual([sat, time + sat * LEAST, own.length]);
        }
      }),
      { numRuns: 100 * FUZZ },
    );
  });

  it('have their words by day add up to what they wrote', () => {
    const past = writePast(new Random(11), 80, { hand, gap });
    const written = new Map<string, number>();
    for (const { words } of wordsByDay(past.tape, past.makers, 0, 80, (at) =>
      new Date(at).toISOString().slice(0, 10),
    ))
      for (const [author, count] of words) written.set(author, (written.get(author) ?? 0) + count);
    for (const person of contributions(past.tape, past.makers, tracesOf(past), 0, 80))
      expect(written.get(person.author) ?? 0).toBe(person.written);
  });
});

eachKind('the ledger', (hand) => {
  it('says for every character who put it there and who wrote it', () => {
    fc.assert(
      fc.property(fc.integer(), fc.boolean(), (seed, undo) => {
        const past = writePast(new Random(seed), 40, { hand, gap, undo });
        const doc = past.docs.at(-1) as Node;
        const entries = ledgerOf(doc, past.provenance.runs.at(), past.makers);
        const bornAt = new Map<string, number>();
        past.docs.forEach((state, seq) => {
          const before = new Set(past.docs[seq - 1]?.textContent ?? '');
          for (const sign of state.textContent) if (!before.has(sign)) bornAt.set(sign, seq);
        });
        let covered = '';
        for (const { from, to, seq, by, writer } of entries) {
          const text = doc.textBetween(from, to, '');
          covered += text;
          for (const sign of text) {
            const born = bornAt.get(sign) ?? 0;
            if (!undo) expect(past.makers(born).author).toBe(by);
            expect(born).toBeLessThanOrEqual(seq);
            expect(past.wrote.get(sign)).toBe(writer);
          }
        }
        expect(covered).toBe(doc.textContent);
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});
