import type { Mark, MarkType, Node, Schema } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { AddMarkStep, AttrStep, RemoveMarkStep } from 'prosemirror-transform';
import type { Token } from '../content/index.js';
import type { InstanceRange } from './edit.js';
import type { RunSequence } from './runs.js';

/** What was set on some content: a mark put on, changed or taken off, or an attribute of a node. */
export type Form =
  | {
      readonly kind: 'mark';
      readonly type: MarkType;
      readonly before: Mark | null;
      readonly after: Mark | null;
    }
  | { readonly kind: 'attr'; readonly name: string; readonly before: unknown; readonly after: unknown };

/** The name of what was set, as the schema has it. */
export function formName(form: Form): string {
  return form.kind === 'attr' ? form.name : form.type.name;
}

/** A change of form: edit `seq` changed the form of a stretch of instances. */
export interface FormChange {
  readonly seq: number;
  readonly range: InstanceRange;
  readonly form: Form;
}

/**
 * What a step changes in form, as instance ranges: marks and attributes move no content, so step maps are silent about
 * them. Call before the step is applied to `doc` and appended to `runs`.
 */
export function formChanges(seq: number, step: Step, doc: Node, runs: RunSequence): FormChange[] {
  return stretchesOf(step, doc).flatMap(({ from, to, form }) =>
    runs
      .between(from, to)
      .map((run) => ({ seq, range: { seq: run.seq, offset: run.offset, length: run.length }, form })),
  );
}

interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly form: Form;
}

function stretchesOf(step: Step, doc: Node): Stretch[] {
  if (step instanceof AttrStep) {
    const before: unknown = doc.nodeAt(step.pos)?.attrs[step.attr];
    const form: Form = { kind: 'attr', name: step.attr, before, after: step.value as unknown };
    return [{ from: step.pos, to: step.pos + 1, form }];
  }
  const adds = step instanceof AddMarkStep;
  if (!adds && !(step instanceof RemoveMarkStep)) return [];
  const out: Stretch[] = [];
  doc.nodesBetween(step.from, step.to, (node, position, parent) => {
    if (!node.isInline || (adds && !parent?.type.allowsMarkType(step.mark.type))) return;
    const from = Math.max(position, step.from);
    const to = Math.min(position + node.nodeSize, step.to);
    const marks = adds ? step.mark.addToSet(node.marks) : step.mark.removeFromSet(node.marks);
    if (from < to) for (const form of markDifferences(node.marks, marks)) out.push({ from, to, form });
  });
  return out;
}

/** What differs between two sets of marks, one entry a mark type. */
export function markDifferences(before: readonly Mark[], after: readonly Mark[]): Form[] {
  const types = new Set([...before, ...after].map((mark) => mark.type));
  return [...types].flatMap((type): Form[] => {
    const old = type.isInSet(before) ?? null;
    const now = type.isInSet(after) ?? null;
    return old && now && old.eq(now) ? [] : [{ kind: 'mark', type, before: old, after: now }];
  });
}

/** The token with one form set to what it was before (`'before'`) or after (`'after'`) a change. */
export function withForm(token: Token, form: Form, side: 'before' | 'after'): Token {
  if (form.kind === 'attr') {
    const attrs = { [form.name]: form[side] };
    if (token.kind === 'open') return { ...token, attrs: { ...token.attrs, ...attrs } };
    if (token.kind !== 'leaf') return token;
    return {
      kind: 'leaf',
      node: token.node.type.create({ ...token.node.attrs, ...attrs }, null, token.node.marks),
    };
  }
  const value = form[side];
  const set = (marks: readonly Mark[]): readonly Mark[] => {
    const without = marks.filter((mark) => mark.type !== form.type);
    return value ? value.addToSet(without) : without;
  };
  if (token.kind === 'unit') return { ...token, marks: set(token.marks) };
  if (token.kind === 'leaf') return { kind: 'leaf', node: token.node.mark(set(token.node.marks)) };
  return token;
}

interface FormJSON {
  readonly seq: number;
  readonly range: readonly [number, number, number];
  readonly mark?: string;
  readonly attr?: string;
  readonly before: unknown;
  readonly after: unknown;
}

/** A form change as plain JSON, for storing. */
export function formToJSON({ seq, range, form }: FormChange): FormJSON {
  const at = [range.seq, range.offset, range.length] as const;
  if (form.kind === 'attr')
    return { seq, range: at, attr: form.name, before: form.before, after: form.after };
  return {
    seq,
    range: at,
    mark: form.type.name,
    before: form.before?.toJSON() ?? null,
    after: form.after?.toJSON() ?? null,
  };
}

/** The form change that `formToJSON` wrote. */
export function formFromJSON(schema: Schema, json: FormJSON): FormChange {
  const [seq, offset, length] = json.range;
  const range = { seq, offset, length };
  if (json.attr !== undefined) {
    return {
      seq: json.seq,
      range,
      form: { kind: 'attr', name: json.attr, before: json.before, after: json.after },
    };
  }
  const type = schema.marks[json.mark ?? ''];
  if (!type) throw new RangeError(`Unknown mark ${String(json.mark)} in a stored form change`);
  const mark = (value: unknown): Mark | null => (value === null ? null : schema.markFromJSON(value));
  return {
    seq: json.seq,
    range,
    form: { kind: 'mark', type, before: mark(json.before), after: mark(json.after) },
  };
}
