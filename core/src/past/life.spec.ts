import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import type { Past } from '../testing/pasts.js';
import { blockTexts, writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { blockAt } from './block.js';
import type { PassageForm } from './life.js';
import { lifeOf, settledForms } from './life.js';
import { textAt } from './tape.js';

const shared = (a: string, b: string): number => [...a].filter((sign) => b.includes(sign)).length;

/** The block of a state that shares most characters with another text, the first of equals; '' where none does. */
function heir(doc: Node, text: string): string {
  let best = '';
  for (const block of blockTexts(doc)) if (shared(block, text) > shared(best, text)) best = block;
  return best;
}

/** The forms of a passage by brute force: state after state, each block looked at. Moves in place are not seen by it. */
function byBruteForce({ docs }: Past, moment: number, text: string): { seq: number; text: string }[] {
  const before: { seq: number; text: string }[] = [];
  let form = text;
  let seq = moment;
  while (seq > 0) {
    let from = heir(docs[seq - 1] as Node, form);
    if (from === '') {
      let last = seq - 1;
      while (last >= 0 && shared((docs[last] as Node).textContent, form) === 0) last--;
      before.unshift({ seq, text: form });
      if (last < 0) break;
      before.unshift({ seq: last + 1, text: '' });
      from = heir(docs[last] as Node, form);
      seq = last + 1;
    } else if (from !== form) before.unshift({ seq, text: form });
    form = from;
    seq--;
  }
  const after: { seq: number; text: string }[] = [];
  form = text;
  for (let next = moment + 1; next < docs.length; next++) {
    const to = heir(docs[next] as Node, form);
    if (to === '') {
      after.push({ seq: next, text: '' });
      while (next < docs.length && shared((docs[next] as Node).textContent, form) === 0) next++;
      if (next === docs.length) break;
      form = heir(docs[next] as Node, form);
      after.push({ seq: next, text: form });
    } else if (to !== form) after.push({ seq: next, text: (form = to) });
  }
  return [...before, ...after];
}

/** Forms without those that only moved. */
function seen(forms: readonly PassageForm[]): { seq: number; text: string }[] {
  return forms
    .filter((form, i) => i === 0 || form.text !== forms[i - 1]?.text)
    .map(({ seq, text }) => ({ seq, text }));
}

/** Every text block of a state, with an atom of its text. */
function blocksAt({ tape, docs }: Past, moment: number): { atom: number; text: string }[] {
  const out: { atom: number; text: string }[] = [];
  (docs[moment] as Node).descendants((node, position) => {
    if (node.isTextblock && node.textContent !== '')
      out.push({ atom: tape.at(position + 1, moment).atom, text: node.textContent });
    return !node.isTextblock;
  });
  return out;
}

eachKind('the text at a position', (hand) => {
  it('is that of the block that a caret there is in, and none in an empty block', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const { tape, docs } = writePast(new Random(seed), 30, { hand });
      const doc = docs.at(-1) as Node;
      doc.descendants((block, position) => {
        if (!block.isTextblock) return true;
        for (const caret of [position + 1, position + 1 + block.content.size]) {
          const atom = textAt(tape, caret, tape.now);
          if (block.content.size === 0) expect(atom).toBeNull();
          else expect(blockAt(tape, atom ?? 0, tape.now)?.text).toBe(block.textContent);
        }
        return false;
      });
    }
  });
});

eachKind('the life of a passage', (hand) => {
  it('is what following its characters through full copies of every state gives, from any moment', () => {
    fc.assert(
      fc.property(fc.integer(), fc.double({ min: 0, max: 1, noNaN: true }), (seed, share) => {
        const past = writePast(new Random(seed), 45, { hand });
        const moment = Math.round(share * (past.docs.length - 1));
        for (const { atom, text } of blocksAt(past, moment))
          expect(seen(lifeOf(past.tape, atom, moment))).toEqual(byBruteForce(past, moment, text));
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});

describe('the turns of a passage', () => {
  it('names its turns: each is what the states before and after it show', () => {
    const turns = new Set<string>();
    for (let seed = 1; seed <= 60; seed++) {
      const past = writePast(new Random(seed), 60);
      for (const { atom } of blocksAt(past, past.docs.length - 1)) {
        const forms = lifeOf(past.tape, atom, past.docs.length - 1);
        for (const [i, { seq, turn, text, with: others }] of forms.entries()) {
          turns.add(turn);
          const [before, after] = [past.docs[seq - 1], past.docs[seq]].map((doc) =>
            doc ? blockTexts(doc) : [],
          );
          if (text) expect(after).withContext(`${seed} ${seq} ${turn}`).toContain(text);
          for (const other of others) expect(turn === 'split' ? after : before).toContain(other);
          expect(others.length > 0).toBe(turn === 'split' || turn === 'joined');
          if (turn === 'removed') expect(text).toBe('');
          if (i > 0) expect(seq).toBeGreaterThan(forms[i - 1]?.seq ?? 0);
        }
        expect(['written', 'copied']).toContain(forms[0]?.turn ?? '');
      }
    }
    for (const turn of ['written', 'changed', 'split', 'joined', 'removed', 'returned'])
      expect(turns).toContain(turn);
  });

  it('is told without every keystroke: what one person went on with is one form', () => {
    const makers = (seq: number) => ({ author: seq < 4 ? 'ines' : 'tobias', at: seq * 1000 });
    const form = (seq: number, turn: PassageForm['turn'], text: string): PassageForm => ({
      seq,
      turn,
      text,
      with: [],
    });
    const forms = [
      form(1, 'written', 'a'),
      form(2, 'changed', 'ab'),
      form(3, 'changed', 'abc'),
      form(4, 'changed', 'abcd'),
      form(9, 'changed', 'abcde'),
      form(12, 'split', 'abc'),
    ];
    expect(
      settledForms(forms, makers, 2000).map(({ seq, turn, text, until }) => [seq, turn, text, until]),
    ).toEqual([
      [3, 'written', 'abc', 4],
      [4, 'changed', 'abcd', 9],
      [9, 'changed', 'abcde', 12],
      [12, 'split', 'abc', null],
    ]);
  });
});
