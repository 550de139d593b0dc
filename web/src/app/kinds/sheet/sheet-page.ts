import { signal, untracked } from '@angular/core';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { Standpoint } from '../../document/kinds';
import type { PageView } from '../../document/page-view';

/** Where rows are drawn, as far as they are. */
export interface Drawn {
  heightOf(position: number): number | null;
  positionAt(top: number): number | null;
}

/** The page of a book: what it holds now, and who is told of what is done to it. */
export class SheetPage implements PageView {
  private readonly now;
  /** The book as it is now, to be followed. */
  readonly book;

  constructor(
    start: EditorState,
    private readonly drawn: Drawn,
    private readonly told: (tr: Transaction) => void,
    private readonly stands: () => Standpoint | null = () => null,
  ) {
    this.now = signal(start);
    this.book = this.now.asReadonly();
  }

  /** Whoever asks for the state does not follow it: what they do with it may change it. */
  get state(): EditorState {
    return untracked(this.now);
  }

  get standpoint(): Standpoint {
    const { anchor, head } = this.state.selection;
    return untracked(this.stands) ?? { anchor, head };
  }

  dispatch(tr: Transaction): void {
    this.now.set(this.now().apply(tr));
    this.told(tr);
  }

  heightOf(position: number): number | null {
    return this.drawn.heightOf(position);
  }

  positionAt(top: number): number | null {
    return this.drawn.positionAt(top);
  }
}
