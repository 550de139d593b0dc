/**
 * What comparing takes for the same, for moved, for edited: everything that is a judgement of ours and not an algorithm's. Each
 * was set, and is kept, by the pairs of texts that people judged in `judged.spec.ts` (common practice, no source); shares are of
 * words, 0 to 1. What bounds the work instead stands with the algorithm that it bounds.
 */

/** How alike two nodes are. */
export const LIKENESS = {
  /** Below this two blocks are not the same one. Half the words replaced still leaves more. */
  same: 0.3,
  /** A text block that was emptied, or filled, is likely the same one, where nothing is more alike. */
  emptied: 0.3,
  /** Most words of two blocks of one kind that are the same one though they share none, where both stand alone between kept neighbours. */
  alone: 4,
  /** From this on a word that occurs once on both sides makes its blocks an anchor. */
  anchor: 0.5,
  /** A list or table that holds this many words at least, of which this share stands in a longer one, is the same one grown. */
  grownWords: 4,
  grownShare: 0.8,
  /** How alike it counts as then. */
  grown: 0.5,
  /** From this on two columns are the same one. */
  column: 0.5,
  /** Share of a block's words that must come from the other's rest for it to be a part that was split off. */
  split: 0.7,
} as const;

/** What is told as moved or copied. Fewer words are in two places by chance. */
export const MOVED = {
  /** Fewest words for which a block that left one place and came to another is called moved. */
  blockWords: 3,
  /** Fewest words, and likeness, for which it may have been edited on its way. */
  editedWords: 4,
  editedLikeness: 0.6,
  /** Fewest words for which text that left one paragraph and came to another is called moved. */
  textWords: 4,
  /** The same where something else came in its old place, or went from its new one, and the fewest positions of such a text. */
  filledWords: 6,
  filledSize: 24,
  /** Fewest words for which a block that stands elsewhere too is called a copy. */
  copyWords: 5,
} as const;

/**
 * What is taken for moved where three documents are brought together. Less is enough there than to tell a reader of it: what is not
 * found again where one side put it stands twice when the other side wrote in it.
 */
export const BROUGHT = { blockWords: 1, editedWords: 1, editedLikeness: LIKENESS.same } as const;

/** How changes are told so that they can be read. */
export const TOLD = {
  /** Longest kept stretch, in words, that two replacements round it may swallow. */
  island: 3,
  /** From so many places on, and up to so many words, one replacement made again and again is told as a rename. */
  renamed: 3,
  renamedWords: 3,
  /** Letters of a text in a gist. */
  gistLetters: 48,
} as const;
