import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, MomentRef, Seq, Time, closed, nullable } from './primitives.js';
import { FEWEST_KEPT, LEAST_SOUGHT, MOST_DAYS, MOST_KEPT } from './plain.js';
import { Version } from './shapes.js';

export const Grain = Type.Union([
  Type.Literal('sitting'),
  Type.Literal('day'),
  Type.Literal('week'),
  Type.Literal('month'),
]);
export type Grain = Static<typeof Grain>;

export const KeepingRule = Type.Object(
  {
    keep: Type.Union([Type.Literal('everything'), Type.Literal('last'), Type.Literal('thinned')], {
      description:
        'every version, the last so many, or all for so many days and then one a sitting, day, week or month',
    }),
    last: Type.Optional(Type.Integer({ minimum: FEWEST_KEPT, maximum: MOST_KEPT })),
    days: Type.Optional(Type.Integer({ minimum: 0, maximum: MOST_DAYS })),
    each: Type.Optional(Grain),
    cut: Type.Union([Type.Literal('pauses'), Type.Literal('asked')], {
      description: 'whether versions are cut at pauses, or only when somebody asks',
    }),
    numbers: Type.Union([Type.Literal('minor'), Type.Literal('major')], {
      description: 'whether versions are numbered 1.1, 1.2, … or 1, 2, …',
    }),
    checkOut: Type.Boolean({ description: 'whether documents are checked out to be written in' }),
  },
  closed,
);
export type KeepingRule = Static<typeof KeepingRule>;

export const KeptBy = Type.Object(
  {
    rule: KeepingRule,
    from: Type.Union([Type.Literal('document'), Type.Literal('collection'), Type.Literal('nobody')], {
      description: 'where the rule is set that counts',
    }),
    by: nullable(Id),
    at: nullable(Time),
    maySet: Type.Boolean(),
    waits: Type.Boolean({ description: 'whether versions go by it only when a second owner agrees' }),
    mayAgree: Type.Boolean({
      description: 'whether the caller is an owner who can agree, by setting the same rule',
    }),
  },
  { description: 'How a document or a collection is kept, and who said so' },
);
export type KeptBy = Static<typeof KeptBy>;

/** A rule to set; null takes back what was set, so that what is inherited counts. */
export const RuleInput = Type.Object({ rule: nullable(KeepingRule) }, closed);

export const RulePreview = Type.Object(
  {
    documents: Type.Array(
      Type.Object({
        document: Id,
        title: Type.String(),
        versions: Type.Integer({ description: 'how many there are' }),
        go: Type.Array(
          Type.Object({ number: Type.Integer(), label: Type.String(), at: Time, gist: Type.String() }),
        ),
        letters: Type.Integer({ description: 'letters that no kept version shows' }),
      }),
    ),
  },
  { description: 'What would go now under a rule, document by document' },
);
export type RulePreview = Static<typeof RulePreview>;

export const Discard = Type.Object({ version: Version, at: Time, by: Id });
export type Discard = Static<typeof Discard>;

export const Thinning = Type.Object(
  {
    id: Id,
    at: Time,
    by: Id,
    rule: KeepingRule,
    versions: Type.Array(Type.Object({ number: Type.Integer(), label: Type.String(), seq: Seq, at: Time })),
  },
  { description: 'Versions that went by a rule, and whose rule that was' },
);
export type Thinning = Static<typeof Thinning>;

/** Kinds of number that can be looked for without giving one. */
export const NumberKind = Type.Union([Type.Literal('account'), Type.Literal('card')], {
  description: 'account numbers (ISO 13616), or card numbers (ISO/IEC 7812); both by their check digits',
});
export type NumberKind = Static<typeof NumberKind>;

export const ErasureWish = Type.Object(
  {
    find: Type.Optional(
      Type.String({
        minLength: LEAST_SOUGHT,
        maxLength: 200,
        description: 'words, wherever they ever stood',
      }),
    ),
    numbers: Type.Optional(NumberKind),
    passage: Type.Optional(
      Type.Object(
        { moment: Seq, from: Type.Integer({ minimum: 0 }), to: Type.Integer({ minimum: 1 }) },
        closed,
      ),
    ),
    versions: Type.Optional(
      Type.Array(Type.Integer({ minimum: 1 }), {
        minItems: 1,
        maxItems: 100,
        description: 'what only these versions, discarded ones too, show',
      }),
    ),
    from: Type.Optional(MomentRef),
    to: Type.Optional(MomentRef),
    person: Type.Optional(Id),
    image: Type.Optional(Type.String({ pattern: '^[0-9a-f]{64}$' })),
  },
  {
    ...closed,
    description:
      'what is to be erased: one of these; `from`, `to` and `person` are what one person wrote behind one moment up to another',
  },
);
export type ErasureWish = Static<typeof ErasureWish>;

/** Kinds of place, beside documents' text, that hold words. */
export const HoldingPlace = Type.Union([
  Type.Literal('comment'),
  Type.Literal('title'),
  Type.Literal('landmark'),
  Type.Literal('notice'),
  Type.Literal('file'),
  Type.Literal('name'),
  Type.Literal('message'),
]);
export type HoldingPlace = Static<typeof HoldingPlace>;

const Counts = Type.Object({
  letters: Type.Integer(),
  images: Type.Integer(),
  edits: Type.Integer(),
  versions: Type.Integer(),
});

export const ErasedDocument = Type.Composite([
  Type.Object({
    document: Id,
    title: Type.String(),
    by: Type.Union([Type.Literal('origin'), Type.Literal('words')], {
      description: 'whether it holds the very text, or the same words written anew',
    }),
    now: Type.Boolean({ description: 'whether it stands there now' }),
    numbers: Type.Array(Type.Integer(), { description: 'the versions that hold it' }),
    asks: Type.Boolean({ description: 'whether it is erased there only when an owner agrees, who is asked' }),
  }),
  Counts,
]);
export type ErasedDocument = Static<typeof ErasedDocument>;

export const ErasurePreview = Type.Object(
  {
    id: Id,
    /** What it is, as far as it is text, so that whoever erases sees it once more. */
    texts: Type.Array(Type.String()),
    documents: Type.Array(ErasedDocument),
    places: Type.Array(Type.Object({ place: HoldingPlace, times: Type.Integer() })),
    sent: Type.Integer({ description: 'messages with it that went out' }),
    needsSecond: Type.Boolean({ description: 'whether another owner has to agree' }),
  },
  { description: 'What would be erased, and everything that holds it' },
);
export type ErasurePreview = Static<typeof ErasurePreview>;

export const ErasureInput = Type.Object(
  { preview: Id, reason: Type.String({ minLength: 1, maxLength: 500, pattern: '\\S' }) },
  closed,
);

export const Certificate = Type.Object(
  {
    id: Id,
    state: Type.Union([
      Type.Literal('asked'),
      Type.Literal('running'),
      Type.Literal('done'),
      Type.Literal('declined'),
    ]),
    by: Id,
    agreed: nullable(Id),
    reason: Type.String(),
    at: Time,
    done: nullable(Time),
    seq: nullable(Seq),
    documents: Type.Array(ErasedDocument),
    places: Type.Array(Type.Object({ place: HoldingPlace, times: Type.Integer() })),
    sent: Type.Integer(),
    checked: nullable(
      Type.Object(
        {
          at: Time,
          rows: Type.Integer(),
          files: Type.Integer(),
          found: Type.Integer(),
          archives: Type.Boolean({
            description: 'whether the database keeps a log of writes of its own, which may still hold it',
          }),
        },
        {
          description:
            'the search for it afterwards: how many rows and files were read, and where it was still found',
        },
      ),
    ),
    mayAgree: Type.Boolean(),
    texts: Type.Array(Type.String(), { description: 'what it reads, for owners who are asked to agree' }),
    askedOf: Type.Array(Id, { description: 'who may agree, where it is asked for' }),
  },
  { description: 'What was erased, without the text' },
);
export type Certificate = Static<typeof Certificate>;
