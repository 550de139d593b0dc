export { PICTURES, anything } from './anything.js';
export * as build from './build.js';
export { document, prose, revised, sentence, word } from './documents.js';
export { noisyPng } from './png.js';
export { Random } from './random.js';
export { change, tokensOfEdits, writeHistory } from './writers.js';
export type { History, Mix } from './writers.js';
export { blockTexts, writePast } from './pasts.js';
export type { Past } from './pasts.js';
