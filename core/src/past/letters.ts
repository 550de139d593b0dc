import type { Fragment, Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { ReplaceAroundStep, ReplaceStep } from 'prosemirror-transform';
import { roleOf, told } from '../content/index.js';

/** What stands in the letters for a boundary of a node or a leaf block: text to one side of it is in another block. */
export const BOUNDARY = '\ufdd0';
/** What stands for an inline leaf that is no line break, such as an image. */
export const LEAF = '\ufffc';
/** Signs that text must not bring along, since they mean something here. */
const MEANT = /[\ufdd0\ufffc]/g;

/**
 * What every instance of a document was: for each edit, one UTF-16 unit for each token that it inserted. Edit 0 is the
 * content the history began with. Grows with the log.
 */
export class Letters {
  private units: number;

  private constructor(private readonly texts: string[]) {
    this.units = texts.reduce((sum, text) => sum + text.length, 0);
  }

  /** Rough bytes they hold in memory. */
  get weight(): number {
    return this.units * 2 + this.texts.length * 40;
  }

  /** The letters of a history that begins with `doc`. */
  static starting(doc: Node): Letters {
    return new Letters([lettersOf(doc.content)]);
  }

  /** Letters that were stored: what each edit inserted, from edit 0 on. */
  static of(texts: readonly string[]): Letters {
    return new Letters([...texts]);
  }

  /** The last edit they know. */
  get seq(): number {
    return this.texts.length - 1;
  }

  /** Takes in the next edit. */
  append(steps: readonly Step[]): void {
    const text = steps.map(lettersOfStep).join('');
    this.texts.push(text);
    this.units += text.length;
  }

  /** What `length` instances of edit `seq` were, from its `offset` on; those that were erased are told as a bar. */
  text(seq: number, offset: number, length: number): string {
    return told((this.texts[seq] ?? '').slice(offset, offset + length));
  }

  /** What the edits from `first` to `last` inserted, one string each, for storing. */
  between(first: number, last: number): readonly string[] {
    return this.texts.slice(first, last + 1);
  }
}

function lettersOf(content: Fragment): string {
  let text = '';
  content.forEach((node) => {
    if (node.isText) text += (node.text ?? '').replace(MEANT, '\ufffd');
    else if (!node.isLeaf) text += BOUNDARY + lettersOf(node.content) + BOUNDARY;
    else text += !node.isInline ? BOUNDARY : roleOf(node) === 'line' ? '\n' : LEAF;
  });
  return text;
}

/** The letters of what a step inserts, without the boundaries that its slice leaves open. */
function lettersOfStep(step: Step): string {
  if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) return '';
  const { content, openStart, openEnd } = step.slice;
  const text = lettersOf(content);
  return text.slice(openStart, text.length - openEnd);
}
