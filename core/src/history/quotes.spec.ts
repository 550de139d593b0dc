import type { Node } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { ReplaceStep } from 'prosemirror-transform';
import * as fc from 'fast-check';
import { finished, insertedTokens, tokensOf } from '../content/index.js';
import { blankDocument, textSchema as schema } from '../kinds/text/index.js';
import type { Token } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { Random, build, writeHistory } from '../testing/index.js';
import { orderBatch } from './authority.js';
import type { Edit, Source } from './edit.js';
import type { Provenance } from './provenance.js';
import { appendEdit, handOf, startProvenance } from './provenance.js';
import { earnedFrom, earnedSources } from './quotes.js';
import { undoEdits } from './undo.js';

const { doc, p } = build;

/** A document in the making, and who wrote what of it. */
class Sheet {
  doc: Node = blankDocument();
  readonly provenance: Provenance = startProvenance(0, this.doc);
  private readonly steps: (readonly Step[])[] = [];
  private readonly people: string[] = [];

  readonly tokens = (seq: number): readonly Token[] =>
    seq === 0 ? tokensOf(blankDocument().content) : insertedTokens(this.steps[seq - 1] ?? []);

  /** Appends an edit as the authority would, and answers its seq. */
  add(author: string, steps: readonly Step[], sources: readonly Source[] = []): number {
    const [verdict] = orderBatch(this.doc, [{ steps, sources }], []);
    if (!verdict?.taken) throw verdict?.refusal ?? new Error('not taken');
    const seq = this.steps.push(verdict.steps);
    this.people.push(author);
    const { runs } = this.provenance;
    const earned = earnedFrom({ seq, steps: verdict.steps, sources: verdict.sources }, runs, this.tokens);
    this.doc = appendEdit(this.provenance, this.doc, { seq, steps: verdict.steps, sources: earned });
    return seq;
  }

  undo(author: string, ...seqs: number[]): number {
    const undo = undoEdits(this.doc, this.provenance, new Set(seqs), this.tokens);
    if (undo.kind !== 'steps') throw new Error(undo.kind);
    return this.add(author, undo.steps, undo.sources);
  }

  /** Letters in order with who is credited: "ines:tide tobias:mill". */
  get credit(): string {
    const out: { who: string; text: string }[] = [];
    const runs = this.provenance.runs.at();
    tokensOf(this.doc.content).forEach((token, at) => {
      if (token.kind !== 'unit') return;
      const { origin } = runs.between(at, at + 1)[0] ?? { origin: { seq: 0 } };
      const who = handOf(this.provenance, origin.seq) ?? this.people[origin.seq - 1] ?? 'nobody';
      const last = out.at(-1);
      if (last?.who === who) last.text += token.unit;
      else out.push({ who, text: token.unit });
    });
    return out.map(({ who, text }) => `${who}:${text}`).join('|');
  }
}

function put(at: number, text: string, to = at): Step {
  const content = text ? Fragment.from(schema.text(text)) : Fragment.empty;
  return new ReplaceStep(at, to, new Slice(content, 0, 0));
}

function from(seq: number, at: number, offset: number, length: number, step = 0): Source {
  return { step, at, length, seq, offset };
}

/** Ines’s document: one paragraph, written in one go, letter k of it instance (1, k). */
function hers(text: string): Sheet {
  const sheet = new Sheet();
  sheet.add('ines', [put(1, text)]);
  return sheet;
}

describe('a forged credit', () => {
  const text = 'the stone is heavy';
  const letters = (word: string, seq = 1, step = 0): Source[] =>
    [...word].map((letter, i) => from(seq, i, text.indexOf(letter), 1, step));

  const ways: [name: string, forge: (sheet: Sheet) => void, credit: string][] = [
    [
      'letters picked one by one',
      (sheet) => sheet.add('tobias', [put(1, 'hate ')], letters('hate')),
      `tobias:hate |ines:${text}`,
    ],
    [
      'letters picked in pairs',
      (sheet) => sheet.add('tobias', [put(1, 'hest ')], [from(1, 0, 1, 2), from(1, 2, 4, 2)]),
      `tobias:hest |ines:${text}`,
    ],
    [
      'the beginnings of words run together',
      (sheet) => sheet.add('tobias', [put(1, 'thhea ')], [from(1, 0, 0, 2), from(1, 2, 13, 3)]),
      `tobias:thhea |ines:${text}`,
    ],
    [
      'the ends of words',
      (sheet) => sheet.add('tobias', [put(1, 'one ')], [from(1, 0, 6, 3)]),
      `tobias:one |ines:${text}`,
    ],
    [
      'a word broken off before its end',
      (sheet) => sheet.add('tobias', [put(1, 'heav ')], [from(1, 0, 13, 4)]),
      `tobias:heav |ines:${text}`,
    ],
    [
      'half a word on the back of a whole one',
      (sheet) => sheet.add('tobias', [put(1, 'is hea ')], [from(1, 0, 10, 6)]),
      `ines:is |tobias:hea |ines:${text}`,
    ],
    [
      'letters picked in an edit of one’s own that is gone at once, and then quoted from there',
      (sheet) => {
        const seq = sheet.add('tobias', [put(1, 'hate '), put(1, '', 6)], letters('hate'));
        sheet.add('tobias', [put(1, 'hate ')], [from(seq, 0, 0, 4)]);
      },
      `tobias:hate |ines:${text}`,
    ],
    [
      'letters picked and then quoted as a word',
      (sheet) => {
        const seq = sheet.add('tobias', [put(1, 'hate ')], letters('hate'));
        sheet.add('tobias', [put(1, 'hate ')], [from(seq, 0, 0, 4)]);
      },
      `tobias:hate hate |ines:${text}`,
    ],
    [
      'letters put down one by one in edits of their own',
      (sheet) => {
        [...'hate '].forEach((letter, i) =>
          sheet.add('tobias', [put(1 + i, letter)], letter === ' ' ? [] : letters(letter)),
        );
      },
      `tobias:hate |ines:${text}`,
    ],
    [
      'letters put in between those of a word that stands',
      (sheet) => sheet.add('tobias', [put(14, 'ea')], [from(1, 0, 7, 1), from(1, 1, 2, 1)]),
      'ines:the stone is |tobias:ea|ines:heavy',
    ],
    [
      'letters put in backwards, step by step',
      (sheet) =>
        sheet.add(
          'tobias',
          [put(1, ' '), put(1, 'e'), put(1, 't'), put(1, 'a'), put(1, 'h')],
          [from(1, 0, 2, 1, 1), from(1, 0, 0, 1, 2), from(1, 0, 15, 1, 3), from(1, 0, 1, 1, 4)],
        ),
      `tobias:hate |ines:${text}`,
    ],
    [
      'letters of a word that is gone, put back in another order',
      (sheet) => {
        sheet.add('tobias', [put(1, '', 4)]);
        sheet.add('tobias', [put(1, 'e')], [from(1, 0, 2, 1)]);
        sheet.add('tobias', [put(2, 't')], [from(1, 0, 0, 1)]);
        sheet.add('tobias', [put(3, 'h')], [from(1, 0, 1, 1)]);
      },
      `ines:e|tobias:th|ines:${text.slice(3)}`,
    ],
    [
      'letters of edits of one letter each, typed into one word',
      (sheet) => {
        [...'abc'].forEach((letter, i) => sheet.add('ines', [put(1 + i, letter)]));
        sheet.add('ines', [put(4, ' ')]);
        sheet.add('tobias', [put(1, 'cab ')], [from(4, 0, 0, 1), from(2, 1, 0, 1), from(3, 2, 0, 1)]);
      },
      `tobias:cab |ines:abc ${text}`,
    ],
  ];
  for (const [name, forge, credit] of ways)
    it(`is not given for ${name}`, () => {
      const sheet = hers(text);
      forge(sheet);
      expect(sheet.credit).toBe(credit);
    });
});

describe('an honest credit', () => {
  it('is kept for whole words, whatever they stand beside', () => {
    const sheet = hers('the stone is heavy');
    sheet.add('tobias', [put(1, 'My stone, ')], [from(1, 3, 4, 5)]);
    expect(sheet.credit).toBe('tobias:My |ines:stone|tobias:, |ines:the stone is heavy');
  });

  it('is kept for letters that come back to where they stood', () => {
    const sheet = hers('reconsider');
    const seq = sheet.add('tobias', [put(4, '', 8)]);
    expect(sheet.credit).toBe('ines:recder');
    sheet.undo('tobias', seq);
    expect(sheet.credit).toBe('ines:reconsider');
    const [one, other] = [sheet.add('tobias', [put(4, '', 5)]), sheet.add('tobias', [put(4, '', 6)])];
    sheet.undo('tobias', other);
    sheet.undo('tobias', one);
    expect(sheet.credit).toBe('ines:reconsider');
  });

  it('is kept for a word of several hands, and for signs beyond the first plane', () => {
    const sheet = hers('a walk');
    sheet.add('tobias', [put(7, 'ing 𝒜𝒷 end')]);
    sheet.add('mairead', [put(1, 'walking ')], [from(1, 0, 2, 4), from(2, 4, 0, 3)]);
    expect(sheet.credit).toBe('ines:walk|tobias:ing|mairead: |ines:a walk|tobias:ing 𝒜𝒷 end');
    sheet.add('mairead', [put(1, '𝒜𝒷 ')], [from(2, 0, 4, 4)]);
    expect(sheet.credit.startsWith('tobias:𝒜𝒷|mairead: ')).toBe(true);
  });

  it('is kept for what comes from another document, whole words of it', () => {
    const sheet = hers('mine');
    const of = { document: 'elsewhere', writer: 'jun' };
    const [steps, source] = [[put(1, 'the tide ')], { ...from(9, 0, 40, 9), of }];
    const quote = { ...source, begins: true, ends: true, follows: false };
    for (const [ends, credit] of [
      [true, 'jun:the tide |ines:mine'],
      [false, 'jun:the tide |ines:mine'],
    ] as const) {
      const earned = finished(earnedSources(2, steps, [{ ...quote, ends }], sheet.provenance.runs));
      const provenance = { ...startProvenance(0, doc(p('mine'))), hands: [] as string[] };
      appendEdit(provenance, doc(p('mine')), { seq: 1, steps, sources: earned });
      expect(earned[0]?.of).toEqual(of);
      expect(credit).toContain(
        handOf(provenance, provenance.runs.at().between(1, 2)[0]?.origin.seq ?? 0) ?? '-',
      );
    }
    const half = finished(
      earnedSources(2, [put(1, 'ide ')], [{ ...quote, length: 4, begins: false }], sheet.provenance.runs),
    );
    expect(half).toEqual([{ step: 0, at: 3, seq: 9, offset: 43, length: 1, of }]);
  });

  it('stays with whoever wrote when things are undone, but for broken words whose surroundings went too', () => {
    let [all, kept] = [0, 0];
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const text = (from: Random, length: number): string =>
          Array.from({ length }, () => from.pick([...'etaoinshr  '])).join('');
        const { edits, docs } = writeHistory(random, 30, { text });
        const provenance = startProvenance(0, docs[0] as Node);
        edits.forEach((edit, i) => appendEdit(provenance, docs[i] as Node, edit));
        const seq = random.between(1, edits.length);
        const tokens = (of: number): readonly Token[] =>
          of === 0 ? tokensOf(blankDocument().content) : insertedTokens((edits[of - 1] as Edit).steps);
        const undo = undoEdits(docs.at(-1) as Node, provenance, new Set([seq]), tokens);
        if (undo.kind !== 'steps') return;
        const { runs } = provenance;
        const earned = earnedFrom({ seq: 31, steps: undo.steps, sources: undo.sources }, runs, tokens);
        all += undo.sources.reduce((sum, { length }) => sum + length, 0);
        kept += earned.reduce((sum, { length }) => sum + length, 0);
      }),
      { numRuns: 400 * FUZZ, ...(FUZZ <= 1 ? { seed: 7 } : {}) },
    );
    expect(all).toBeGreaterThan(400 * FUZZ);
    expect(kept / all).toBeGreaterThan(0.93);
  });
});
