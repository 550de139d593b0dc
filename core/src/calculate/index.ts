export { Calculation } from './calculation.js';
export { CYCLE, Fault, formatTyped, isDay, shownValue, valueOf } from './values.js';
export type { Value } from './values.js';
