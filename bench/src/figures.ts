/** What a benchmark found: a number that is remembered from one run to the next. */
export interface Figure {
  /** What was measured. It is remembered by this name. */
  readonly name: string;
  readonly value: number;
  /** What it is counted in; empty for a ratio. */
  readonly unit: string;
  /** Digits behind the point that mean something. */
  readonly digits: number;
  readonly better: 'less' | 'more';
  /** What it should be at most, or at least where more is better. */
  readonly goal?: number;
  /** What the figure was made of. */
  readonly note: string;
}

type Told = Partial<Pick<Figure, 'unit' | 'digits' | 'goal' | 'note'>>;

/** A figure that should be small. */
export function less(name: string, value: number, told: Told = {}): Figure {
  return { unit: '', digits: 2, note: '', ...told, name, value, better: 'less' };
}

/** A figure that should be large. */
export function more(name: string, value: number, told: Told = {}): Figure {
  return { unit: '', digits: 2, note: '', ...told, name, value, better: 'more' };
}

/** Whether a figure keeps its goal; true where it has none. */
export function isMet({ value, goal, better }: Figure): boolean {
  return goal === undefined || (better === 'less' ? value <= goal : value >= goal);
}

/** A figure in words, with its goal. */
export function inWords(figure: Figure): string {
  const { name, goal, better, note } = figure;
  const kept = isMet(figure) ? '' : ', MISSED';
  const aim =
    goal === undefined
      ? []
      : [`goal at ${better === 'less' ? 'most' : 'least'} ${withUnit(figure, goal)}${kept}`];
  const aside = [...(note ? [note] : []), ...aim].join('; ');
  return `${name}: ${withUnit(figure)}${aside ? ` (${aside})` : ''}`;
}

/** The value, or another of its kind, with its unit. */
export function withUnit({ unit, digits, value, goal }: Figure, other = value): string {
  const number = other.toLocaleString(
    'en',
    other === goal ? {} : { minimumFractionDigits: digits, maximumFractionDigits: digits },
  );
  return unit ? `${number} ${unit}` : number;
}
