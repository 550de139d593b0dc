import { readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Figure } from './figures.js';
import { withUnit } from './figures.js';

/** A figure as it was written down, and when. */
interface Kept {
  readonly value: number;
  readonly on: string;
}

const FILE = fileURLToPath(new URL('../figures.json', import.meta.url));

/** Share of a figure by which it may be worse than what was written down before that is worth a word. */
const FALL = 0.2;
/** Below this much of its unit a difference says nothing, whatever its share: a millisecond, a hundredth. */
const LEAST: Readonly<Record<string, number>> = { ms: 5, '': 0.05 };

/** The figures last written down, by benchmark and name. */
export class Remembered {
  private constructor(private readonly kept: { [bench: string]: { [name: string]: Kept } }) {}

  static async read(): Promise<Remembered> {
    return new Remembered(
      JSON.parse(await readFile(FILE, 'utf8')) as { [bench: string]: { [name: string]: Kept } },
    );
  }

  /** In words how much worse a figure is than what was written down, where that is more than a fifth; else null. */
  fall(bench: string, figure: Figure): string | null {
    const before = this.kept[bench]?.[figure.name];
    if (!before) return null;
    const [worse, better] =
      figure.better === 'less' ? [figure.value, before.value] : [before.value, figure.value];
    const floor = LEAST[figure.unit] ?? 0;
    if (worse - better <= floor || worse <= better * (1 + FALL)) return null;
    return `fell: was ${withUnit(figure, before.value)} on ${before.on}`;
  }

  /** Puts figures down in place of what was known of their benchmark. */
  note(bench: string, figures: readonly Figure[]): void {
    const on = new Date().toISOString().slice(0, 10);
    this.kept[bench] = Object.fromEntries(
      figures.map(({ name, value }) => [name, { value: Number(value.toPrecision(3)), on }]),
    );
  }

  async write(): Promise<void> {
    await writeFile(FILE, `${JSON.stringify(this.kept, null, 2)}\n`);
  }
}
