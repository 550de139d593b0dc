import type { Node } from 'prosemirror-model';
import * as b from '../testing/build.js';
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
  th,
  tr,
  ul,
} from '../testing/build.js';
import { assemble } from './assemble.js';
import type { Change } from './changes.js';
import { compare } from './compare.js';

/** A pair, and what a careful editor would mark. Common practice, no source. */
type Case = readonly [name: string, earlier: Node, later: Node, ...marks: string[]];

/** A change as one line: `- out`, `+ in`, `out > in`, `~ moved`, `= copied`, `/ split off`, `& joined`, `form what: text`. */
function line({ kind, earlier, later, form }: Change): string {
  const lines = {
    added: `+ ${later}`,
    removed: `- ${earlier}`,
    replaced: `${earlier} > ${later}`,
    moved: earlier.trim() === later.trim() ? `~ ${later.trim()}` : `~ ${earlier} > ${later}`,
    copied: `= ${later}`,
    split: `/ ${later}`,
    joined: `& ${earlier}`,
    form: `form ${form.join(' ')}: ${later}`,
  };
  return lines[kind];
}

const words = (one: string, other: string, ...marks: string[]): readonly [Node, Node, ...string[]] => [
  doc(p(one)),
  doc(p(other)),
  ...marks,
];

const WHEEL = 'The wheel turns at the ebb and rests at the flood.';
const GATES = 'Shut both gates before the moon is up.';
const MARSH = 'Water fills the marsh within an hour of noon.';
const ROPE = 'Bring a rope of thirty feet and a spare oar.';

const inWords: readonly Case[] = [
  ['a typo', ...words('the tdie is low', 'the tide is low', 'tdie > tide')],
  ['a letter doubled', ...words('the galery floor', 'the gallery floor', 'galery > gallery')],
  ['a number', ...words('It holds 3.5 tonnes at 09:26.', 'It holds 4.5 tonnes at 09:26.', '3.5 > 4.5')],
  [
    'an amount',
    ...words('It costs £1,250.00 a year.', 'It costs £1,400.00 a year.', '£1,250.00 > £1,400.00'),
  ],
  ['a per cent', ...words('by 12% or more', 'by 15% or more', '12% > 15%')],
  ['a date', ...words('on 14/04/2026 at noon', 'on 15/04/2026 at noon', '14/04/2026 > 15/04/2026')],
  ['a time', ...words('high water at 09:41:12', 'high water at 09:52:12', '09:41:12 > 09:52:12')],
  [
    'an address',
    ...words(
      'see https://mill.example/a?x=1 now',
      'see https://mill.example/b?x=1 now',
      'https://mill.example/a?x=1 > https://mill.example/b?x=1',
    ),
  ],
  ['a word put in', ...words('Bring boots.', 'Bring rubber boots.', '+ rubber ')],
  ['a word taken out', ...words('Bring rubber boots.', 'Bring boots.', '- rubber ')],
  ['a word said twice', ...words('it was very cold', 'it was very very cold', '+ very ')],
  ['a first word put in', ...words('boots are needed', 'Rubber boots are needed', '+ Rubber ')],
  ['a last word taken out', ...words('come at ten sharp', 'come at ten', '-  sharp')],
  ['a sentence at the end', ...words('The gate is shut.', 'The gate is shut. Go round.', '+  Go round.')],
  ['a sentence at the start', ...words('Go round.', 'The gate is shut. Go round.', '+ The gate is shut. ')],
  [
    'a sentence in the middle',
    ...words('Come early. Go home.', 'Come early. Bring boots. Go home.', '+ Bring boots. '),
  ],
  [
    'a sentence like the one before it',
    ...words(
      'The tide rises. The mill stops.',
      'The tide rises. The tide falls. The mill stops.',
      '+ The tide falls. ',
    ),
  ],
  [
    'three words for three words',
    ...words(
      'Meet at the upper gate today.',
      'Meet at a sluice bridge today.',
      'the upper gate > a sluice bridge',
    ),
  ],
  [
    'two words apart',
    ...words(
      'The old wheel turns slowly at dusk.',
      'The new wheel turns quickly at dusk.',
      'old > new',
      'slowly > quickly',
    ),
  ],
  [
    'two words changing places',
    ...words('turns slowly at dusk', 'slowly turns at dusk', '- turns ', '+ turns '),
  ],
  ['case only', ...words('the Mill', 'the mill', 'Mill > mill')],
  ['a comma for a semicolon', ...words('It turns, slowly', 'It turns; slowly', ', > ;')],
  ['a comma put in', ...words('Before noon we wait', 'Before noon, we wait', '+ ,')],
  ['a full stop put in', ...words('It turns', 'It turns.', '+ .')],
  ['white space only', ...words('a  b', 'a b', '   >  ')],
  ['quote marks only', ...words('the "ebb" wheel', 'the “ebb” wheel', '" > “', '" > ”')],
  ['an apostrophe’s shape', ...words("Ines's boat", 'Ines’s boat', "Ines's > Ines’s")],
  ['a hyphen', ...words('the half tide gate', 'the half-tide gate', 'half tide > half-tide')],
  [
    'a note in brackets',
    ...words('It floods at springs.', 'It floods at springs (see page 4).', '+  (see page 4)'),
  ],
  ['a footnote’s sign', ...words('It floods at springs.', 'It floods at springs.¹', '+ ¹')],
  [
    'a term renamed throughout',
    ...words(
      'The pond feeds the race. Clear the pond, for the pond silts up.',
      'The pool feeds the race. Clear the pool, for the pool silts up.',
      'pond > pool',
      'pond > pool',
      'pond > pool',
    ),
  ],
  [
    'a sentence rewritten',
    ...words(
      'Volunteers should bring their own gloves to the site. Lunch is at one.',
      'We lend gloves to everyone who forgets a pair. Lunch is at one.',
      'Volunteers should bring their own gloves to the site > We lend gloves to everyone who forgets a pair',
    ),
  ],
  [
    'a sentence rewritten in which single words stayed',
    ...words(
      'Lunch is at one. The old wheel turns slowly at the ebb. Bring boots.',
      'Lunch is at one. The new ferry leaves early from the quay. Bring boots.',
      'The old wheel turns slowly at the ebb > The new ferry leaves early from the quay',
    ),
  ],
  [
    'a sentence edited here and there, most of which stayed',
    ...words(
      'The old wheel turns slowly at the ebb and rests at the flood.',
      'The new wheel turns quickly at the ebb and rests at the flood.',
      'old > new',
      'slowly > quickly',
    ),
  ],
  [
    'one sentence rewritten between two that were edited a little',
    ...words(
      'The gate is shut at noon. We lend a boat to anybody who asks. Come by the lane.',
      'The gate is shut at ten. Nobody may take their own boat past the weir. Come by the path.',
      'noon > ten',
      'We lend a boat to anybody who asks > Nobody may take their own boat past the weir',
      'lane > path',
    ),
  ],
  ['everything rewritten', ...words('one two three', 'four five six', 'one two three > four five six')],
  [
    'a sentence moved within its paragraph',
    ...words(
      `Start early in the day. ${ROPE} ${WHEEL} ${GATES}`,
      `Start early in the day. ${WHEEL} ${GATES} ${ROPE}`,
      `~ ${ROPE}`,
    ),
  ],
  ['an emoji with joiners is one sign', ...words('rope 👩‍🌾', 'rope 👩🏽‍🌾', '👩‍🌾 > 👩🏽‍🌾')],
  ['Han signs', ...words('潮水退了', '潮水涨了', '退 > 涨')],
  ['Thai', ...words('น้ำขึ้นมาก', 'น้ำลงมาก', 'ขึ้น > ลง')],
  ['right to left', ...words('המים גבוהים היום', 'המים נמוכים היום', 'גבוהים > נמוכים')],
  ['a combining mark', ...words('cafe\u0301 here', 'cafe here', 'cafe\u0301 > cafe')],
  ['nothing', ...words('same', 'same')],
];

const inForm: readonly Case[] = [
  ['a heading’s level', doc(h(1, 'The race')), doc(h(2, 'The race')), 'form level: The race'],
  ['a heading made a paragraph', doc(h(2, 'The race')), doc(p('The race')), 'form paragraph: The race'],
  ['a paragraph centred', doc(p('The race')), doc(b.centred('The race')), 'form align: The race'],
  ['a word made bold', doc(p('so it is')), doc(p('so ', bold('it'), ' is')), 'form bold: it'],
  [
    'bold over a link is one change',
    doc(p('see ', link('https://a.example', 'here'), ' now')),
    doc(p(bold('see '), b.strongLink('https://a.example', 'here'), bold(' now'))),
    'form bold: see here now',
  ],
  [
    'a link’s target only',
    doc(p(link('https://a.example', 'here'))),
    doc(p(link('https://b.example', 'here'))),
    'form link: here',
  ],
  ['bold and a word at once', doc(p('so it is')), doc(p('so it ', bold('was'))), 'is > was'],
  [
    'an image’s alternative text',
    doc(p(b.image('a', 'gate'))),
    doc(p(b.image('a', 'the gate'))),
    'form alt: [the gate]',
  ],
  ['an image’s width', doc(p(b.image('a', '', 90))), doc(p(b.image('a', '', 40))), 'form width: []'],
  [
    'an image replaced',
    doc(p('See ', b.image('a', 'gate'), '.')),
    doc(p('See ', b.image('c', 'gate'), '.')),
    '[gate] > [gate]',
  ],
  [
    'a bullet list numbered',
    doc(ul(li(p('rope')), li(p('oars')))),
    doc(ol(li(p('rope')), li(p('oars')))),
    'form ordered_list: rope\noars',
  ],
  [
    'a bullet list made a check list',
    doc(ul(li(p('rope here')), li(p('oars there')))),
    doc(checks(check(false, p('rope here')), check(false, p('oars there')))),
    'form check_list check_item: rope here\noars there',
  ],
  [
    'a box ticked',
    doc(checks(check(false, p('oars')))),
    doc(checks(check(true, p('oars')))),
    'form checked: oars',
  ],
  ['a paragraph put into a quote', doc(p(WHEEL)), doc(quote(p(WHEEL))), `form quote: ${WHEEL}`],
  [
    'two paragraphs put into a quote',
    doc(p(WHEEL), p(GATES), p(MARSH)),
    doc(quote(p(WHEEL), p(GATES)), p(MARSH)),
    `form quote: ${WHEEL}\n${GATES}`,
  ],
  [
    'a list item turned into a paragraph',
    doc(ul(li(p(WHEEL)), li(p(GATES)))),
    doc(ul(li(p(WHEEL))), p(GATES)),
    `form list_item: ${GATES}`,
  ],
  [
    'a row of headings',
    doc(table(tr(td(p('Day')), td(p('Who'))))),
    doc(table(tr(th(p('Day')), th(p('Who'))))),
    'form table_header: Day\nWho',
  ],
];

const inBlocks: readonly Case[] = [
  ['a paragraph added', doc(p('one here')), doc(p('one here'), p('two there')), '+ two there'],
  [
    'a paragraph removed',
    doc(p('one a'), p('two b'), p('three c')),
    doc(p('one a'), p('three c')),
    '- two b',
  ],
  ['a paragraph emptied', doc(p('all of it')), doc(p()), '- all of it'],
  [
    'a paragraph moved down',
    doc(p(WHEEL), p(GATES), p(MARSH)),
    doc(p(GATES), p(MARSH), p(WHEEL)),
    `~ ${WHEEL}`,
  ],
  [
    'a paragraph moved and edited',
    doc(p(WHEEL), p(GATES), p(MARSH)),
    doc(p(GATES), p(MARSH), p(WHEEL.replace('rests', 'stops'))),
    `~ ${WHEEL} > ${WHEEL.replace('rests', 'stops')}`,
    'rests > stops',
  ],
  [
    'a section moved',
    doc(h(2, 'The ebb wheel'), p(WHEEL), h(2, 'The sea gates'), p(GATES), p(MARSH), p(ROPE)),
    doc(h(2, 'The sea gates'), p(GATES), p(MARSH), p(ROPE), h(2, 'The ebb wheel'), p(WHEEL)),
    '~ The ebb wheel',
    `~ ${WHEEL}`,
  ],
  [
    'a sentence moved to another paragraph',
    doc(p(`${WHEEL} ${ROPE}`), p(GATES)),
    doc(p(WHEEL), p(`${GATES} ${ROPE}`)),
    `~ ${ROPE}`,
  ],
  ['a paragraph copied', doc(p(ROPE), p(GATES)), doc(p(ROPE), p(GATES), p(ROPE)), `= ${ROPE}`],
  ['a paragraph split', doc(p(`${WHEEL} ${GATES}`)), doc(p(WHEEL), p(GATES)), `/ ${GATES}`],
  [
    'a paragraph split in three',
    doc(p(`${WHEEL} ${GATES} ${MARSH}`)),
    doc(p(WHEEL), p(GATES), p(MARSH)),
    `/ ${GATES}`,
    `/ ${MARSH}`,
  ],
  ['two paragraphs joined', doc(p(WHEEL), p(GATES)), doc(p(`${WHEEL} ${GATES}`)), `& ${GATES}`],
  [
    'a paragraph split and a word changed',
    doc(p(`${WHEEL} ${GATES}`)),
    doc(p(WHEEL), p(GATES.replace('both', 'all'))),
    `/ ${GATES.replace('both', 'all')}`,
    'both > all',
  ],
  [
    'one of two like paragraphs edited',
    doc(p('Call the mill.'), p('Call the mill.')),
    doc(p('Call the mill.'), p('Call the harbour.')),
    'mill > harbour',
  ],
  [
    'a list item put between',
    doc(ul(li(p('rope')), li(p('oars')))),
    doc(ul(li(p('rope')), li(p('bailer')), li(p('oars')))),
    '+ bailer',
  ],
  [
    'a word in a list item',
    doc(ul(li(p('long rope here')))),
    doc(ul(li(p('short rope here')))),
    'long > short',
  ],
  [
    'list items sorted',
    doc(ul(li(p(ROPE)), li(p(GATES)), li(p(MARSH)))),
    doc(ul(li(p(GATES)), li(p(MARSH)), li(p(ROPE)))),
    `~ ${ROPE}`,
  ],
  [
    'a word inside a quote',
    doc(quote(p('by the moon’s clock'))),
    doc(quote(p('by the tide’s clock'))),
    'moon’s > tide’s',
  ],
  ['a line of code', doc(code('a = 1\nb = 2')), doc(code('a = 1\nb = 3')), '2 > 3'],
  [
    'a row added',
    doc(table(tr(td(p('Mon')), td(p('Jun'))))),
    doc(table(tr(td(p('Mon')), td(p('Jun'))), tr(td(p('Tue')), td(p('Ada'))))),
    '+ Tue\tAda',
  ],
  [
    'a row removed',
    doc(table(tr(td(p('Mon')), td(p('Jun'))), tr(td(p('Tue')), td(p('Ada'))))),
    doc(table(tr(td(p('Mon')), td(p('Jun'))))),
    '- Tue\tAda',
  ],
  [
    'a column added',
    doc(table(tr(td(p('Mon')), td(p('Jun'))), tr(td(p('Tue')), td(p('Ada'))))),
    doc(
      table(tr(td(p('Mon')), td(p('09:00')), td(p('Jun'))), tr(td(p('Tue')), td(p('10:00')), td(p('Ada')))),
    ),
    '+ 09:00\n10:00',
  ],
  [
    'a row added and a column removed',
    doc(table(tr(td(p('Mon')), td(p('early')), td(p('Jun'))), tr(td(p('Tue')), td(p('late')), td(p('Ada'))))),
    doc(table(tr(td(p('Mon')), td(p('Jun'))), tr(td(p('Tue')), td(p('Ada'))), tr(td(p('Wed')), td(p('Bo'))))),
    '- early\nlate',
    '+ Wed\tBo',
  ],
  [
    'a word in a cell',
    doc(table(tr(td(p('Monday early')), td(p('Jun'))))),
    doc(table(tr(td(p('Monday late')), td(p('Jun'))))),
    'early > late',
  ],
  [
    'a table with spans is one change',
    doc(table(tr(td(p('Mon'))), tr(td(p('Tue'))))),
    doc(table(tr(b.wide(2, p('Mon'))), tr(td(p('Tue')), td(p('x'))))),
    'Mon\nTue > Mon\nTue\tx',
  ],
];

describe('judged cases', () => {
  for (const [name, earlier, later, ...marks] of [...inWords, ...inForm, ...inBlocks]) {
    it(name, () => {
      const comparison = compare(earlier, later);
      expect(comparison.changes.map(line)).toEqual(marks);
      expect(assemble(comparison, () => 'later').eq(later)).toBe(true);
      expect(assemble(comparison, () => 'earlier').eq(earlier)).toBe(true);
    });
  }
});
