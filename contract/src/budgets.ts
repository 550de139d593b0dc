import { MAX_NODES, MAX_STEP_DEPTH, MOST_STEPS, MOST_TOKENS } from '@oxbow/core/bounds';

/**
 * What one message, file or call may hold. More is answered with 413 or 422 and the name of the budget; whoever has honest
 * work beyond one sends it in parts.
 */
export const BUDGETS = {
  /** Bytes of one message on the live channel. */
  messageBytes: 2 ** 19,
  /** Edits, and steps and sources of all of them, in one message. */
  messageEdits: 400,
  messageSteps: 4000,
  messageSources: 4000,
  /** Other documents that sources of one message come from. */
  messageDocuments: 4,
  /** Moments that sources of one message come from, of each document, and bytes of the edits they name. */
  messageMoments: 40,
  sourceBytes: 8 * 2 ** 20,
  /** Steps and sources of one edit. */
  editSteps: MOST_STEPS,
  editSources: MOST_STEPS,
  /** Objects and lists in the steps of one edit, and how deep they may be nested. */
  editNodes: MAX_NODES,
  editDepth: MAX_STEP_DEPTH,
  /** How many position maps a stale message may have to be carried over, for each of its steps. */
  carriedMaps: 2000,
  /** Edits that a returning client is sent at once; it asks for more. */
  joinedEdits: 2000,
  /** Bytes of a call's JSON. */
  callBytes: 2 ** 20,
  /** Bytes of a file, and of an archive of a whole history. */
  fileBytes: 20 * 2 ** 20,
  archiveBytes: 256 * 2 ** 20,
  /** Tokens of a document that a file is read to: letters, and boundaries of blocks. */
  readTokens: MOST_TOKENS,
} as const;
