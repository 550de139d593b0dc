import { kindOf } from '@oxbow/core/kinds';
import { paperOf } from '@oxbow/core/kinds/text';
import { pageRule } from '@oxbow/core/formats/about';
import type { Node } from 'prosemirror-model';
import type { DrawDocument } from './kinds';

/** Prints what is in view; where a page of text is given, on its paper, with its header and footer; any other document as it is drawn, whole. */
export function printPage(doc: Node | null, draw: DrawDocument | null = null): void {
  const style = document.createElement('style');
  if (doc && kindOf(doc).name === 'text') style.textContent = pageRule(paperOf(doc));
  document.head.append(style);
  const drawn = doc && draw ? draw(doc, [], { lines: Infinity }) : null;
  if (drawn) {
    drawn.classList.add('printed');
    document.body.append(drawn);
    document.body.classList.add('prints-drawn');
  }
  print();
  drawn?.remove();
  document.body.classList.remove('prints-drawn');
  style.remove();
}
