import { kindOf } from '@oxbow/core/kinds';
import { paperOf } from '@oxbow/core/kinds/text';
import { pageRule } from '@oxbow/core/formats/about';
import type { Node } from 'prosemirror-model';
import type { KindOnScreen } from './kinds';

/** A document that is to be printed whole. */
export interface Printed {
  readonly id: string;
  readonly doc: Node;
  readonly kind: KindOnScreen | undefined;
}

/** Prints what is in view; where a page of text is given, on its paper, with its header and footer; any other document as it is drawn, whole. */
export async function printPage(printed: Printed | null): Promise<void> {
  const style = document.createElement('style');
  if (printed) style.textContent = ruleFor(printed);
  document.head.append(style);
  const draw = await printed?.kind?.drawn?.();
  const drawn = printed && draw?.(printed.doc, [], { lines: Infinity, document: printed.id });
  if (drawn) {
    drawn.classList.add('printed');
    document.body.append(drawn);
    document.body.classList.add('prints-drawn');
    // A picture that cannot be had is printed as what it shows.
    await Promise.allSettled([...drawn.querySelectorAll('img')].map((picture) => picture.decode()));
  }
  print();
  drawn?.remove();
  document.body.classList.remove('prints-drawn');
  style.remove();
}

function ruleFor({ doc, kind }: Printed): string {
  return kindOf(doc).name === 'text' ? pageRule(paperOf(doc)) : (kind?.paperRule ?? '');
}
