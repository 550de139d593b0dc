import type { Facts } from '../store/facts.js';

const MINUTE = 60_000;
/** The most by which the clock may be ahead of the time that went by, in milliseconds. */
const DRIFT = 15 * MINUTE;
/** The longest time for which a server may be stopped, or its machine asleep, before somebody has to say that the clock is right. */
const LONGEST_GAP = 2 * 24 * 60 * MINUTE;

/** Why nothing is deleted now: the clock went from one time to another while less time went by. */
interface Jump {
  readonly from: number;
  readonly to: number;
  /** The steady time at which it was found. */
  readonly at: number;
  /** By how much the clock may be ahead. */
  readonly allowed: number;
}

/**
 * Watches the clock, by which what is deleted for good is due. After it jumped forward nothing is: a jump of up to two days, which sleep may
 * be, is waited out; after a longer one somebody has to say that the clock is right (`npm run people -- clock`), or set it back.
 */
export class ClockWatch {
  private last: { readonly wall: number; readonly steady: number } | null = null;
  private jump: Jump | null = null;

  /** `say` hears of a jump. `wall` is the clock, `steady` goes on evenly whatever is done to it; both in milliseconds. */
  constructor(
    private readonly facts: Facts,
    private readonly say: (text: string) => void,
    private readonly wall: () => number = Date.now,
    private readonly steady: () => number = () => performance.now(),
  ) {}

  /** Whether what is due by the clock may be deleted for good now. */
  async isTrusted(): Promise<boolean> {
    const [wall, steady] = [this.wall(), this.steady()];
    if (this.jump) {
      if (!(await this.isOver(this.jump, wall, steady))) {
        // What time it would be: a restart goes on from there.
        await this.facts.keep('clock', String(this.jump.from + steady - this.jump.at));
        return false;
      }
      this.jump = null;
    } else {
      const stored = Number((await this.facts.get('clock')) ?? wall);
      const from = this.last ? this.last.wall + (steady - this.last.steady) : stored;
      const allowed = this.last ? DRIFT : LONGEST_GAP;
      if (wall - from > allowed) {
        this.jump = { from, to: wall, at: steady, allowed };
        this.say(saidOf(this.jump));
        return false;
      }
    }
    this.last = { wall, steady };
    await this.facts.keep('clock', String(wall));
    return true;
  }

  private async isOver({ from, to, at, allowed }: Jump, wall: number, steady: number): Promise<boolean> {
    const isBack = wall - (from + steady - at) <= allowed;
    const isConfirmed = Number((await this.facts.get('clock')) ?? 0) >= to;
    const isWaitedOut = to - from <= LONGEST_GAP && steady - at >= to - from;
    return isBack || isConfirmed || isWaitedOut;
  }
}

function saidOf({ from, to }: Jump): string {
  const [before, after] = [from, to].map((time) => new Date(time).toISOString());
  const isLong = to - from > LONGEST_GAP;
  const next = isLong
    ? 'until the clock is set back, or somebody says that it is right: npm run people -- clock'
    : 'until as much time has gone by';
  return `The clock went from ${before ?? ''} to ${after ?? ''} at once: nothing is deleted from the bin or by keeping rules ${next}`;
}
