/** Deepest nesting a document may have, in nodes. */
export const MAX_DEPTH = 48;

/** Deepest nesting of the JSON of an edit's steps: two levels for each node, and the step round them. */
export const MAX_STEP_DEPTH = MAX_DEPTH * 2 + 4;

/** Most objects and lists one edit's steps may hold. */
export const MAX_NODES = 100_000;

/** Most steps, and sources, of one edit: what has more is made several edits. */
export const MOST_STEPS = 2000;

/** Letters of JSON from which on the steps of an edit are parted among several: a message must hold at least one of them. */
export const MUCH_JSON = 2 ** 18;

/** Most tokens of a document that a file is read to: letters, and boundaries of blocks. */
export const MOST_TOKENS = 8 * 2 ** 20;
