import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Comment, Format, Id, MomentRef, Name, Seq, closed, nullable } from './primitives.js';

export const RestoreInput = Type.Object(
  {
    number: Type.Optional(Type.Integer({ minimum: 1 })),
    seq: Type.Optional(Seq),
    comment: Type.Optional(Comment),
  },
  { ...closed, minProperties: 1 },
);
/** A moment as a document of its own, which starts private to whoever makes it. */
export const CopyInput = Type.Object(
  {
    number: Type.Optional(Type.Integer({ minimum: 1 })),
    seq: Type.Optional(Seq),
    title: Name,
    collection: Type.Optional(nullable(Id)),
  },
  closed,
);
/** A copy against the document it came from: what only one of them changed is settled, the rest are conflicts. */
export const Homecoming = Type.Object({
  origin: Type.Object({ document: Id, title: Type.String(), moment: Seq, mayWrite: Type.Boolean() }),
  seq: Type.Integer({ description: 'the moment of the copy that was looked at' }),
  originSeq: Type.Integer({ description: 'the moment of the origin that was looked at' }),
  changes: Type.Integer({ description: 'changes to the origin when the copy wins every conflict' }),
  wordsAdded: Type.Integer(),
  wordsRemoved: Type.Integer(),
  gist: Type.String(),
  conflicts: Type.Array(
    Type.Object({
      id: Type.Integer(),
      kind: Type.Union([
        Type.Literal('text'),
        Type.Literal('whole'),
        Type.Literal('blocks'),
        Type.Literal('form'),
        Type.Literal('place'),
      ]),
      base: Type.String({
        description:
          'as it was when the copy was made; of a place: what stood before it, empty for the beginning',
      }),
      origin: Type.String(),
      copy: Type.String(),
      about: Type.Optional(
        Type.String({ description: 'what was put in different places, or given different forms' }),
      ),
      where: Type.Optional(
        Type.String({ description: 'of sheets and slides: the cell, row, column or slide' }),
      ),
    }),
  ),
});
export type Homecoming = Static<typeof Homecoming>;
export const HomecomingInput = Type.Object(
  {
    seq: Seq,
    originSeq: Seq,
    settled: Type.Array(
      Type.Object(
        {
          id: Type.Integer({ minimum: 0 }),
          take: Type.Union([
            Type.Literal('base'),
            Type.Literal('origin'),
            Type.Literal('copy'),
            Type.Literal('both'),
          ]),
        },
        closed,
      ),
      { maxItems: 5000 },
    ),
    comment: Type.Optional(Comment),
  },
  closed,
);
export type HomecomingInput = Static<typeof HomecomingInput>;
/**
 * What is taken back: edits by number, all that were made after one moment up to another, by one person or by all, or one
 * change between two moments.
 */
export const TakeBackInput = Type.Object(
  {
    seq: Type.Optional(Type.Integer({ minimum: 1 })),
    seqs: Type.Optional(Type.Array(Type.Integer({ minimum: 1 }), { minItems: 1, maxItems: 5000 })),
    after: Type.Optional(Seq),
    upTo: Type.Optional(Seq),
    person: Type.Optional(Id),
    change: Type.Optional(
      Type.Object(
        {
          earlier: Seq,
          later: Seq,
          id: Type.Integer({ minimum: 0 }),
          group: Type.Optional(Type.Boolean({ description: 'with all changes of the group it belongs to' })),
        },
        { ...closed, description: 'one change of a comparison of two moments' },
      ),
    ),
    comment: Type.Optional(Comment),
  },
  { ...closed, minProperties: 1 },
);
export type TakeBackInput = Static<typeof TakeBackInput>;
/** What taking back would do to the present document. */
export const TakeBackPreview = Type.Object({
  edits: Type.Integer(),
  people: Type.Array(Id),
  changes: Type.Integer(),
  wordsAdded: Type.Integer(),
  wordsRemoved: Type.Integer(),
  gist: Type.String(),
  conflict: nullable(
    Type.Object(
      { before: Type.String(), now: Type.String(), after: Type.String() },
      {
        description: 'where it cannot be done cleanly: the text before those edits, now, and as it would be',
      },
    ),
  ),
});
export type TakeBackPreview = Static<typeof TakeBackPreview>;
const Decision = Type.Union([Type.Literal('earlier'), Type.Literal('later'), Type.Literal('both')]);
/** What is made of a comparison, change by change. */
const assembly = {
  earlier: MomentRef,
  later: MomentRef,
  with: Type.Optional(
    Type.String({ maxLength: 40, description: 'another document that `earlier` is a moment of' }),
  ),
  decisions: Type.Array(Type.Object({ change: Type.Integer({ minimum: 0 }), take: Decision }, closed), {
    maxItems: 50_000,
  }),
  otherwise: Type.Optional(Decision),
};
export const AssemblyInput = Type.Object(
  { ...assembly, comment: Type.Optional(Comment), major: Type.Optional(Type.Boolean()) },
  closed,
);
export type AssemblyInput = Static<typeof AssemblyInput>;
/** The same as a document of its own. */
export const AsideInput = Type.Object(
  { ...assembly, title: Name, collection: Type.Optional(nullable(Id)) },
  closed,
);
export type AsideInput = Static<typeof AsideInput>;
/** The same as a file. */
export const AssembledFileInput = Type.Object({ ...assembly, format: Format }, closed);
export type AssembledFileInput = Static<typeof AssembledFileInput>;
