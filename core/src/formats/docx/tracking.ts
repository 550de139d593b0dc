import type { Handle, Moved, Side } from '../../compare/union.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { ShownMoves } from '../sides.js';
import type { Hand, Hands } from '../writing.js';
import type { At, Whole } from './at.js';
import type { Paper } from './paper.js';
import type { Track } from './runs.js';
import { trackAttributes } from './runs.js';

/** Who is named for each change of a comparison, and which moves are told as such. */
export class Tracking {
  private readonly names = new Map<Moved, string>();
  /** The change that was last met, which is who is named for what follows from it, such as an item's new place. */
  private recent = -1;

  constructor(
    readonly hands: Hands,
    /** What an earlier pass found to be shown as moved at both places. */
    private readonly moves: ShownMoves,
    /** What this pass shows. */
    private readonly shown: ShownMoves,
  ) {}

  met(handle: Handle | null): void {
    if (handle) this.recent = handle.id;
  }

  /** How something that moved is tracked at one of its places. */
  moveKind(moved: Moved, side: Side): Track['kind'] {
    this.shown.add(moved, side);
    const both = moved.body !== null && this.moves.both(moved);
    if (side === 'earlier') return both ? 'moveFrom' : 'del';
    return both ? 'moveTo' : 'ins';
  }

  /** Blocks that moved, marked as such at both places where both are shown. */
  ranged(moved: Moved, side: Side, where: At, paper: Paper, elements: Element[]): Element[] {
    if (!this.moves.both(moved) || elements.length === 0) return elements;
    const name = this.names.get(moved) ?? `move${this.names.size + 1}`;
    this.names.set(moved, name);
    const range = side === 'earlier' ? 'w:moveFromRange' : 'w:moveToRange';
    const by = this.hand(moved.change.id, side, where.a ?? where.b ?? 0);
    const attributes = trackAttributes(paper, by);
    return [
      el(`${range}Start`, { ...attributes, 'w:name': name }),
      ...elements,
      el(`${range}End`, { 'w:id': attributes['w:id'] }),
    ];
  }

  /** How something is tracked whose place is known on one side. */
  track({ kind, change }: Whole, { a, b }: At, size = 1): Track {
    const side: Side = b === null ? 'earlier' : 'later';
    return this.trackAt(kind, change, side, ((side === 'earlier' ? a : b) ?? 0) + size - 1);
  }

  /** How a change is tracked that is known at a position of one side. */
  trackAt(kind: Track['kind'], change: number, side: Side, position: number): Track {
    return { kind, ...this.hand(change, side, position) };
  }

  hand(change: number, side: Side, position: number): Hand {
    const { author, at } = this.hands(change, side, position, position + 1)[0] ?? { author: '', at: '' };
    return { author, at };
  }

  /** How the change that was last met is tracked at a position of one side. */
  trackRecent(kind: Track['kind'], side: Side, position: number): Track {
    return this.trackAt(kind, this.recent, side, position);
  }

  /** Who made the change that was last met. */
  recentHand(side: Side, position: number): Hand {
    return this.hand(this.recent, side, position);
  }
}
