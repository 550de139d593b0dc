/** Why a version was cut. */
export type CutCause =
  'beginning' | 'pause' | 'run' | 'restore' | 'filing' | 'assembly' | 'asked' | 'checkIn' | 'share';

/** When the system cuts a version by itself. Milliseconds and edits. */
export interface CutRules {
  /** A pause this long ends a sitting. */
  readonly pause: number;
  /** Writing without a pause is cut after this long … */
  readonly longest: number;
  /** … or after this many edits. */
  readonly edits: number;
}

export const CUT_RULES: CutRules = { pause: 10 * 60_000, longest: 60 * 60_000, edits: 400 };

/** An edit as far as cutting cares. */
export interface Stamp {
  readonly seq: number;
  readonly acceptedAt: number;
}

/** A version that is due: it ends with edit `seq`. */
export interface Cut {
  readonly seq: number;
  readonly at: number;
  readonly cause: 'pause' | 'run';
}

/**
 * The versions due among the edits since the last cut, up to `now`. The same edits give the same cuts whoever asks and
 * however often, so two servers never cut twice. The last stretch is cut only when its pause has passed.
 */
export function dueCuts(edits: readonly Stamp[], now: number, rules: CutRules = CUT_RULES): Cut[] {
  const cuts: Cut[] = [];
  let start = 0;
  for (let i = 0; i < edits.length; i++) {
    const edit = edits[i] as Stamp;
    const next = edits[i + 1]?.acceptedAt ?? now;
    const paused = next - edit.acceptedAt >= rules.pause;
    const long =
      edits[i + 1] !== undefined &&
      (next - (edits[start] as Stamp).acceptedAt >= rules.longest || i + 1 - start >= rules.edits);
    if (!paused && !long) continue;
    cuts.push({ seq: edit.seq, at: edit.acceptedAt, cause: paused ? 'pause' : 'run' });
    start = i + 1;
  }
  return cuts;
}

/** A version's label: "2.0" for a major version, counting up behind the point between them; the blank beginning is "0.0". */
export function nextLabel(last: string | null, major: boolean): string {
  if (last === null) return '0.0';
  const [whole = 0, part = 0] = last.split('.').map(Number);
  return major ? `${whole + 1}.0` : `${whole}.${part + 1}`;
}
