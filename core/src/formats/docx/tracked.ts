import type { Element } from '../packed/xml.js';
import { elementsOf, ownText } from '../packed/xml.js';
import type { Tracked } from '../reading.js';
import { timeOf } from '../time.js';

const KINDS: Readonly<Record<string, Tracked['kind']>> = {
  'w:ins': 'insertion',
  'w:del': 'deletion',
  'w:moveFrom': 'movedFrom',
  'w:moveTo': 'movedTo',
  'w:rPrChange': 'form',
  'w:pPrChange': 'form',
  'w:sectPrChange': 'form',
};

/** All tracked changes of a part in its order; neighbours of one kind, author and time are one (ECMA-376 Part 1, 17.13.5). */
export function trackedIn(root: Element): Tracked[] {
  const out: Tracked[] = [];
  let between = false;
  const visit = (element: Element, formText: () => string): void => {
    if (element.name === 'w:t') between = true;
    const kind = KINDS[element.name];
    if (kind) {
      const text = kind === 'form' ? formText() : textOf(element);
      const change: Tracked = {
        kind,
        author: element.attributes['w:author'] ?? '',
        at: timeOf(element.attributes['w:date']),
        text,
      };
      const last = out.at(-1);
      const same = last?.kind === kind && last.author === change.author && last.at === change.at;
      if (same && !between) out[out.length - 1] = { ...last, text: last.text + text };
      else out.push(change);
      between = false;
      return;
    }
    const inside = element.name === 'w:r' ? () => textOf(element) : formText;
    for (const child of elementsOf(element)) visit(child, inside);
  };
  visit(root, () => '');
  return out;
}

function textOf(element: Element): string {
  return elementsOf(element)
    .map((child) => (child.name === 'w:t' || child.name === 'w:delText' ? ownText(child) : textOf(child)))
    .join('');
}
