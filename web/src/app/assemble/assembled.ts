import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { documentOf, kindOf } from '@oxbow/core/kinds';
import { Node } from 'prosemirror-model';
import { imageAddress } from '../document/drawn';
import type { DrawDocument, DrawnMark } from '../document/kinds';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { draw } from '../reading/draw';
import type { Sheet } from '../reading/draw';

/** Most lines that are drawn of a document that is no text. */
const LINES = 300;

/** What decisions make, as it grows: of a new state only the blocks that differ are drawn anew. */
@Component({
  selector: 'ox-assembled',
  template: `
    <h2 i18n>What comes of it</h2>
    <div class="sheet">
      <div
        #page
        class="page-text"
        role="document"
        tabindex="0"
        aria-label="What comes of it"
        i18n-aria-label
      ></div>
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
      overflow: auto;
      padding: 8px 12px 80px;
      border-inline-start: 1px solid var(--line);
    }
    h2 {
      margin: 0 0 6px;
      font: 600 13px/20px var(--sans);
      color: var(--soft);
    }
    .sheet {
      max-width: 720px;
      margin: 0 auto;
      padding: 24px 28px 60px;
      background: var(--page);
      border: 1px solid var(--line);
      border-radius: 3px;
    }
    :host ::ng-deep .just-made {
      background: var(--tide);
      box-shadow: 0 0 0 6px var(--tide);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Assembled {
  readonly content = input.required<unknown>();
  /** Whose images are shown. */
  readonly document = input.required<string>();
  private readonly kinds = inject(KINDS_ON_SCREEN);
  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private shown: Node | null = null;

  constructor() {
    effect(() => {
      const content = this.content();
      if (content) void this.show(documentOf(content));
    });
  }

  private async show(doc: Node): Promise<void> {
    const before = this.shown;
    const host = this.page().nativeElement;
    this.shown = doc;
    const drawn = await this.kinds[kindOf(doc).name]?.drawn?.();
    if (this.shown !== doc) return;
    if (drawn) return this.drawWhole(drawn, doc, before);
    const same = (i: number, j: number): boolean => before?.maybeChild(i)?.eq(doc.child(j)) === true;
    const most = Math.min(before?.childCount ?? 0, doc.childCount);
    let head = 0;
    while (head < most && same(head, head)) head++;
    let tail = 0;
    while (tail < most - head && same((before?.childCount ?? 0) - 1 - tail, doc.childCount - 1 - tail))
      tail++;
    const gone = [...host.children].slice(head, host.children.length - tail);
    const next = host.children[host.children.length - tail] ?? null;
    for (const element of gone) element.remove();
    const [from, to] = [placeOf(doc, head), placeOf(doc, doc.childCount - tail)];
    const sheet: Sheet = {
      doc,
      marks: [],
      ghosts: [],
      other: null,
      image: (hash) => imageAddress(this.document(), hash),
    };
    if (to > from) host.insertBefore(draw(sheet, from, to), next);
    if (before && !before.eq(doc)) this.point(host, head);
  }

  /** Draws all of a document, and marks the blocks that were not in it before. */
  private drawWhole(drawn: DrawDocument, doc: Node, before: Node | null): void {
    const nameOf = ({ attrs }: Node, index: number): unknown => attrs['id'] ?? index;
    const known = new Map(before?.children.map((block, i) => [nameOf(block, i), block]));
    const marks: DrawnMark[] = [];
    doc.forEach((block, at, i) => {
      if (before && known.get(nameOf(block, i))?.eq(block) !== true)
        marks.push({ from: at, to: at + block.nodeSize, name: 'just-made', who: '' });
    });
    const host = this.page().nativeElement;
    host.replaceChildren(drawn(doc, marks, { lines: LINES, document: this.document() }));
    host.querySelector('.just-made')?.scrollIntoView({ block: 'nearest' });
  }

  /** Brings what has just changed into view, and marks it. */
  private point(host: HTMLElement, index: number): void {
    for (const element of host.querySelectorAll('.just-made')) element.classList.remove('just-made');
    const element = (host.children[index] ?? host.lastElementChild) as HTMLElement | null;
    if (!element) return;
    element.classList.add('just-made');
    const box = this.element.nativeElement;
    const top = element.getBoundingClientRect().top - box.getBoundingClientRect().top;
    if (top < 40 || top > box.clientHeight - 120) box.scrollTop += top - box.clientHeight / 3;
  }
}

/** The position at which a child of a document begins. */
function placeOf(doc: Node, index: number): number {
  let position = 0;
  for (let i = 0; i < index; i++) position += doc.child(i).nodeSize;
  return position;
}
