import { ERASED_IMAGE, ERASED_RUN } from '@oxbow/core/content';
import { Fragment, Slice } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { Plugin } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';

/** What an erased stretch of so many letters is called. */
export function erasedWords(letters: number): string {
  return $localize`erased by an owner, ${letters === 1 ? $localize`1 letter` : $localize`${letters} letters`}`;
}

/** The erased stretches of a text, as from where to where. */
export function erasedRuns(text: string): [from: number, to: number][] {
  return [...text.matchAll(ERASED_RUN)].map(({ index, 0: run }) => [index, index + run.length]);
}

/** An erased stretch as it is drawn: a bar of its length, whose letters nobody sees. */
export function drawErased(text: string): HTMLElement {
  const bar = document.createElement('span');
  for (const [name, value] of Object.entries(attributes(text.length))) bar.setAttribute(name, value);
  bar.textContent = text;
  return bar;
}

/** An erased image as it is drawn. */
export function drawErasedImage(): HTMLElement {
  const bar = document.createElement('span');
  bar.className = 'erased';
  bar.setAttribute('role', 'img');
  bar.setAttribute('aria-label', 'an image erased by an owner');
  bar.title = $localize`an image erased by an owner`;
  return bar;
}

/** Whether a node is an image that was erased. */
export function isErasedImage({ attrs }: Node): boolean {
  return attrs['hash'] === ERASED_IMAGE;
}

function attributes(letters: number): Record<string, string> {
  const says = erasedWords(letters);
  return { class: 'erased', role: 'img', 'aria-label': says, title: says, style: `--letters:${letters}` };
}

/** The erased stretches of each top-level block that was looked at, counted from where it begins. */
const known = new WeakMap<Node, readonly (readonly [from: number, to: number])[]>();

function runsIn(block: Node): readonly (readonly [from: number, to: number])[] {
  const held = known.get(block);
  if (held) return held;
  const runs: [number, number][] = [];
  block.descendants((node, position) => {
    for (const [from, to] of node.isText ? erasedRuns(node.text ?? '') : [])
      runs.push([position + 1 + from, position + 1 + to]);
  });
  known.set(block, runs);
  return runs;
}

/** Draws erased stretches as bars on a page. Blocks that did not change are not looked at again. */
export function erasedBars(): Plugin {
  return new Plugin({
    props: {
      decorations({ doc }) {
        const bars: Decoration[] = [];
        doc.forEach((block, offset) => {
          for (const [from, to] of runsIn(block))
            bars.push(Decoration.inline(offset + from, offset + to, attributes(to - from)));
        });
        return bars.length > 0 ? DecorationSet.create(doc, bars) : DecorationSet.empty;
      },
    },
  });
}

/** A slice that is copied or put in, without what was erased in it: that comes back nowhere. */
export function withoutErased(slice: Slice): Slice {
  const content = stripped(slice.content);
  return content === slice.content ? slice : new Slice(content, slice.openStart, slice.openEnd);
}

function stripped(content: Fragment): Fragment {
  const out: Node[] = [];
  let isSame = true;
  content.forEach((node) => {
    const text = node.isText ? (node.text ?? '').replace(ERASED_RUN, '') : null;
    const inner = stripped(node.content);
    if (text === node.text || (text === null && inner === node.content && !isErasedImage(node)))
      return out.push(node);
    isSame = false;
    if (text) out.push(node.type.schema.text(text, node.marks));
    else if (text === null && !isErasedImage(node)) out.push(node.copy(inner));
  });
  return isSame ? content : Fragment.fromArray(out);
}
