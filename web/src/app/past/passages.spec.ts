import type { Returned } from '@oxbow/contract';
import { numbersOf, shownOf, takeOf, takenOf } from './passages';

const returned: Returned = {
  base: 4,
  readers: ['Ada', 'Ben'].map((name) => ({ name, file: `${name}.docx`, leftOut: 0 })),
  lines: [
    { kind: 'paragraph', pieces: [{ text: 'So it is.' }] },
    { kind: 'paragraph', pieces: [{ text: 'So it stays.' }] },
    { kind: 'paragraph', pieces: [{ text: 'Shut at ' }, { passage: 0 }, { text: '.' }] },
    { kind: 'doc', pieces: [{ passage: 1, at: 'base', text: 'Eels rest.' }] },
    { kind: 'heading', pieces: [{ passage: 2, text: '' }, { text: 'Water' }] },
    { kind: 'doc', pieces: [{ passage: 1, at: 0, text: 'Eels rest.' }] },
  ],
  passages: [
    {
      id: 0,
      kind: 'text',
      base: 'noon',
      forms: [
        { text: 'ten', by: [0] },
        { text: 'nine', by: [1] },
      ],
    },
    { id: 1, kind: 'place', base: '', about: 'Eels rest.', forms: [{ text: 'Water', by: [1] }] },
    {
      id: 2,
      kind: 'form',
      base: 'heading, level 1',
      about: 'Water',
      forms: [{ text: 'heading, level 2', by: [0, 1] }],
    },
  ],
};

describe('passages of files that came back', () => {
  const told = (takes: [number, 'base' | 'all' | number][]): string[] =>
    shownOf(returned, new Map(takes)).map((line) =>
      'kept' in line
        ? `${line.kept} kept`
        : `${line.pieces.map(({ text, passage }) => (passage === null ? text : `[${text}]`)).join('')} ${line.passages.map(({ id }) => id).join()}`,
    );

  it('are shown where they stand, once each, with what nobody changed counted', () => {
    expect(told([])).toEqual(['2 kept', 'Shut at [noon]. 0', '[] 1', '[]Water 2', '[Eels rest.] ']);
  });

  it('are numbered in the order of reading, and named by where they stand', () => {
    const lines = [{ kind: '', pieces: [{ passage: 2 }, { passage: 0 }] }, ...returned.lines];
    expect([...numbersOf({ lines })]).toEqual([
      [2, 1],
      [0, 2],
      [1, 3],
    ]);
    const [first, ...rest] = returned.passages as [Returned['passages'][0], ...Returned['passages']];
    const named = { ...returned, passages: [{ ...first, where: 'Slide 2, notes' }, ...rest] };
    const where = shownOf(named, new Map()).map((line) => ('where' in line ? line.where : null));
    expect(where).toEqual([null, 'Slide 2, notes', '', '', '']);
  });

  it('show of a block that has one of several forms how it begins', () => {
    const [, , third] = returned.passages as [unknown, unknown, Returned['passages'][0]];
    const lines = [{ kind: 'table', pieces: [{ passage: 2 }] }];
    const passages = [...returned.passages.slice(0, 2), { ...third, about: 'ebb '.repeat(100) }];
    const [line] = shownOf({ ...returned, lines, passages }, new Map());
    expect(line && 'pieces' in line && line.pieces.map(({ text }) => text)).toEqual([
      `${'ebb '.repeat(40)}…`,
    ]);
  });

  it('show what is taken of them, and what moved at the place that is taken', () => {
    expect(told([[0, 1]])[1]).toBe('Shut at [nine]. 0');
    expect(told([[0, 'all']])[1]).toBe('Shut at [ten nine]. 0');
    expect(told([[1, 'base']]).filter((line) => line.includes('Eels'))).toEqual(['[Eels rest.] 1']);
  });

  it('are open while readers dispute them, and follow a reader where one made something of them', () => {
    const [first, second] = returned.passages as [Returned['passages'][0], Returned['passages'][0]];
    expect([takeOf(first, new Map()), takeOf(second, new Map())]).toEqual([null, 0]);
    const taken = takenOf(1, returned.passages, new Map([[1, 'base']]));
    expect([...taken]).toEqual([
      [1, 0],
      [0, 1],
      [2, 0],
    ]);
  });
});
