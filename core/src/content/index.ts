export { canonicalText, hasLoneSurrogate, isBounded, isRectangular } from './canonical.js';
export { INKS, SIZES, TYPEFACES, isSafeLink } from './marks.js';
export { ALIGNMENTS } from './nodes.js';
export { SCHEMA_VERSION, blankDocument, textSchema } from './schema.js';
export type { Kind, TextMarks, TextNodes } from './schema.js';
export { childrenOf, inlineText, leafText, plainText, wordCount } from './text.js';
export { countWords, eachSegment, isWord, segments } from './words.js';
export { insertedTokens, sameContent, sliceFromTokens, sliceTokens, tokensOf } from './tokens.js';
export type { Token } from './tokens.js';
