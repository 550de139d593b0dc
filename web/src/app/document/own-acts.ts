import { carry } from '@oxbow/core/compare';
import type { Carrying, Stretch } from '@oxbow/core/compare';
import type { OwnCause, PendingEdit, Writer } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Transaction } from 'prosemirror-state';
import type { Step } from 'prosemirror-transform';
import type { Clip } from './clip';
import type { PageView } from './page-view';
import { presentClip, sourcesOf } from './clip';

/** Carries the cause and sources of what is not plain writing, such as an undo. */
export const OWN = 'own';

export interface OwnMeta {
  readonly cause: OwnCause;
  readonly sources: PendingEdit['sources'];
}

/** Stretches of a past moment that are to come back. */
export interface Past {
  readonly doc: Node;
  readonly moment: number;
  readonly what: readonly Stretch[];
}

/** Undo, copy and paste, and carrying forward: what a writer does on the page other than typing. */
export class OwnActs {
  private clip: Clip | null = null;

  /** `at` gives the page and its writer once there are any; `say` tells the writer something. */
  constructor(
    private readonly at: () => { readonly view: PageView; readonly writer: Writer } | null,
    private readonly say: (text: string) => void,
  ) {}

  /** Remembers what is being copied or dragged, so that it keeps its writers where it is put. */
  took(clip: Clip): void {
    this.clip = clip;
  }

  /** The same for a stretch of the page itself. */
  tookHere(from: number, to: number): void {
    const at = this.at();
    if (!at || to <= from) return;
    const { view, writer } = at;
    this.clip = presentClip(view.state.doc, from, to, writer.instances(from, to), writer.began);
  }

  /** What was taken, when a transaction puts it in. */
  pasted(tr: Transaction): OwnMeta | undefined {
    const { clip } = this;
    const how = tr.getMeta('uiEvent') as string | undefined;
    if (!clip || (how !== 'paste' && how !== 'drop')) return undefined;
    if (clip.began !== undefined && clip.began !== this.at()?.writer.began) return undefined;
    const sources = sourcesOf(tr.steps, clip);
    if (sources.length === 0) return undefined;
    const { moment } = clip;
    return { cause: moment === null ? { kind: 'writing' } : { kind: 'carry', moment }, sources };
  }

  /** Where something of the past would go on the page as it is now; null when it cannot stand there. */
  carrying({ doc, what }: Past, place: Stretch): Carrying | null {
    const at = this.at();
    return at ? carry(at.view.state.doc, doc, what, place) : null;
  }

  /** Carries something of the past into the page. Answers how to take that back, or null when it cannot stand there. */
  carry(past: Past, place: Stretch): (() => void) | null {
    const at = this.at();
    const carried = this.carrying(past, place);
    if (!at || !carried) return null;
    const { moment } = past;
    const sources = carried.brought.map((part) => ({ ...part, moment }));
    at.view.dispatch(ownTransaction(at.view, carried.steps, { cause: { kind: 'carry', moment }, sources }));
    const counter = at.writer.waiting.at(-1)?.counter;
    return () => this.reverse('undo', counter);
  }

  /** Whether this writer has an act of their own to undo or redo. */
  can(which: 'undo' | 'redo'): boolean {
    const writer = this.at()?.writer;
    return (which === 'undo' ? writer?.canUndo : writer?.canRedo) === true;
  }

  /** Undoes or redoes this writer's own last act, and nobody else's. */
  undo(which: 'undo' | 'redo'): boolean {
    return this.can(which) && this.reverse(which);
  }

  /** Undoes or redoes the last act, or undoes the one with a counter, whatever was done since. */
  private reverse(which: 'undo' | 'redo', counter?: number): boolean {
    const at = this.at();
    if (!at) return false;
    const { view, writer } = at;
    const result =
      counter === undefined ? writer[which](view.state.doc) : writer.undoOf(view.state.doc, counter);
    if (result.kind === 'conflict')
      this.say(
        $localize`That cannot be ${which === 'undo' ? $localize`undone` : $localize`redone`} on its own: somebody has written inside it since.`,
      );
    if (result.kind !== 'steps') return true;
    const meta: OwnMeta = { cause: { kind: which, of: result.of }, sources: result.sources };
    view.dispatch(ownTransaction(view, result.steps, meta).scrollIntoView());
    return true;
  }
}

/** A transaction of steps that are not plain writing. */
export function ownTransaction(view: PageView, steps: readonly Step[], meta: OwnMeta): Transaction {
  const tr = view.state.tr;
  for (const step of steps) tr.step(step);
  return tr.setMeta(OWN, meta);
}
