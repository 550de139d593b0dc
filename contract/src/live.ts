import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { BUDGETS } from './budgets.js';
import { Id, Seq, closed } from './primitives.js';
import { Cause } from './shapes.js';

const Count = Type.Integer({ minimum: 0, maximum: 2 ** 30 });
const ClientId = Type.String({ minLength: 6, maxLength: 32, pattern: '^[A-Za-z0-9_-]+$' });

const Slice = Type.Object(
  {
    content: Type.Optional(Type.Array(Type.Unknown())),
    openStart: Type.Optional(Count),
    openEnd: Type.Optional(Count),
  },
  closed,
);
const Mark = Type.Object(
  { type: Type.String(), attrs: Type.Optional(Type.Record(Type.String(), Type.Unknown())) },
  closed,
);

/** Steps as ProseMirror writes them; only these five kinds are taken. */
export const WireStep = Type.Union([
  Type.Object(
    {
      stepType: Type.Literal('replace'),
      from: Count,
      to: Count,
      slice: Type.Optional(Slice),
      structure: Type.Optional(Type.Boolean()),
    },
    closed,
  ),
  Type.Object(
    {
      stepType: Type.Literal('replaceAround'),
      from: Count,
      to: Count,
      gapFrom: Count,
      gapTo: Count,
      insert: Count,
      slice: Type.Optional(Slice),
      structure: Type.Optional(Type.Boolean()),
    },
    closed,
  ),
  Type.Object({ stepType: Type.Literal('addMark'), mark: Mark, from: Count, to: Count }, closed),
  Type.Object({ stepType: Type.Literal('removeMark'), mark: Mark, from: Count, to: Count }, closed),
  Type.Object(
    {
      stepType: Type.Literal('attr'),
      pos: Count,
      attr: Type.String({ maxLength: 40 }),
      value: Type.Union([
        Type.String({ maxLength: 4000 }),
        Type.Number(),
        Type.Boolean(),
        Type.Null(),
        Type.Array(Type.Number(), { maxItems: 100 }),
      ]),
    },
    closed,
  ),
]);

const placed = { step: Count, at: Count, length: Type.Integer({ minimum: 1, maximum: 2 ** 30 }) };

/**
 * Where returning content comes from: an accepted edit, a place in a moment, of this document or of another one that the writer may
 * read, or an edit of the same client by its counter.
 */
export const SourceRef = Type.Union([
  Type.Object({ ...placed, seq: Seq, offset: Count }, closed),
  Type.Object({ ...placed, moment: Seq, position: Count, document: Type.Optional(Id) }, closed),
  Type.Object({ ...placed, counter: Count, offset: Count }, closed),
]);
export type SourceRef = Static<typeof SourceRef>;

export const ProposedEdit = Type.Object(
  {
    counter: Count,
    steps: Type.Array(WireStep, { minItems: 1, maxItems: BUDGETS.editSteps }),
    sources: Type.Array(SourceRef, { maxItems: BUDGETS.editSources }),
    writtenAt: Type.Integer({ minimum: 0 }),
    cause: Type.Union([
      Type.Object({ kind: Type.Literal('writing') }, closed),
      Type.Object({ kind: Type.Literal('undo'), of: Type.Array(Count, { maxItems: 1000 }) }, closed),
      Type.Object({ kind: Type.Literal('redo'), of: Type.Array(Count, { maxItems: 1000 }) }, closed),
      Type.Object({ kind: Type.Literal('carry'), moment: Seq }, closed),
    ]),
  },
  closed,
);
export type ProposedEdit = Static<typeof ProposedEdit>;

export const JoinMessage = Type.Object({ document: Id, since: Type.Optional(Seq) }, closed);
export type JoinMessage = Static<typeof JoinMessage>;

export const EditsMessage = Type.Object(
  {
    document: Id,
    client: ClientId,
    base: Seq,
    edits: Type.Array(ProposedEdit, { minItems: 1, maxItems: BUDGETS.messageEdits }),
  },
  closed,
);
export type EditsMessage = Static<typeof EditsMessage>;

export const PresenceMessage = Type.Object(
  { document: Id, client: ClientId, seq: Seq, anchor: Count, head: Count },
  closed,
);
export type PresenceMessage = Static<typeof PresenceMessage>;

export const LeaveMessage = Type.Object({ document: Id }, closed);

/** An accepted edit as it goes out to everyone who has the document open. */
export interface WireEdit {
  readonly seq: number;
  readonly author: string;
  readonly acceptedAt: number;
  readonly writtenAt: number;
  readonly client: string;
  readonly counter: number;
  readonly schema: number;
  readonly steps: readonly Static<typeof WireStep>[];
  readonly sources: readonly {
    step: number;
    at: number;
    seq: number;
    offset: number;
    length: number;
    /** Where it is of another document: which, and who wrote it there. */
    of?: { document: string; writer: string };
  }[];
  readonly cause: Static<typeof Cause>;
  readonly wordsIn: number;
  readonly wordsOut: number;
}

export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problem: import('./shapes.js').Problem };

/** Answer to `join`: the whole document, or, to one who has been here, what was accepted since. */
export interface Joined {
  readonly seq: number;
  readonly content: unknown;
  readonly edits: readonly WireEdit[];
  readonly title: string;
  readonly role: import('./shapes.js').Role;
  readonly history: import('./shapes.js').HistoryReach;
  /** How often something was erased in the document: whoever has it from before has to fetch it anew. */
  readonly erased: number;
  readonly here: readonly Presence[];
}

/** Answer to `edits`, one a proposal: the seq it was accepted under, or null and why nothing of it was taken. */
export interface Accepted {
  readonly results: readonly {
    readonly counter: number;
    readonly seq: number | null;
    readonly refusal?: { path: string; message: string };
  }[];
}

export interface Presence {
  readonly person: string;
  readonly client: string;
  readonly seq: number;
  readonly anchor: number;
  readonly head: number;
}

export interface ClientToServer {
  join(message: JoinMessage, answer: (answer: Answer<Joined>) => void): void;
  leave(message: Static<typeof LeaveMessage>): void;
  edits(message: EditsMessage, answer: (answer: Answer<Accepted>) => void): void;
  presence(message: PresenceMessage): void;
}

export interface ServerToClient {
  edits(message: { document: string; edits: readonly WireEdit[] }): void;
  presence(message: Presence & { document: string }): void;
  left(message: { document: string; client: string }): void;
  /** A version was cut. */
  version(message: { document: string; version: import('./shapes.js').Version }): void;
  /** Versions are gone, or are there again. */
  versions(message: { document: string }): void;
  /** Something was erased: what whoever hears this has of the document is to be fetched anew. */
  erased(message: { document: string }): void;
  /** A moment was named, or a name changed or taken off. */
  landmarks(message: { document: string }): void;
  /** There is a new notice for whoever hears this, or one grew. */
  notice(message: { document: string }): void;
  /** Something on the shelf changed: a document, a collection, a share. */
  shelf(message: { document?: string }): void;
  /** The share of whoever hears this ended. */
  revoked(message: { document: string }): void;
}
