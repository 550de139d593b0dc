import { childrenOf } from '../../content/index.js';
import { noteNumbers } from '../../kinds/text/index.js';
import type { Node } from 'prosemirror-model';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';

/** The footnotes of a file that is written (ODF 1.2 Part 1, 6.3.2): each stands at its sign, and is filled when its block is met. */
export class OdtNotes {
  private readonly bodies = new Map<string, Element[]>();
  private readonly contents = new Map<string, Element[]>();
  private readonly numbers: ReadonlyMap<string, number>;
  private readonly both: ReadonlySet<string>;

  constructor(earlier: Node, later: Node) {
    this.numbers = noteNumbers(later);
    const [one, other] = [signsIn(earlier), signsIn(later)];
    this.both = new Set([...one].filter((name) => other.has(name)));
  }

  /** A sign, with the footnote that is to be filled. */
  sign(name: string): Element {
    const body = el('text:note-body');
    this.bodies.set(name, [...(this.bodies.get(name) ?? []), body]);
    return el('text:note', { 'text:id': name, 'text:note-class': 'footnote' }, [
      el('text:note-citation', {}, [String(this.numbers.get(name) ?? this.numbers.size + 1)]),
      body,
    ]);
  }

  /** Whether a footnote's sign stands in both texts, so that what changed in it has to be tracked in it. */
  stays(name: string): boolean {
    return this.both.has(name);
  }

  hold(name: string, content: readonly Element[]): void {
    this.contents.set(name, [...(this.contents.get(name) ?? []), ...content]);
  }

  /** Fills the footnotes; answers those that have no sign, with what they hold. */
  fill(): (readonly [name: string, content: readonly Element[]])[] {
    return [...this.contents].filter(([name, content]) => {
      const bodies = this.bodies.get(name);
      for (const body of bodies ?? []) body.children.push(...content);
      return !bodies;
    });
  }
}

function signsIn(doc: Node): Set<string> {
  const out = new Set<string>();
  const gather = (node: Node): void => {
    if (node.type.name === 'footnote_mark') out.add(String(node.attrs['note']));
    for (const child of childrenOf(node)) gather(child);
  };
  gather(doc);
  return out;
}
