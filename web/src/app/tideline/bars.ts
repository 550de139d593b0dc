import type { Layout } from './layout';
import { usual } from './layout';

/** A drawn piece of a bar: what one person put in (above the line) or took out (below it, faded). */
export interface Part {
  readonly author: string;
  readonly y: number;
  readonly height: number;
  readonly faded: boolean;
}

/** How the people of a bar are drawn: one on the other, or each on a line of their own. */
export type Arrangement = 'stack' | 'lanes';

/** Where things stand in a line of some height. Pixels from the top. */
export interface Frame {
  /** The lowest that bars reach. */
  readonly bottom: number;
  /** The highest of the axes. */
  readonly first: number;
  /** The lines that bars rise from, top down: one, or one a person. */
  readonly axes: readonly {
    readonly y: number;
    readonly above: number;
    readonly below: number;
    readonly author: string;
  }[];
}

const TOP = 18;
const FOOT = 30;
const SHARE_ABOVE = 0.68;
/** Most people with a lane; the others share the last. */
const LANES = 8;

/** The frame for a line `height` pixels high; with lanes, one for each of the people with most words, in order of name. */
export function frameOf(height: number, arrangement: Arrangement, layout: Layout): Frame {
  const authors = arrangement === 'lanes' ? lanesOf(layout) : [''];
  const room = (height - TOP - FOOT) / Math.max(1, authors.length);
  const axes = authors.map((author, i) => {
    const [above, below] = [room * SHARE_ABOVE, room * (1 - SHARE_ABOVE)];
    return { author, y: TOP + i * room + above, above: above - 2, below: below - 2 };
  });
  return { bottom: height - FOOT, first: axes[0]?.y ?? height / 2, axes };
}

function lanesOf({ bars }: Layout): string[] {
  const words = new Map<string, number>();
  for (const { sitting } of bars)
    for (const { author, wordsIn, wordsOut } of sitting.shares)
      words.set(author, (words.get(author) ?? 0) + wordsIn + wordsOut);
  return [...words]
    .sort((a, b) => b[1] - a[1])
    .slice(0, LANES)
    .map(([author]) => author)
    .sort();
}

/** The parts of every bar of a layout, in its order. Heights grow with the root of the words, so that small sittings stay visible. */
export function partsOf(layout: Layout, { axes }: Frame, arrangement: Arrangement): Part[][] {
  const amounts = layout.bars.flatMap(({ sitting }) =>
    arrangement === 'lanes'
      ? sitting.shares.map(({ wordsIn, wordsOut }) => Math.max(wordsIn, wordsOut))
      : [Math.max(sitting.wordsIn, sitting.wordsOut)],
  );
  const most = usual(amounts);
  return layout.bars.map(({ sitting }) =>
    axes.flatMap((axis, i) =>
      (['wordsIn', 'wordsOut'] as const).flatMap((side) => {
        const shares = sitting.shares.filter(
          (share) =>
            share[side] > 0 &&
            (arrangement === 'stack' ||
              share.author === axis.author ||
              (i === axes.length - 1 && !axes.some(({ author }) => author === share.author))),
        );
        const all = shares.reduce((sum, share) => sum + share[side], 0);
        const room = side === 'wordsIn' ? axis.above : axis.below;
        const height = Math.sqrt(Math.min(1, all / most)) * room;
        let from = 0;
        return shares.map((share): Part => {
          const part = (share[side] / all) * height;
          from += part;
          return {
            author: share.author,
            y: side === 'wordsIn' ? axis.y - 1 - from : axis.y + 1 + from - part,
            height: Math.max(1, part),
            faded: side === 'wordsOut',
          };
        });
      }),
    ),
  );
}
