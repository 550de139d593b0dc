import { paperOf } from '@oxbow/core/kinds/text';
import { pageRule } from '@oxbow/core/formats/about';
import type { Node } from 'prosemirror-model';

/** Prints what is in view; where a page is given, on its paper, with its header and footer. */
export function printPage(doc: Node | null): void {
  const style = document.createElement('style');
  if (doc) style.textContent = pageRule(paperOf(doc));
  document.head.append(style);
  print();
  style.remove();
}
