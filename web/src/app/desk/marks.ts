import type { ComparedChange, Person } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';
import { DOMSerializer } from 'prosemirror-model';
import { Decoration, DecorationSet } from 'prosemirror-view';
import type { Stand } from '@oxbow/core/compare';
import { colourOf } from '../look/colours';

/** What drawing the marks of a comparison needs. */
export interface Marked {
  readonly earlier: Node;
  readonly later: Node;
  readonly changes: readonly ComparedChange[];
  readonly people: ReadonlyMap<string, Person>;
}

/**
 * The marks of a comparison on the later text: what was added is washed and ruled, what was removed stands struck where
 * it was, changes of form are ruled with a wave, what moved is framed. `at` is the change in hand.
 */
export function marksOf({ earlier, later, changes, people }: Marked, at: number | null): DecorationSet {
  const out: Decoration[] = [];
  for (const change of changes) {
    const who = (side: 'earlier' | 'later'): string =>
      colourOf(people.get(personOf(change, side))?.colour ?? 0);
    const hand = change.id === at ? ' at-hand' : '';
    const extra = (EXTRA[change.kind] ?? '') + hand;
    if (change.kind === 'form') out.push(...formMarks(change, later, who('later'), hand));
    else if (change.kind === 'split' || change.kind === 'joined')
      out.push(seamMark(change, who('later'), hand));
    else {
      for (const place of change.stands.earlier)
        out.push(...removedMarks(change, place, earlier, who('earlier'), extra));
      for (const place of change.stands.later)
        out.push(...addedMarks(change, place, later, people, who('later'), extra));
    }
  }
  return DecorationSet.create(later, out);
}

const EXTRA: Partial<Record<ComparedChange['kind'], string>> = { moved: ' was-moved', copied: ' was-copied' };

/** Who is answerable for one side of a change: whoever did most of it last. */
export function personOf(change: ComparedChange, side: 'earlier' | 'later'): string {
  return (change.credits.findLast((credit) => credit.side === side) ?? change.credits.at(-1))?.person ?? '';
}

function addedMarks(
  change: ComparedChange,
  { from, to }: Stand,
  later: Node,
  people: ReadonlyMap<string, Person>,
  colour: string,
  extra: string,
): Decoration[] {
  const own = change.credits.filter(
    (credit) => credit.side === 'later' && credit.from >= from && credit.to <= to,
  );
  const parts =
    own.length > 1
      ? own.map((credit) => ({
          from: credit.from,
          to: credit.to,
          colour: colourOf(people.get(credit.person)?.colour ?? 0),
        }))
      : [{ from, to, colour }];
  const inside = parts.map((part) =>
    Decoration.inline(part.from, part.to, {
      ...attrs(change, `was-added${change.block ? '' : extra}`, part.colour),
      nodeName: 'ins',
    }),
  );
  if (!change.block) return inside;
  const around = blocksIn(later, from, to).map(([start, end]) =>
    Decoration.node(start, end, attrs(change, `block-added${extra}`, colour)),
  );
  return [...around, ...(change.kind === 'moved' ? [] : inside)];
}

/** What stood in the earlier document, where it stood. */
function removedMarks(
  change: ComparedChange,
  { from, to, across: at }: Stand,
  earlier: Node,
  colour: string,
  extra: string,
): Decoration[] {
  const serializer = DOMSerializer.fromSchema(earlier.type.schema);
  const dress = (element: HTMLElement, block: boolean): HTMLElement => {
    element.classList.add(
      'was-removed',
      ...(block ? ['block-removed'] : []),
      ...extra.split(' ').filter(Boolean),
    );
    element.style.setProperty('--who', colour);
    element.dataset['change'] = String(change.id);
    element.contentEditable = 'false';
    return element;
  };
  if (!change.block) {
    const draw = (): HTMLElement => {
      const element = document.createElement('del');
      element.append(serializer.serializeFragment(earlier.slice(from, to).content));
      return dress(element, false);
    };
    return [Decoration.widget(at, draw, { side: -1, key: `${change.id}${extra}` })];
  }
  return blocksIn(earlier, from, to).map(([start], i) => {
    const draw = (): HTMLElement =>
      dress(serializer.serializeNode(earlier.nodeAt(start) as Node) as HTMLElement, true);
    return Decoration.widget(at, draw, { side: -1, key: `${change.id}-${i}${extra}` });
  });
}

/** Where a paragraph was split, or two joined. */
function seamMark(change: ComparedChange, colour: string, extra: string): Decoration {
  const draw = (): HTMLElement => {
    const element = document.createElement('span');
    element.className = `was-${change.kind}${extra}`;
    element.style.setProperty('--who', colour);
    element.dataset['change'] = String(change.id);
    element.textContent = '¶';
    return element;
  };
  return Decoration.widget(change.place.later.from, draw, { side: -1, key: `${change.id}${extra}` });
}

function formMarks(change: ComparedChange, later: Node, colour: string, extra: string): Decoration[] {
  const dress = attrs(change, `was-formed${extra}`, colour);
  return change.stands.later.flatMap(({ from, to }) =>
    change.block
      ? blocksIn(later, from, to).map(([start, end]) => Decoration.node(start, end, dress))
      : [Decoration.inline(from, to, dress)],
  );
}

function attrs(change: ComparedChange, classes: string, colour: string): Record<string, string> {
  return { class: classes, style: `--who: ${colour}`, 'data-change': String(change.id) };
}

/** The places of the nodes that fill a stretch side by side. */
function blocksIn(doc: Node, from: number, to: number): [number, number][] {
  const out: [number, number][] = [];
  for (let at = from; at < to;) {
    const node = doc.nodeAt(at);
    if (!node) break;
    out.push([at, at + node.nodeSize]);
    at += node.nodeSize;
  }
  return out;
}
