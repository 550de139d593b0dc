import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, Seq, Time, closed, nullable } from './primitives.js';

const Count = Type.Integer({ minimum: 0 });

/** Something that left a document and is nowhere in it now. */
export const RemovedPassage = Type.Object({
  text: Type.String({ description: 'blocks on lines of their own' }),
  words: Count,
  by: Id,
  first: Type.Integer({ description: 'the edit with which the first piece of it went' }),
  last: Type.Integer({ description: 'the edit with which the last piece went' }),
  at: Time,
  moment: Type.Integer({ description: 'the last moment at which all of it stood' }),
  from: Type.Integer({ description: 'where in the document of that moment' }),
  to: Type.Integer(),
  place: Type.Integer({ description: 'where in the present document it would stand' }),
  writers: Type.Array(Id),
});
export type RemovedPassage = Static<typeof RemovedPassage>;

/** What became of a stretch of a moment, and where in the present document it stands, or would stand. */
export const Whereabouts = Type.Object({
  seq: Type.Integer({ description: 'the edit that the present document was at' }),
  kind: Type.Union([Type.Literal('stands'), Type.Literal('changed'), Type.Literal('gone')]),
  from: Type.Integer({ description: 'where what is left of it stands; of what is gone, where it would' }),
  to: Type.Integer(),
});
export type Whereabouts = Static<typeof Whereabouts>;

/** Present text that holds some words. */
export const PresentPassage = Type.Object({ text: Type.String(), from: Type.Integer(), to: Type.Integer() });
export type PresentPassage = Static<typeof PresentPassage>;

export const RemovedPage = Type.Object({
  items: Type.Array(RemovedPassage),
  total: Count,
  present: Type.Array(PresentPassage, {
    description: 'with `q`: present text blocks that hold the words too',
  }),
  next: nullable(Type.String()),
});
export type RemovedPage = Static<typeof RemovedPage>;

export const PassageForm = Type.Object({
  seq: Seq,
  until: nullable(Type.Integer({ description: 'the edit that made it another one; null while it stands' })),
  turn: Type.Union([
    Type.Literal('written'),
    Type.Literal('copied'),
    Type.Literal('changed'),
    Type.Literal('split'),
    Type.Literal('joined'),
    Type.Literal('moved'),
    Type.Literal('removed'),
    Type.Literal('returned'),
  ]),
  text: Type.String(),
  with: Type.Array(Type.String(), { description: 'what was split off, or what it was joined with' }),
  by: Id,
  at: Time,
});
export type PassageForm = Static<typeof PassageForm>;

export const WordingTurn = Type.Object({ seq: Seq, by: Id, at: Time, wording: Type.String() });
export const Contest = Type.Object({
  one: Type.String(),
  other: Type.String(),
  turns: Type.Array(WordingTurn),
  passage: Type.String({ description: 'the passage as it reads now' }),
  position: Type.Integer({ description: 'where in the present document that stands' }),
});
export type Contest = Static<typeof Contest>;

/** The life of a passage, and the wording in it that went back and forth. */
export const PassageLife = Type.Object({
  forms: Type.Array(PassageForm),
  contests: Type.Array(Contest),
});
export type PassageLife = Static<typeof PassageLife>;

/** A word or phrase that stood at one place for a while. */
export const Appearance = Type.Object({
  came: Type.Object({ seq: Seq, by: Id, at: Time }),
  went: nullable(Type.Object({ seq: Seq, by: Id, at: Time })),
  before: Type.String(),
  match: Type.String(),
  after: Type.String(),
  position: Type.Integer({ description: 'where it stood in the document of the moment it came about' }),
});
export type Appearance = Static<typeof Appearance>;

/** One document's moments in which all of some terms were there. */
export const FoundInTime = Type.Object({
  document: Id,
  title: Type.String(),
  /** Stretches of its life, as first edit and first edit after; 0 is now. */
  moments: Type.Array(Type.Tuple([Type.Integer(), Type.Integer()])),
  terms: Type.Array(
    Type.Object({
      term: Type.String(),
      appearances: Type.Array(Appearance, { description: 'newest first' }),
      total: Count,
    }),
  ),
});
export type FoundInTime = Static<typeof FoundInTime>;

export const FoundPage = Type.Object({
  items: Type.Array(FoundInTime),
  next: nullable(Type.String({ description: 'cursor of more, where more documents may hold the words' })),
});
export type FoundPage = Static<typeof FoundPage>;

export const Contribution = Type.Object({
  person: Id,
  written: Type.Integer({ description: 'words they were the first to write' }),
  pasted: Type.Integer({ description: 'of those, words that came in at once' }),
  broughtBack: Type.Integer({ description: 'words of others or their own that they brought back or copied' }),
  kept: Type.Integer({ description: 'words written in the range that stand at its end' }),
  removed: Type.Integer(),
  sittings: Count,
  time: Type.Integer({ description: 'milliseconds of writing, from gaps' }),
  edits: Count,
});
export type Contribution = Static<typeof Contribution>;
export const Contributors = Type.Object({
  after: Seq,
  upTo: Seq,
  people: Type.Array(Contribution),
  days: Type.Array(
    Type.Object({
      day: Type.String({ description: 'yyyy-mm-dd, UTC' }),
      words: Type.Array(Type.Tuple([Id, Type.Integer()])),
    }),
  ),
});
export type Contributors = Static<typeof Contributors>;

export const LedgerEntry = Type.Object({
  from: Type.Integer(),
  to: Type.Integer(),
  seq: Seq,
  by: Id,
  at: Time,
  writer: Id,
});
export type LedgerEntry = Static<typeof LedgerEntry>;
export const Ledger = Type.Object({ seq: Seq, entries: Type.Array(LedgerEntry) });
export type Ledger = Static<typeof Ledger>;

/** How far somebody has looked at a document: everything up to `seq`, and of the walk since then some changes. */
export const Look = Type.Object({
  seq: Seq,
  at: nullable(Time),
  upTo: Type.Integer({ description: 'the end of the walk that is under way; 0 for none' }),
  seen: Type.Array(Type.Integer(), { description: 'changes of that walk that were seen' }),
});
export type Look = Static<typeof Look>;
export const LookInput = Type.Object(
  {
    seq: Seq,
    upTo: Type.Optional(Seq),
    seen: Type.Optional(Type.Array(Type.Integer({ minimum: 0 }), { maxItems: 5000 })),
  },
  closed,
);

/** What somebody asked to be told about: a document, or one passage of it. */
export const Watch = Type.Object({ id: Id, document: Id, passage: nullable(Type.String()), since: Seq });
export type Watch = Static<typeof Watch>;
export const WatchInput = Type.Object(
  {
    position: Type.Optional(
      Type.Integer({ minimum: 0, description: 'of the present document; without it, all of it' }),
    ),
  },
  closed,
);

/** Word of something that happened in a document. */
export const Notice = Type.Object({
  id: Id,
  document: Id,
  title: Type.String(),
  kind: Type.Union(
    [
      Type.Literal('changed'),
      Type.Literal('passage'),
      Type.Literal('lost'),
      Type.Literal('asked'),
      Type.Literal('erasure'),
    ],
    {
      description:
        'asked: somebody who does not have the document asks its owners for it; erasure: an owner is asked to agree to one',
    },
  ),
  by: Type.Array(Id),
  first: Type.Integer({ description: 'the edits it is about' }),
  last: Type.Integer(),
  at: Time,
  text: Type.String({
    description:
      'the passage watched, the start of what was lost, or what was said with the question; else empty',
  }),
  words: Type.Integer({ description: 'words lost, or words in and out' }),
  undo: Type.Array(Type.Integer(), { description: 'edits that taking back would bring the lost text back' }),
});
export type Notice = Static<typeof Notice>;
