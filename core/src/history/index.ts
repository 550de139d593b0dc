export { Refusal, canonicalSteps, checkOutcome, checkPlace, readSteps, touchedBlocks } from './admit.js';
export { Ordering, checkSources, orderBatch } from './authority.js';
export type { Proposal, Verdict } from './authority.js';
export { Boundary } from './boundary.js';
export { REPLAY_BUDGET, applyBlockDelta, blockDelta, replayCost } from './checkpoint.js';
export type { BlockDelta } from './checkpoint.js';
export { compileSteps } from './compile.js';
export type { Compiled, Inserted, Match } from './compile.js';
export { CUT_RULES, dueCuts, nextLabel } from './cuts.js';
export type { Cut, CutCause, CutRules, Stamp } from './cuts.js';
export { applySteps } from './edit.js';
export type { Cause, Edit, Instance, Elsewhere, InstanceRange, MomentSource, Source } from './edit.js';
export { FormIndex } from './form-index.js';
export { formName } from './forms.js';
export type { Form, FormChange } from './forms.js';
export {
  appendEdit,
  cloneProvenance,
  decodeProvenance,
  encodeProvenance,
  handOf,
  insertedLengths,
  provenanceAt,
  startProvenance,
} from './provenance.js';
export type { Provenance, StoredProvenance } from './provenance.js';
export { besides, earnedFrom, earnedSources, quotedFrom, quotesOf } from './quotes.js';
export type { Quote, Quoted } from './quotes.js';
export { Crossing, keepCarried } from './rebase.js';
export { cancelled, undoneWith } from './reversals.js';
export type { Reversal } from './reversals.js';
export { mapOfJSON, mapsOf } from './step-maps.js';
export type { Acts } from './own-acts.js';
export { PlacedRuns } from './placed.js';
export { RunSequence } from './runs.js';
export type { PlacedRun, Run } from './placed.js';
export { longerSittings, single, sittings, sittingsOn } from './sittings.js';
export type { Share, Sitting, Trace } from './sittings.js';
export { tallyStep } from './tally.js';
export type { Tally } from './tally.js';
export { EDIT_SPAN, Gap, Writer } from './writer.js';
export type { AcceptedEdit } from './following.js';
export type { OwnCause, OwnSource, PendingEdit, SentEdit } from './pending.js';
export { revivedSeqs, undo, undoEdits } from './undo.js';
export { allOf, partOf } from './undoing.js';
export type { UndonePart, Undoing } from './undoing.js';
export type { TokenSource, Undo } from './undo.js';
