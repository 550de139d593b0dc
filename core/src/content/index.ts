export { canonicalText, hasLoneSurrogate, isBounded } from './canonical.js';
export {
  ERASED_IMAGE,
  ERASED_RUN,
  FILLER,
  asTold,
  erasedAttrs,
  erasedLeaf,
  erasedMarks,
  erasedToken,
  isErased,
  saysSomething,
  told,
} from './erased.js';
export { IMAGE_PLACES, LONGEST_CAPTION } from './images.js';
export type { ImagePlace } from './images.js';
export { isNoteId, noteNumbers } from './notes.js';
export {
  LONGEST_RUNNING,
  PAGES_FIELD,
  PAGE_FIELD,
  PAPERS,
  USUAL_PAPER,
  WIDEST_MARGIN,
  paperOf,
  paperTold,
  readPaper,
  sheetOf,
} from './paper.js';
export type { Paper, PaperSize } from './paper.js';
export { INKS, SIZES, TYPEFACES, isSafeLink } from './marks.js';
export { readDocument, tellDocument, tellJson } from './json.js';
export { ALIGNMENTS } from './nodes.js';
export { SCHEMA_VERSION, blankDocument, textSchema } from './schema.js';
export type { Kind, TextMarks, TextNodes } from './schema.js';
export { eachSegment, segmentEnds, segments } from './segments.js';
export { isRectangular, raggedIn, rectangleSteps } from './tables.js';
export type { Added } from './tables.js';
export { childrenOf, inlineText, leafText, plainText, wordCount, wordsIn } from './text.js';
export { isPlain } from './unicode/latin.js';
export { unitsOf } from './units.js';
export { countWords, isWord } from './words.js';
export { finished } from './work.js';
export type { Work } from './work.js';
export {
  identityOf,
  insertedTokens,
  sameContent,
  sliceFromTokens,
  sliceTokens,
  tokensIn,
  tokensOf,
} from './tokens.js';
export type { Token } from './tokens.js';
