import type { Node } from 'prosemirror-model';
import {
  bold,
  check,
  checks,
  code,
  doc,
  h,
  li,
  link,
  ol,
  p,
  quote,
  table,
  td,
  tr,
  ul,
} from '../testing/build.js';
import { assemble } from './assemble.js';
import { compare } from './compare.js';

/** A pair, and what a careful editor would mark. Common practice, no source. */
type Case = readonly [name: string, earlier: Node, later: Node, ...marks: string[]];

const cases: readonly Case[] = [
  ['a typo', doc(p('the tdie is low')), doc(p('the tide is low')), 'replaced: tdie > tide'],
  [
    'a number in a sentence',
    doc(p('It holds 3.5 tonnes at 09:26.')),
    doc(p('It holds 4.5 tonnes at 09:26.')),
    'replaced: 3.5 > 4.5',
  ],
  ['a word put in', doc(p('Bring boots.')), doc(p('Bring rubber boots.')), 'added:  > rubber '],
  ['a word taken out', doc(p('Bring rubber boots.')), doc(p('Bring boots.')), 'removed: rubber  > '],
  [
    'a sentence added at the end',
    doc(p('The gate is shut.')),
    doc(p('The gate is shut. Go round.')),
    'added:  >  Go round.',
  ],
  [
    'three words for three words',
    doc(p('Meet at the upper gate today.')),
    doc(p('Meet at a sluice bridge today.')),
    'replaced: the upper gate > a sluice bridge',
  ],
  ['case only', doc(p('the Mill')), doc(p('the mill')), 'replaced: Mill > mill'],
  ['punctuation only', doc(p('It turns, slowly')), doc(p('It turns; slowly')), 'replaced: , > ;'],
  ['white space only', doc(p('a  b')), doc(p('a b')), 'replaced:    >  '],
  ['an emoji with joiners is one sign', doc(p('rope 👩‍🌾')), doc(p('rope 👩🏽‍🌾')), 'replaced: 👩‍🌾 > 👩🏽‍🌾'],
  ['a paragraph added', doc(p('one here')), doc(p('one here'), p('two there')), 'added:  > two there'],
  [
    'a paragraph removed between two',
    doc(p('one a'), p('two b'), p('three c')),
    doc(p('one a'), p('three c')),
    'removed: two b > ',
  ],
  ['a heading’s level', doc(h(1, 'The race')), doc(h(2, 'The race')), 'form: The race > The race'],
  ['a heading made a paragraph', doc(h(2, 'The race')), doc(p('The race')), 'form: The race > The race'],
  [
    'a link’s target only',
    doc(p(link('https://a.example', 'here'))),
    doc(p(link('https://b.example', 'here'))),
    'form: here > here',
  ],
  ['bold and a word at once', doc(p('so it is')), doc(p('so it ', bold('was'))), 'replaced: is > was'],
  [
    'a bullet list numbered',
    doc(ul(li(p('rope')), li(p('oars')))),
    doc(ol(li(p('rope')), li(p('oars')))),
    'form: rope\noars > rope\noars',
  ],
  [
    'a list item put between',
    doc(ul(li(p('rope')), li(p('oars')))),
    doc(ul(li(p('rope')), li(p('bailer')), li(p('oars')))),
    'added:  > bailer',
  ],
  [
    'a word in a list item',
    doc(ul(li(p('long rope here')))),
    doc(ul(li(p('short rope here')))),
    'replaced: long > short',
  ],
  [
    'a box ticked',
    doc(checks(check(false, p('oars')))),
    doc(checks(check(true, p('oars')))),
    'form: oars > oars',
  ],
  [
    'a row removed',
    doc(table(tr(td(p('Mon')), td(p('Jun'))), tr(td(p('Tue')), td(p('Ada'))))),
    doc(table(tr(td(p('Mon')), td(p('Jun'))))),
    'removed: Tue\tAda > ',
  ],
  [
    'a word in a cell',
    doc(table(tr(td(p('Monday early')), td(p('Jun'))))),
    doc(table(tr(td(p('Monday late')), td(p('Jun'))))),
    'replaced: early > late',
  ],
  [
    'a column added is the whole table',
    doc(table(tr(td(p('a'))))),
    doc(table(tr(td(p('a')), td(p('b'))))),
    'replaced: a > a\tb',
  ],
  ['a line of code', doc(code('a = 1\nb = 2')), doc(code('a = 1\nb = 3')), 'replaced: 2 > 3'],
  [
    'a word inside a quote',
    doc(quote(p('by the moon’s clock'))),
    doc(quote(p('by the tide’s clock'))),
    'replaced: moon’s > tide’s',
  ],
  [
    'everything rewritten',
    doc(p('one two three')),
    doc(p('four five six')),
    'replaced: one two three > four five six',
  ],
  ['nothing', doc(p('same')), doc(p('same'))],
];

describe('judged cases', () => {
  for (const [name, earlier, later, ...marks] of cases) {
    it(name, () => {
      const comparison = compare(earlier, later);
      expect(
        comparison.changes.map((change) => `${change.kind}: ${change.earlier} > ${change.later}`),
      ).toEqual(marks);
      expect(assemble(comparison, () => 'later').eq(later)).toBe(true);
      expect(assemble(comparison, () => 'earlier').eq(earlier)).toBe(true);
    });
  }
});
