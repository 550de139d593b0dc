import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Comment, Id, MomentRef, Name, Time, closed, nullable } from './primitives.js';
import { Version } from './shapes.js';

const Address = Type.Object({
  name: Type.String(),
  address: Type.String(),
  person: nullable(Type.String({ description: 'the person here who has that address' })),
});

export const ArrivedFile = Type.Object({
  name: Type.String(),
  bytes: Type.Integer(),
  readable: Type.Boolean({ description: 'whether it is of a format that can be read' }),
  filed: nullable(Type.Object({ document: Id, title: Type.String(), seq: Type.Integer() })),
});
export type ArrivedFile = Static<typeof ArrivedFile>;

/** A message that came with files, or one that was sent. */
export const Letter = Type.Object({
  id: Id,
  from: Address,
  to: Type.Array(Address),
  subject: Type.String(),
  at: Time,
  text: Type.String(),
  files: Type.Array(ArrivedFile),
});
export type Letter = Static<typeof Letter>;

/** A document that reads like a file. */
export const LikeDocument = Type.Object({
  document: Id,
  title: Type.String(),
  likeness: Type.Number({ description: 'resemblance of the texts, from 0 to 1' }),
  mayWrite: Type.Boolean(),
});
export type LikeDocument = Static<typeof LikeDocument>;

const tracked = Type.Optional(
  Type.Union([Type.Literal('accepted'), Type.Literal('rejected'), Type.Literal('both')]),
);
export const ArrivalFilingInput = Type.Object(
  {
    document: Type.Optional(Id),
    title: Type.Optional(Name),
    comment: Type.Optional(Comment),
    major: Type.Optional(Type.Boolean()),
    tracked,
  },
  { ...closed, description: 'on top of `document`, or, without one, a document of its own' },
);
export type ArrivalFilingInput = Static<typeof ArrivalFilingInput>;
export const ArrivalFiled = Type.Object({ document: Id, seq: Type.Integer(), version: Version });
export type ArrivalFiled = Static<typeof ArrivalFiled>;

export const PostInput = Type.Object(
  {
    to: Type.Array(Type.String({ format: 'email', maxLength: 254 }), { minItems: 1, maxItems: 20 }),
    subject: Name,
    text: Type.String({ maxLength: 10_000 }),
    later: MomentRef,
    earlier: Type.Optional(MomentRef),
    with: Type.Optional(Id),
    format: Type.Union([
      Type.Literal('docx'),
      Type.Literal('odt'),
      Type.Literal('xlsx'),
      Type.Literal('ods'),
      Type.Literal('csv'),
      Type.Literal('pptx'),
      Type.Literal('odp'),
      Type.Literal('html'),
      Type.Literal('markdown'),
      Type.Literal('text'),
    ]),
  },
  { ...closed, description: 'the moment `later`, or, with `earlier`, a redline from there to it' },
);
export type PostInput = Static<typeof PostInput>;
