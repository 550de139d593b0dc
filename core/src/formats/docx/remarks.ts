import { canonicalText } from '../../content/index.js';
import type { Element } from '../packed/xml.js';
import { elementsOf, textIn } from '../packed/xml.js';
import type { Remark } from '../reading.js';
import { shortened } from '../reading.js';
import type { Text } from './inline.js';
import { timeOf } from '../time.js';

/** How much of the text under a comment is kept with it. */
const LONGEST = 200;

/** Comments of a file, and the text they stand on, which is heard while the later text is read. */
export class Remarks {
  private readonly about = new Map<string, string>();
  private readonly open = new Set<string>();

  constructor(private readonly part: Element | null) {}

  of(text: Text): { comment(id: string, at: 'start' | 'end'): void; text(text: string): void } {
    if (text === 'earlier') return { comment: () => undefined, text: () => undefined };
    return {
      comment: (id, at) => void (at === 'start' ? this.open.add(id) : this.open.delete(id)),
      text: (value) => {
        for (const id of this.open) {
          const so = this.about.get(id) ?? '';
          if (so.length <= LONGEST) this.about.set(id, so + value);
        }
      },
    };
  }

  list(): Remark[] {
    return elementsOf(this.part, 'w:comment').map((comment) => {
      const text = elementsOf(comment, 'w:p').map(textIn).join('\n');
      const about = this.about.get(comment.attributes['w:id'] ?? '') ?? '';
      return {
        author: shortened(comment.attributes['w:author'] ?? '', 200),
        at: timeOf(comment.attributes['w:date']),
        text: canonicalText(text, true).slice(0, 10_000),
        about: shortened(about, LONGEST),
      };
    });
  }
}
