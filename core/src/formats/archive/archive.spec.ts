import * as fc from 'fast-check';
import { FUZZ } from '../../testing/budget.js';
import { HANDS, PICTURES, Random, TEXT_HAND, writeHistory } from '../../testing/index.js';
import type { Hand } from '../../testing/index.js';
import { textOfBytes, utf8 } from '../bytes.js';
import { FormatError } from '../format.js';
import { pack } from '../packed/zip.js';
import { faultsOf, imagesIn, readArchive, writeArchive } from './archive.js';
import type { SealedEdit } from './seal.js';
import { chainOf, digestOf } from './seal.js';

/** The history of a random document, sealed. */
function history(seed: number, hand: Hand = TEXT_HAND) {
  const random = new Random(seed);
  const { edits, docs } = writeHistory(random, 6, { hand });
  const log = edits.map((edit, i): SealedEdit => {
    const salt = random
      .between(0, 2 ** 30)
      .toString(16)
      .padStart(32, '0');
    const logged = {
      seq: i + 1,
      author: edit.author,
      client: edit.client,
      counter: edit.counter,
      acceptedAt: edit.acceptedAt,
      writtenAt: edit.writtenAt,
      schema: edit.schema,
      steps: edit.steps.map((step) => step.toJSON() as unknown),
      sources: edit.sources,
      cause: edit.cause,
      wordsIn: 1,
      wordsOut: 0,
    };
    return { ...logged, salt, digest: digestOf(salt, logged) };
  });
  const about = {
    edits: log.length,
    chain: chainOf(log.map(({ digest }) => digest)),
    versions: [
      { number: 1, seq: 0 },
      { number: 2, seq: Math.ceil(log.length / 2) },
      { number: 3, seq: log.length },
    ],
    title: 'Guide',
    kind: hand.kind.name,
  };
  return { about, log, docs, images: PICTURES.slice(0, 1).map(({ bytes }) => bytes) };
}

describe('an archive', () => {
  for (const hand of HANDS)
    it(`comes back with the log bit by bit, every version, and nothing wrong, of the kind ${hand.kind.name}`, () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const whole = history(seed, hand);
          const bytes = writeArchive(whole);
          const { about, log, parts } = readArchive(bytes);
          expect(about).toEqual(whole.about);
          expect(textOfBytes(parts.get('log.jsonl') ?? new Uint8Array())).toBe(
            whole.log.map((edit) => `${JSON.stringify(edit)}\n`).join(''),
          );
          expect(faultsOf(whole.about, log as SealedEdit[], parts)).toEqual([]);
          expect(writeArchive({ ...whole, log: log as SealedEdit[], images: imagesIn(parts) })).toEqual(
            bytes,
          );
          const last = parts.get('versions/3.json') ?? new Uint8Array();
          expect(JSON.parse(textOfBytes(last))).toEqual(whole.docs.at(-1)?.toJSON());
        }),
        { numRuns: 200 * FUZZ },
      );
    });

  it('tells what was changed in it, and does not believe an edit that lost its salt', () => {
    const { about, log, images } = history(9);
    const { parts } = readArchive(writeArchive({ about, log, images }));
    const changed = (change: (edit: SealedEdit) => SealedEdit): SealedEdit[] =>
      log.map((edit) => (edit.seq === 2 ? change(edit) : edit));
    const told = (edits: readonly SealedEdit[], more = about): string =>
      faultsOf(more, edits, parts).join('; ');
    expect(told(changed((edit) => ({ ...edit, author: 'somebody else' })))).toBe(
      'edit 2 is not what was sealed',
    );
    expect(told(changed((edit) => ({ ...edit, digest: '00'.repeat(32) })))).toContain('chain of seals');
    expect(told(log.slice(1))).toContain('stands where');
    const step = {
      stepType: 'replace',
      from: 1,
      to: 1,
      slice: {
        content: [{ type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: 'javascript:1' } }] }],
      },
    };
    expect(told(changed((edit) => ({ ...edit, salt: null, steps: [step] })))).toContain('cannot be replayed');
    const source = { seq: 1, offset: 0, length: 5, step: 0, at: 0 };
    expect(told(changed((edit) => ({ ...edit, salt: null, sources: [source] })))).toContain(
      'cannot be replayed',
    );
    expect(told(changed((edit) => ({ ...edit, salt: null })))).toBe(
      'edit 2 has lost its salt: nothing proves who made it, and when',
    );
    expect(told(changed((edit) => ({ ...edit, acceptedAt: 5 })))).toContain(
      'is older than the one before it',
    );
    expect(
      told(changed((edit) => ({ ...edit, client: log[0]?.client ?? '', counter: log[0]?.counter ?? 0 }))),
    ).toContain('has the number of another one');
    const twice = [...about.versions, ...about.versions];
    expect(told(log, { ...about, versions: twice })).toContain('version 1 stands where 4 should');
    expect(told(log, { ...about, chain: '00'.repeat(32) })).toBe('the chain of seals ends elsewhere');
    const more = new Map([...parts, ['versions/2.md', utf8('other')], ['images/a.png', utf8('no')]]);
    expect(faultsOf(about, log, more)).toEqual([
      'versions/2.md is not what the log gives',
      'images/a.png is not the image it is named after',
    ]);
  });

  it('is refused in words when it is none', () => {
    expect(() => readArchive(pack([{ name: 'a', content: 'b' }]))).toThrowError(FormatError, /no log.jsonl/);
    const parts = [
      { name: 'archive.json', content: '{' },
      { name: 'log.jsonl', content: '' },
    ];
    expect(() => readArchive(pack(parts))).toThrowError(FormatError, /no JSON/);
  });
});
