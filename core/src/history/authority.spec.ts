import type { Node } from 'prosemirror-model';
import { ReplaceStep, Transform } from 'prosemirror-transform';
import { finished, insertedTokens } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { doc, p, table, td, tr } from '../testing/build.js';
import { Refusal, readSteps } from './admit.js';
import { checkSources, orderBatch } from './authority.js';
import { mapsOf } from './step-maps.js';

const text = (value: string): object => ({ type: 'text', text: value });
const replace = (from: number, to: number, content: object[], open = 0): object => ({
  stepType: 'replace',
  from,
  to,
  slice: { content, openStart: open, openEnd: open },
});

/** The path and words with which a single-step edit is refused, or null when it is taken. */
function refusal(now: Node, step: object): string | null {
  try {
    const [verdict] = orderBatch(now, [{ steps: readSteps(schema, [step]), sources: [] }], []);
    return verdict?.taken ? null : String(verdict?.refusal.path);
  } catch (error) {
    if (error instanceof Refusal) return error.path;
    throw error;
  }
}

describe('the authority', () => {
  const now = doc(p('a🦦b'), table(tr(td(p('x')), td(p('y')))));

  it('takes an ordinary step', () => expect(refusal(now, replace(1, 1, [text('hello')]))).toBeNull());

  const hostile: Record<string, object> = {
    'a paragraph inside a heading': replace(0, 0, [{ type: 'heading', content: [{ type: 'paragraph' }] }]),
    'an empty table': replace(0, 0, [{ type: 'table' }]),
    'a ragged table': replace(0, 0, [
      {
        type: 'table',
        content: [
          { type: 'table_row', content: [{ type: 'table_cell', content: [{ type: 'paragraph' }] }] },
          {
            type: 'table_row',
            content: Array(2).fill({ type: 'table_cell', content: [{ type: 'paragraph' }] }),
          },
        ],
      },
    ]),
    'a script link': replace(1, 1, [
      { ...text('x'), marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }] },
    ]),
    'an object for an attribute': { stepType: 'attr', pos: 0, attr: 'align', value: { start: 1 } },
    'an attribute that no node has': { stepType: 'attr', pos: 0, attr: 'onclick', value: 'x' },
    'half a surrogate pair': replace(1, 1, [text('\ud83e')]),
    'a place inside a surrogate pair': replace(3, 3, [text('x')]),
    'from behind to': replace(3, 1, []),
    'a place outside': replace(900, 900, [text('x')]),
    'a fraction for a place': replace(1.5, 2, []),
    'an unknown step': { stepType: 'docAttr', attr: 'a', value: 1 },
    'a slice open deeper than its content': replace(1, 1, [{ type: 'paragraph' }], 4),
  };
  for (const [name, step] of Object.entries(hostile))
    it(`refuses ${name}`, () => expect(refusal(now, step)).toMatch(/^steps/));

  it('refuses 20,000 nested nodes before parsing them', () => {
    let nested: object = { type: 'paragraph' };
    for (let i = 0; i < 20_000; i++) nested = { type: 'quote', content: [nested] };
    expect(refusal(now, replace(0, 0, [nested]))).toBe('steps');
  });

  it('brings text into canonical form at the end of the edit', () => {
    const [verdict] = orderBatch(
      doc(p('')),
      [{ steps: readSteps(schema, [replace(1, 1, [text('cafe\u0301\u0007')])]), sources: [] }],
      [],
    );
    expect(verdict?.taken && verdict.doc.textContent).toBe('café');
  });

  it('carries a stale edit over what others did', () => {
    const base = doc(p('ebb and flood'));
    const theirs = new Transform(base).insert(1, schema.text('the '));
    const mine = new Transform(base).insert(14, schema.text(' tide'));
    const [verdict] = orderBatch(theirs.doc, [{ steps: mine.steps, sources: [] }], mapsOf(theirs.steps));
    expect(verdict?.taken && verdict.doc.textContent).toBe('the ebb and flood tide');
  });

  it('goes on with the rest of a batch when one edit is refused', () => {
    const base = doc(p('ab'), table(tr(td(p('x')), td(p('y'))), tr(td(p('v')), td(p('w')))));
    const first = new Transform(base).insert(1, schema.text('1'));
    const ragged = new Transform(first.doc).delete(7, 10);
    const last = new Transform(ragged.doc).insert(2, schema.text('2'));
    const verdicts = orderBatch(
      base,
      [first, ragged, last].map((one) => ({ steps: one.steps, sources: [] })),
      [],
    );
    expect(verdicts.map((verdict) => verdict.taken)).toEqual([true, false, true]);
    const end = verdicts[2];
    expect(end?.taken && end.doc.eq(doc(p('12ab'), base.child(1)))).toBe(true);
  });

  it('refuses a source that is somebody else’s words under another place', () => {
    const theirs = [new ReplaceStep(1, 1, doc(p('tide')).slice(1, 5))];
    const mine = {
      steps: [new ReplaceStep(1, 1, doc(p('mill')).slice(1, 5))],
      sources: [{ step: 0, at: 0, length: 4, seq: 1, offset: 0 }],
    };
    const check = (proposal: typeof mine) => finished(checkSources(proposal, () => insertedTokens(theirs)));
    expect(() => check(mine)).toThrowError(Refusal);
    expect(() => check({ ...mine, steps: theirs })).not.toThrow();
  });
});
