import type { Static, TSchema } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Comment, Id, Name, Seq, Time, closed, nullable } from './primitives.js';

/** Problem details after RFC 9457; `errors` names the fields that were wrong. */
export const Problem = Type.Object(
  {
    type: Type.String(),
    title: Type.String(),
    status: Type.Integer(),
    detail: Type.Optional(Type.String()),
    errors: Type.Optional(Type.Array(Type.Object({ path: Type.String(), message: Type.String() }))),
  },
  { $id: 'Problem' },
);
export type Problem = Static<typeof Problem>;

export const Role = Type.Union([
  Type.Literal('owner'),
  Type.Literal('editor'),
  Type.Literal('commenter'),
  Type.Literal('viewer'),
]);
export type Role = Static<typeof Role>;

export const HistoryReach = Type.Union([Type.Literal('all'), Type.Literal('since'), Type.Literal('none')], {
  description:
    'how far back somebody may look: to the beginning, to the day it was shared with them, or not at all',
});
export type HistoryReach = Static<typeof HistoryReach>;

export const Person = Type.Object({
  id: Id,
  name: Type.String(),
  initials: Type.String(),
  /** Index into the palette of person colours. */
  colour: Type.Integer(),
});
export type Person = Static<typeof Person>;

export const Claim = Type.Object(
  {
    person: Id,
    name: Type.String(),
    address: Type.String(),
    like: nullable(Type.String({ description: 'the person here who has that address' })),
    vouched: nullable(Type.Object({ by: Id, at: Time })),
  },
  { description: 'Somebody whom an archive or a message names in a document, and who vouched for them' },
);
export type Claim = Static<typeof Claim>;
export const Claims = Type.Object({
  items: Type.Array(Claim),
  mayVouch: Type.Boolean({ description: 'whether one is an owner, who may vouch for them' }),
});
export type Claims = Static<typeof Claims>;

export const DemoPerson = Type.Composite([
  Person,
  Type.Object({ email: Type.String(), about: Type.String() }),
]);
export type DemoPerson = Static<typeof DemoPerson>;

export const Credentials = Type.Object(
  {
    email: Type.String({ minLength: 3, maxLength: 200 }),
    password: Type.String({ minLength: 1, maxLength: 200 }),
  },
  closed,
);
export type Credentials = Static<typeof Credentials>;

export const SignedIn = Type.Object(
  {
    id: Id,
    begun: Time,
    seen: Time,
    agent: Type.String({ description: 'what the browser said of itself' }),
    current: Type.Boolean({ description: 'whether it is the one that asks' }),
  },
  { description: 'A place where one is signed in' },
);
export type SignedIn = Static<typeof SignedIn>;

export const PasswordChange = Type.Object(
  {
    current: Type.String({ minLength: 1, maxLength: 200 }),
    password: Type.String({ minLength: 1, maxLength: 200 }),
  },
  closed,
);
export type PasswordChange = Static<typeof PasswordChange>;

/** A collection of documents, and how one has it: owners rename, share and delete it, editors put documents into it. */
export const Collection = Type.Object({ id: Id, name: Type.String(), role: Role });
export type Collection = Static<typeof Collection>;
export const CollectionInput = Type.Object({ name: Name }, closed);

/** A bar of the small tideline on the shelf: a span of the document's life, by person. */
export const GaugeBar = Type.Object({
  at: Type.Integer({ description: 'milliseconds since the epoch' }),
  shares: Type.Array(Type.Tuple([Id, Type.Integer(), Type.Integer()]), {
    description: 'person, words in, words out',
  }),
});
export type GaugeBar = Static<typeof GaugeBar>;

/** Who has a document checked out; nobody, or where it is not asked for, none at all. */
export const CheckOut = Type.Object({ by: nullable(Id), since: nullable(Time) });
export type CheckOut = Static<typeof CheckOut>;

/** What kind of document it is. */
export const Kind = Type.Union([Type.Literal('text'), Type.Literal('sheet'), Type.Literal('deck')]);
export type Kind = Static<typeof Kind>;

export const DocumentSummary = Type.Object({
  id: Id,
  kind: Kind,
  title: Type.String(),
  collection: nullable(Id),
  seq: Seq,
  version: Type.Integer(),
  role: Role,
  history: HistoryReach,
  createdAt: Time,
  changedAt: Time,
  changedBy: Id,
  gauge: Type.Array(GaugeBar),
  fresh: Type.Object(
    {
      sittings: Type.Integer(),
      people: Type.Array(Id),
      wordsIn: Type.Integer(),
      wordsOut: Type.Integer(),
    },
    { description: 'what others wrote since one last looked' },
  ),
  watched: Type.Boolean({ description: 'whether one watches it, or a passage of it' }),
  checkOut: nullable(CheckOut),
  erased: Type.Integer({ description: 'how often something was erased in it' }),
});
export type DocumentSummary = Static<typeof DocumentSummary>;

/** A document of one's own in the bin. */
export const BinnedDocument = Type.Object({
  id: Id,
  title: Type.String(),
  binned: Time,
  goes: Type.Object(
    { at: Time, people: Type.Integer() },
    { description: 'when it is deleted for good by itself, and how many people beside oneself had it' },
  ),
});
export type BinnedDocument = Static<typeof BinnedDocument>;

export const DocumentInput = Type.Object(
  { title: Name, kind: Kind, collection: Type.Optional(nullable(Id)) },
  closed,
);
export const DocumentPatch = Type.Object(
  { title: Type.Optional(Name), collection: Type.Optional(nullable(Id)) },
  { ...closed, minProperties: 1 },
);
export type DocumentPatch = Static<typeof DocumentPatch>;

export const CutCause = Type.Union([
  Type.Literal('beginning'),
  Type.Literal('pause'),
  Type.Literal('run'),
  Type.Literal('restore'),
  Type.Literal('filing'),
  Type.Literal('assembly'),
  Type.Literal('asked'),
  Type.Literal('checkIn'),
  Type.Literal('share'),
]);

/** A name that a person put on a moment. */
export const Landmark = Type.Object({
  id: Id,
  document: Id,
  seq: Seq,
  name: Type.String(),
  note: Type.String(),
  by: Id,
  at: Time,
  version: nullable(Type.Integer({ description: 'the version that ends with this moment' })),
});
export type Landmark = Static<typeof Landmark>;
/** A landmark with the title of its document. */
export const FoundLandmark = Type.Composite([Landmark, Type.Object({ title: Type.String() })]);
export type FoundLandmark = Static<typeof FoundLandmark>;

export const Version = Type.Object({
  number: Type.Integer(),
  label: Type.String({ description: 'major.minor' }),
  seq: Seq,
  at: Time,
  cause: CutCause,
  authors: Type.Array(Id),
  comment: Type.String(),
  gist: Type.String(),
  size: Type.Integer({ description: 'words' }),
  wordsAdded: Type.Integer(),
  wordsRemoved: Type.Integer(),
  landmark: nullable(Type.Object({ id: Id, name: Type.String(), note: Type.String() })),
});
export type Version = Static<typeof Version>;

const LandmarkName = Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' });
/** Names a moment: a version by number, or any moment by seq. */
export const LandmarkInput = Type.Object(
  {
    number: Type.Optional(Type.Integer({ minimum: 1 })),
    seq: Type.Optional(Seq),
    name: LandmarkName,
    note: Type.Optional(Comment),
  },
  closed,
);
export const LandmarkPatch = Type.Object(
  { name: Type.Optional(LandmarkName), note: Type.Optional(Comment) },
  { ...closed, minProperties: 1 },
);
export const CommentInput = Type.Object({ comment: Comment }, closed);
/** What a version's comment said from a time on, and who said it. */
export const PastComment = Type.Object({ at: Time, by: Id, comment: Type.String() });
export type PastComment = Static<typeof PastComment>;
export const VersionInput = Type.Object(
  { comment: Type.Optional(Comment), major: Type.Optional(Type.Boolean()) },
  closed,
);
export const Outcome = Type.Object({ seq: Seq, version: Version });
export type Outcome = Static<typeof Outcome>;

export const Cause = Type.Union([
  Type.Object({ kind: Type.Literal('writing') }, closed),
  Type.Object({ kind: Type.Literal('undo'), of: Type.Array(Seq) }, closed),
  Type.Object({ kind: Type.Literal('redo'), of: Type.Array(Seq) }, closed),
  Type.Object(
    {
      kind: Type.Literal('takeBack'),
      of: Type.Array(Seq),
      change: Type.Optional(
        Type.Object(
          { earlier: Seq, later: Seq },
          { description: 'the moments between which the one change was that was taken back' },
        ),
      ),
    },
    closed,
  ),
  Type.Object(
    { kind: Type.Literal('carry'), moment: Seq },
    { ...closed, description: 'something of an earlier moment was carried into the present' },
  ),
  Type.Object({ kind: Type.Literal('restore'), moment: Seq, number: Type.Optional(Type.Integer()) }, closed),
  Type.Object(
    {
      kind: Type.Literal('filing'),
      file: Type.String(),
      format: Type.String(),
      by: Type.Optional(Id),
    },
    { ...closed, description: '`by` filed it, where that is not its author' },
  ),
  Type.Object(
    { kind: Type.Literal('copy'), document: Id, title: Type.String(), moment: Seq },
    { ...closed, description: 'the content came from a moment of another document' },
  ),
  Type.Object(
    { kind: Type.Literal('merge'), document: Id, title: Type.String(), moment: Seq },
    { ...closed, description: 'what was changed in a copy of this document was brought home' },
  ),
  Type.Object(
    {
      kind: Type.Literal('assembly'),
      document: Id,
      other: Id,
      title: Type.String(),
      earlier: Seq,
      later: Seq,
    },
    {
      ...closed,
      description:
        'assembled of a comparison, change by change: `later` is a moment of `document`, `earlier` one of `other`',
    },
  ),
  Type.Object({ kind: Type.Literal('title'), before: Type.String(), after: Type.String() }, closed),
  Type.Object({ kind: Type.Literal('collection'), before: nullable(Id), after: nullable(Id) }, closed),
  Type.Object(
    {
      kind: Type.Union([Type.Literal('erasure'), Type.Literal('thinning')]),
      id: Id,
      letters: Type.Integer({ minimum: 0 }),
      of: Type.Array(Type.Tuple([Seq, Seq]), { maxItems: 100_000 }),
      digest: Type.String({ pattern: '^([0-9a-f]{64})?$' }),
    },
    closed,
  ),
]);

/** Edits of a document without their content, as columns; index i of each is edit `from + i`. */
export const History = Type.Object({
  from: Seq,
  people: Type.Array(Id),
  at: Type.Array(Type.Integer(), { description: 'milliseconds since the epoch' }),
  who: Type.Array(Type.Integer(), { description: 'index into people' }),
  wordsIn: Type.Array(Type.Integer()),
  wordsOut: Type.Array(Type.Integer()),
  events: Type.Array(Type.Object({ seq: Seq, cause: Cause }), {
    description: 'edits that are not plain writing',
  }),
});
export type History = Static<typeof History>;

export const Moment = Type.Object({
  document: Id,
  seq: Seq,
  at: Time,
  by: Id,
  title: Type.String(),
  version: nullable(Type.Integer({ description: 'the version that ends with this edit' })),
  words: Type.Integer(),
  content: Type.Unknown({ description: 'the document as ProseMirror JSON' }),
});
export type Moment = Static<typeof Moment>;

const Stretch = Type.Object({ from: Type.Integer(), to: Type.Integer() });
const Stand = Type.Composite([Stretch, Type.Object({ across: Type.Integer() })]);
export const Credit = Type.Object({
  from: Type.Integer(),
  to: Type.Integer(),
  side: Type.Union([Type.Literal('earlier'), Type.Literal('later')]),
  seq: Seq,
  at: Time,
  person: Id,
  writer: Id,
  file: nullable(Type.String({ description: 'the file it came with, when it was filed' })),
});
export type Credit = Static<typeof Credit>;

export const ComparedChange = Type.Object({
  id: Type.Integer(),
  kind: Type.Union([
    Type.Literal('added'),
    Type.Literal('removed'),
    Type.Literal('replaced'),
    Type.Literal('moved'),
    Type.Literal('copied'),
    Type.Literal('split'),
    Type.Literal('joined'),
    Type.Literal('typography'),
    Type.Literal('form'),
  ]),
  earlier: Type.String(),
  later: Type.String(),
  place: Type.Object({ earlier: Stretch, later: Stretch }),
  stands: Type.Object(
    { earlier: Type.Array(Stand), later: Type.Array(Stand) },
    { description: 'every stretch of it, and where in the other document it would stand' },
  ),
  block: Type.Boolean(),
  wordsRemoved: Type.Integer(),
  wordsAdded: Type.Integer(),
  wordsMoved: Type.Integer(),
  copyOf: Type.Union([Stretch, Type.Null()], {
    description: 'for what was copied: where it stands in the earlier document',
  }),
  group: nullable(
    Type.String({
      description:
        '“typography”, a word that was renamed throughout, as “pond > pool”, or one change of form in many places, as “form: level”',
    }),
  ),
  section: nullable(Type.String({ description: 'for a section that moved: its heading' })),
  form: Type.Array(Type.String()),
  credits: Type.Array(Credit),
});
export type ComparedChange = Static<typeof ComparedChange>;

export const ComparisonResult = Type.Object({
  earlier: Type.Object({ seq: Seq, at: Time }),
  later: Type.Object({ seq: Seq, at: Time }),
  changes: Type.Array(ComparedChange),
  rows: Type.Array(Type.Object({ earlier: Stretch, later: Stretch, paired: Type.Boolean() }), {
    description: 'top-level blocks of both that stand beside each other',
  }),
  totals: Type.Object({
    wordsAdded: Type.Integer(),
    wordsRemoved: Type.Integer(),
    wordsMoved: Type.Integer(),
    formChanges: Type.Integer(),
  }),
  shares: Type.Array(Type.Object({ person: Id, wordsAdded: Type.Integer(), wordsRemoved: Type.Integer() }), {
    description: 'words in and out by person',
  }),
  gist: Type.String(),
});
export type ComparisonResult = Static<typeof ComparisonResult>;

export const StoredImage = Type.Object({ hash: Type.String(), type: Type.String(), bytes: Type.Integer() });
export type StoredImage = Static<typeof StoredImage>;
export const Health = Type.Object({ ready: Type.Boolean(), why: Type.String() });

export const FileForm = Type.Object({
  title: Type.Optional(Name),
  collection: Type.Optional(Id),
  comment: Type.Optional(Comment),
  major: Type.Optional(Type.Union([Type.Literal('true'), Type.Literal('false')])),
  tracked: Type.Optional(
    Type.Union([Type.Literal('accepted'), Type.Literal('rejected'), Type.Literal('both')], {
      description: 'which text of a file with tracked changes is taken; both make two versions',
    }),
  ),
});

export type FileForm = Static<typeof FileForm>;

const said = {
  author: Type.String(),
  at: Type.String({ description: 'ISO 8601, or empty' }),
  text: Type.String(),
};

export const Filing = Type.Object(
  {
    author: Type.String({ description: 'whoever the file says wrote it; may be empty' }),
    title: Type.String(),
    remarks: Type.Array(
      Type.Object({ ...said, about: Type.String({ description: 'the text a comment stands on' }) }),
    ),
    leftOut: Type.Array(Type.Object({ what: Type.String(), times: Type.Integer() })),
    tracked: Type.Array(
      Type.Object({
        ...said,
        kind: Type.Union([
          Type.Literal('insertion'),
          Type.Literal('deletion'),
          Type.Literal('movedFrom'),
          Type.Literal('movedTo'),
          Type.Literal('form'),
        ]),
      }),
    ),
  },
  { description: 'What came in a file beside its text' },
);
export type Filing = Static<typeof Filing>;

export function pageOf<T extends TSchema>(item: T) {
  return Type.Object({
    items: Type.Array(item),
    next: nullable(Type.String({ description: 'cursor of the next page' })),
  });
}
