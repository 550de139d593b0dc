import type { Node } from 'prosemirror-model';
import { countWords, inlineText, roleOf } from '../content/index.js';
import type { Change, ChangeKind, Stand, Stands, Stretch } from './changes.js';
import { grouped } from './grouping.js';
import { isTypography } from './typography.js';
import type { Difference, Handle, Moved, Side, Union } from './union.js';
import { sizeOf, spans, textIn, textOf, walk } from './union.js';

const NOTHING: readonly never[] = [];
/** Texts up to this length are held once, however many changes have them. */
const OFTEN = 24;

/** A change in the making: parts that share a handle add to one. */
interface Draft {
  kind: ChangeKind;
  /** Null for none: most changes have one of each, and an array that grows takes room for many. */
  readonly texts: Record<Side, string[] | null>;
  readonly stands: Record<Side, Stand[] | null>;
  /** Where it begins, for a side that it has nothing on. */
  readonly at: Record<Side, number>;
  block: boolean;
  copyOf: Stretch | null;
  section: string | null;
  form: Set<string> | null;
}

/** Numbers the changes of a union in document order and lists them. */
export function listChanges(union: Union): readonly Change[] {
  const drafts: Draft[] = [];
  const draft = (handle: Handle, kind: ChangeKind, a: number, b: number): Draft => {
    if (handle.id < 0) {
      handle.id = drafts.length;
      drafts.push({
        kind,
        texts: { earlier: null, later: null },
        stands: { earlier: null, later: null },
        at: { earlier: a, later: b },
        block: true,
        copyOf: null,
        section: null,
        form: null,
      });
    }
    return drafts[handle.id] as Draft;
  };
  walk(union, -1, -1, (part, a, b) => {
    switch (part.kind) {
      case 'difference':
        return addDifference(draft(part.change, kindOf(part), a, b), part, a, b);
      case 'pair':
      case 'seams': {
        if (part.form === null) return;
        const [earlier, later] =
          part.kind === 'pair' ? [[part.earlier], [part.later]] : [part.earlier, part.later];
        return addForm(draft(part.form, 'form', a, b), earlier, later, a, b);
      }
      case 'break': {
        const added = draft(part.change, BREAKS[part.side][part.filled ? 'filled' : 'bare'], a, b);
        const [earlier, later] = spans(part);
        if (earlier > 0) stand(added, 'earlier', a, earlier, b);
        if (later > 0) stand(added, 'later', b, later, a);
        if (!part.filled) say(added, part.side, inlineText(textIn(part.shape)));
        return;
      }
      case 'sole':
        draft(part.change, part.side === 'later' ? 'added' : 'removed', a, b);
        return;
      case 'move':
        if (part.at === 'later' && !part.moved.carried)
          addMove(draft(part.moved.change, 'moved', part.moved.from, b), part.moved);
    }
  });
  const known = new Map<string, string>();
  return grouped(drafts.map((one, id) => finished(one, id, known)));
}

/** What a break is told as: alone, or with all the text of the block that begins with it. */
const BREAKS = {
  earlier: { bare: 'joined', filled: 'removed' },
  later: { bare: 'split', filled: 'added' },
} as const;

function kindOf(part: Difference): ChangeKind {
  if (part.copyOf) return 'copied';
  const [earlier, later] = part.sizes;
  return earlier === 0 ? 'added' : later === 0 ? 'removed' : 'replaced';
}

function addDifference(draft: Draft, part: Difference, a: number, b: number): void {
  // Blanks at the ends of text that moved are told with it.
  if (draft.kind === 'moved') return;
  const add = (side: Side, size: number, from: number, across: number): void => {
    if (size === 0) return;
    say(draft, side, part.text(side));
    stand(draft, side, from, size, across);
  };
  const [earlier, later] = part.sizes;
  if (part.inline && !draft.stands.earlier && !draft.stands.later) draft.block = false;
  add('earlier', earlier, a, b);
  add('later', later, b, a);
  draft.copyOf = part.copyOf ?? null;
}

function addForm(draft: Draft, earlier: readonly Node[], later: readonly Node[], a: number, b: number): void {
  const [one, other] = [earlier[0] as Node, later[0] as Node];
  draft.block = !one.isInline;
  draft.form ??= new Set();
  for (const name of formNames(one, other)) draft.form.add(name);
  const last = draft.stands.later?.at(-1);
  if (draft.block && last && b < last.to) return;
  say(draft, 'earlier', textOf(earlier));
  say(draft, 'later', textOf(later));
  stand(draft, 'earlier', a, sizeOf(earlier), b);
  stand(draft, 'later', b, sizeOf(later), a);
}

function addMove(draft: Draft, moved: Moved): void {
  const [first] = moved.later;
  if (!draft.stands.later && first && roleOf(first) === 'heading') draft.section = inlineText(first);
  say(draft, 'earlier', textOf(moved.earlier));
  say(draft, 'later', textOf(moved.later));
  stand(draft, 'earlier', moved.from, sizeOf(moved.earlier), moved.across.from);
  stand(draft, 'later', moved.to, sizeOf(moved.later), moved.across.to);
  draft.block = moved.later.some((node) => node.isBlock);
  draft.kind = moved.regrouped ? 'form' : 'moved';
  if (!moved.regrouped) return;
  const { earlier, later } = moved.parents;
  const top = first?.type.schema.topNodeType.name;
  (draft.form ??= new Set()).add(later === top ? earlier : later);
}

function say({ texts }: Draft, side: Side, text: string): void {
  if (texts[side]) texts[side].push(text);
  else texts[side] = [text];
}

/** Adds a stretch; one that follows on the last becomes part of it. */
function stand({ stands }: Draft, side: Side, from: number, size: number, across: number): void {
  const list = (stands[side] ??= []);
  const last = list.at(-1);
  if (last?.to === from) list[list.length - 1] = { ...last, to: from + size };
  else if (last) list.push({ from, to: from + size, across });
  else stands[side] = [{ from, to: from + size, across }];
}

function finished(
  { kind: drafted, texts, stands: found, at, block, copyOf, section, form }: Draft,
  id: number,
  known: Map<string, string>,
): Change {
  const stands = { earlier: found.earlier ?? NOTHING, later: found.later ?? NOTHING };
  const first = (side: Side): Stretch => {
    const { from, to } = stands[side][0] ?? { from: at[side], to: at[side] };
    return { from, to };
  };
  const place = { earlier: first('earlier'), later: first('later') };
  const [earlier, later] = [
    once(joined(texts.earlier, block), known),
    once(joined(texts.later, block), known),
  ];
  const kind = drafted === 'replaced' && isTypography(earlier, later) ? 'typography' : drafted;
  const counts = kind === 'added' || kind === 'removed' || kind === 'replaced' || kind === 'copied';
  return {
    id,
    kind,
    earlier,
    later,
    place,
    scattered: isTold(place, stands) ? null : stands,
    block,
    wordsRemoved: counts ? countWords(earlier) : 0,
    wordsAdded: counts ? countWords(later) : 0,
    wordsMoved: kind === 'moved' ? countWords(later) : 0,
    copyOf,
    group: null,
    section,
    form: form ? [...form] : NOTHING,
  };
}

/** A text that is short enough to come up often, as the string it was told with at first. */
function once(text: string, known: Map<string, string>): string {
  if (text.length > OFTEN) return text;
  const first = known.get(text);
  if (first !== undefined) return first;
  known.set(text, text);
  return text;
}

/** Whether the first stretch of either side says all. */
function isTold({ earlier, later }: Change['place'], stands: Stands): boolean {
  const says = (told: readonly Stand[], other: Stretch): boolean =>
    told.length < 2 && told.every((one) => one.across === other.from);
  return says(stands.earlier, later) && says(stands.later, earlier);
}

function joined(texts: readonly string[] | null, block: boolean): string {
  if (!texts) return '';
  return texts.length === 1 ? (texts[0] as string) : texts.join(block ? '\n' : '');
}

function formNames(a: Node, b: Node): string[] {
  const names = new Set<string>();
  if (a.type !== b.type) names.add(b.type.name);
  else
    for (const name of Object.keys(b.attrs))
      if (JSON.stringify(a.attrs[name]) !== JSON.stringify(b.attrs[name])) names.add(name);
  for (const mark of a.marks) if (!mark.isInSet(b.marks)) names.add(mark.type.name);
  for (const mark of b.marks) if (!mark.isInSet(a.marks)) names.add(mark.type.name);
  return [...names];
}
