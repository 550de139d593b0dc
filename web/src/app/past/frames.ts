import type { WireEdit } from '@oxbow/contract';

/** How much of the writing one step of playing back takes. */
export type Pace = 'edit' | 'sentence' | 'sitting';

/** Edits that are shown as one step. */
export interface Frame {
  /** First and last of them, by index into the list of edits. */
  readonly start: number;
  readonly end: number;
}

/** Idle time that ends a sentence in hand, and a sitting. */
const PAUSES: Record<Pace, number> = { edit: -1, sentence: 20_000, sitting: 10 * 60_000 };
/** Typing that ends like this ends a sentence. */
const SENTENCE = /[.!?…。！？]["”’)\]]?\s*$/u;

/**
 * Edits gathered into steps of a pace: each alone; until a sentence ends or its writer pauses or changes; or until the
 * writing pauses.
 */
export function framesOf(edits: readonly WireEdit[], pace: Pace): Frame[] {
  const frames: Frame[] = [];
  let start = 0;
  for (let i = 0; i < edits.length; i++) {
    const [edit, next] = [edits[i] as WireEdit, edits[i + 1]];
    const paused = !next || next.acceptedAt - edit.acceptedAt > PAUSES[pace];
    const turned = pace === 'sentence' && next !== undefined && next.author !== edit.author;
    const ended = pace === 'sentence' && SENTENCE.test(typed(edit));
    if (!paused && !turned && !ended) continue;
    frames.push({ start, end: i });
    start = i + 1;
  }
  return frames;
}

/** The text that an edit's last step put in. */
function typed({ steps }: WireEdit): string {
  const last = steps.at(-1) as { slice?: { content?: unknown[] } } | undefined;
  return textIn(last?.slice?.content ?? []);
}

function textIn(nodes: readonly unknown[]): string {
  return nodes
    .map((node) => {
      const { text, content } = node as { text?: string; content?: unknown[] };
      return text ?? textIn(content ?? []);
    })
    .join('');
}
