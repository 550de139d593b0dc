import { signal } from '@angular/core';
import type { EditsMessage, Role, WireEdit } from '@oxbow/contract';
import type { Writer } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import type { Transaction } from 'prosemirror-state';
import { acceptedOf } from '../live/rebasing';
import type { PageView } from './page-view';
import { REMOTE } from './remote';

/** The page of an open document: what the editor shows, and which of it is accepted and which waits. */
export class LivePage {
  private readonly opened = signal<{ state: EditorState; role: Role } | null>(null);
  private readonly held = signal(0);
  private known: Writer | null = null;
  private shown: PageView | null = null;

  /** The state the editor starts with, and what one may do; null until the document is there. */
  readonly start = this.opened.asReadonly();
  /** How many edits wait to be sent, or to be put in. */
  readonly waiting = this.held.asReadonly();

  /** Who knows what waits; null until the document is there. */
  get writer(): Writer | null {
    return this.known;
  }

  /** The editor that shows the page; null before there is one. */
  get view(): PageView | null {
    return this.shown;
  }

  /** The last accepted edit that the page has; null before there is a page. */
  get confirmed(): number | null {
    return this.known?.confirmed ?? null;
  }

  /** The edit that the page is at, when nothing of one's own waits; else null. */
  get settled(): number | null {
    return this.known && this.known.waiting.length === 0 ? this.known.confirmed : null;
  }

  /** What stands on the page, one's own writing that waits included; null before there is a page. */
  get doc(): Node | null {
    return this.state?.doc ?? null;
  }

  /** Begins with what a writer starts from. */
  begin(writer: Writer, doc: Node, role: Role): void {
    this.known = writer;
    this.count();
    this.opened.set({ state: EditorState.create({ doc }), role });
  }

  /** The editor shows itself, and what comes in goes to it; null when it is gone. */
  attach(view: PageView | null): void {
    this.shown = view;
  }

  /**
   * Takes in what the server accepted, as far as the page does not have it yet, and answers that.
   * @throws Gap when an edit between is missing.
   */
  receive(edits: readonly WireEdit[]): readonly WireEdit[] {
    const { known, state } = this;
    if (!known || !state) return [];
    const fresh = edits.filter((edit) => edit.seq > known.confirmed);
    const tr = state.tr;
    known.receive(
      fresh.map((edit) => acceptedOf(edit, state.schema)),
      tr,
    );
    this.show(tr);
    return fresh;
  }

  /** Takes edits of one's own that wait off the page. */
  refuse(counters: readonly number[]): void {
    const { known, state } = this;
    if (!known || !state) return;
    const tr = state.tr;
    known.refused(counters, tr);
    this.show(tr);
  }

  /** Takes all that waits off the page. */
  clear(): void {
    this.refuse(this.known?.waiting.map(({ counter }) => counter) ?? []);
  }

  /** Counts anew how many edits wait. */
  count(): void {
    this.held.set(this.known?.waiting.length ?? 0);
  }

  private get state(): EditorState | null {
    return this.shown?.state ?? this.opened()?.state ?? null;
  }

  private show(tr: Transaction): void {
    if (tr.steps.length === 0) return;
    tr.setMeta(REMOTE, true);
    if (this.shown) this.shown.dispatch(tr);
    else this.opened.update((opened) => opened && { ...opened, state: opened.state.apply(tr) });
  }
}

/** A writer's edits as they are sent. */
export function messageOf(
  document: string,
  client: string,
  { base, edits }: ReturnType<Writer['unsent']>,
): EditsMessage {
  const plain = edits.map((edit) => ({ ...edit, steps: edit.steps.map((step) => step.toJSON() as unknown) }));
  return { document, client, base, edits: plain as unknown as EditsMessage['edits'] };
}
