import type { Mark } from 'prosemirror-model';
import { textSchema as schema } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { down } from '../packed/xml.js';
import { sizeOfRatio } from '../looks.js';
import type { LeftOutTally } from '../reading.js';
import type { DocxSheet } from './sheet.js';
import { isOn, valueOf } from './sheet.js';

type Ink = 'sand' | 'reed' | 'sky' | 'rose';

const INKS: Readonly<Record<string, Ink>> = {
  green: 'reed',
  darkGreen: 'reed',
  cyan: 'sky',
  darkCyan: 'sky',
  blue: 'sky',
  darkBlue: 'sky',
  magenta: 'rose',
  darkMagenta: 'rose',
  red: 'rose',
  darkRed: 'rose',
};

/** Looks of text that documents do not hold, by the element that says so. */
const UNHELD: readonly (readonly [element: string, what: string])[] = [
  ['w:color', 'text colours'],
  ['w:caps', 'capitals by style'],
  ['w:smallCaps', 'capitals by style'],
  ['w:em', 'emphasis dots'],
  ['w:bdr', 'frames round words'],
  ['w:effect', 'text effects'],
];

/** Marks that run properties stand for. What a paragraph's own style says of all its text is no mark. */
export function marksOf(
  properties: Element | null,
  paragraphStyle: string | null,
  sheet: DocxSheet,
  link: Mark | null,
  tally: LeftOutTally,
): readonly Mark[] {
  const styleId = valueOf(down(properties, 'w:rStyle'));
  const style = sheet.styleName(styleId);
  const linkStyle = /^(followed ?)?hyperlink$/.test(style);
  const property = (name: string): Element | null =>
    down(properties, name) ?? (linkStyle ? null : sheet.runProperty(styleId, name));
  let marks: readonly Mark[] = link ? [link] : [];
  const add = (mark: Mark): void => void (marks = mark.addToSet(marks));
  if (isOn(property('w:b'))) add(schema.mark('bold'));
  if (isOn(property('w:i'))) add(schema.mark('italic'));
  if (isOn(property('w:u'))) add(schema.mark('underline'));
  if (isOn(property('w:strike')) || isOn(property('w:dstrike'))) add(schema.mark('strike'));
  const script = valueOf(property('w:vertAlign'));
  if (script === 'subscript' || script === 'superscript') add(schema.mark(script));
  const highlight = valueOf(property('w:highlight'));
  if (highlight !== null && highlight !== 'none')
    add(schema.mark('highlight', { ink: INKS[highlight] ?? 'sand' }));
  if (/^(verbatim char|source text|html code|code|inline code)$/.test(style)) add(schema.mark('code'));
  const face = sheet.typeface(valueOf(down(properties, 'w:rFonts'), 'w:ascii'));
  if (face) add(schema.mark('typeface', { face }));
  const size = sizeOfRatio(Number(valueOf(down(properties, 'w:sz'))) / sheet.size(paragraphStyle));
  if (size) add(schema.mark('size', { size }));
  for (const [element, what] of UNHELD) {
    const held = down(properties, element);
    if (isOn(held) && valueOf(held) !== 'auto' && !linkStyle) tally.add(what);
  }
  return marks;
}
