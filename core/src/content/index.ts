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
  spoken,
  told,
  untold,
  withErased,
} from './erased.js';
export { readDocument, tellDocument, tellJson } from './json.js';
export { eachSegment, segmentEnds, segments } from './segments.js';
export { isRectangular, rectangular } from './tables.js';
export { childrenOf, inlineText, leafText, plainText, shortened, wordCount, wordsIn } from './text.js';
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
export { sharedEnds } from './ends.js';
export {
  brokenIn,
  familyOf,
  faultOf,
  mendingSteps,
  picturesIn,
  proseOf,
  roleOf,
  traitsOf,
} from './traits.js';
export type { Added, Role, Standing, Traits, Wholeness } from './traits.js';
