import * as formulas from '@formulajs/formulajs';
import parser from 'fast-formula-parser';
import type { Argument } from 'fast-formula-parser';

const { FormulaError } = parser;

type Call = (...args: (Argument | null)[]) => unknown;

/** Functions of chance, and of what others serve: what they give would be another each time it is looked at. */
const FLEETING = ['RAND', 'RANDBETWEEN', 'RANDARRAY', 'WEBSERVICE', 'FILTERXML'];

/** A function of the parser that is not what ISO/IEC 29500-1 says of it: another is taken in its place. */
const ASKEW = 'TRIM';

/** Names that ISO/IEC 29500-1, 18.17.7, has for functions that were parted since. */
const PARTED: Readonly<Record<string, string>> = {
  MODE: 'MODE.SNGL',
  PERCENTILE: 'PERCENTILE.INC',
  PERCENTRANK: 'PERCENTRANK.INC',
  QUARTILE: 'QUARTILE.INC',
  RANK: 'RANK.EQ',
  STDEV: 'STDEV.S',
  STDEVP: 'STDEV.P',
  VAR: 'VAR.S',
  VARP: 'VAR.P',
  COVAR: 'COVARIANCE.P',
};

/**
 * The functions that the parser lacks, by name, in upper case. `now` gives the day and time that formulas go by, as a number; without one those that
 * ask for it are not known.
 */
export function furtherFunctions(known: readonly string[], now: () => number | null): Record<string, Call> {
  const has = new Set(known.filter((name) => name !== ASKEW));
  const out: Record<string, Call> = {};
  const add = (name: string, call: unknown): void => {
    if (typeof call === 'function' && !has.has(name))
      out[name] = wrapped(call as (...args: unknown[]) => unknown);
  };
  for (const [name, call] of Object.entries(formulas as unknown as Record<string, object | null>)) {
    if (!call || !/^[A-Z][A-Z0-9]*$/.test(name)) continue;
    add(name, call);
    for (const [part, within] of Object.entries(call)) add(`${name}.${part}`, within);
  }
  for (const [name, part] of Object.entries(PARTED)) if (!has.has(name) && out[part]) out[name] = out[part];
  out['CHOOSE'] = chosen;
  const none = (): never => {
    throw new FormulaError('#NAME?');
  };
  for (const name of FLEETING) out[name] = none;
  out['NOW'] = () => now() ?? none();
  out['TODAY'] = () => Math.floor(now() ?? none());
  return out;
}

/** The parser's own takes no text. It is called with what is round it first. */
function chosen(_round: unknown, index: Argument | null, ...options: (Argument | null)[]): unknown {
  const value = Number(index?.value ?? 0);
  const option = options[Math.trunc(value) - 1];
  return option === undefined ? new FormulaError('#VALUE!') : (option?.value ?? null);
}

/** A function on plain values; what it gives as an error is one of the parser's. */
function wrapped(call: (...args: unknown[]) => unknown): Call {
  return (...args) => {
    const plain = args.map((arg) => arg?.value ?? null);
    const faulty = plain.flat(2).find((value) => value instanceof FormulaError);
    if (faulty) return faulty;
    const value = call(...plain);
    return value instanceof Error ? new FormulaError(value.message) : value;
  };
}
