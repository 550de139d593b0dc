import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, Time, closed, nullable } from './primitives.js';
import { HistoryReach, Person, Role, Share } from './shapes.js';

/** Whom a document is to be shared with, by address or as somebody here, and how. */
export const ShareWithInput = Type.Object(
  {
    email: Type.Optional(Type.String({ format: 'email', maxLength: 200 })),
    person: Type.Optional(Id),
    role: Role,
    history: Type.Optional(HistoryReach),
    until: Type.Optional(nullable(Time)),
    message: Type.Optional(Type.String({ maxLength: 2000 })),
  },
  closed,
);
export type ShareWithInput = Static<typeof ShareWithInput>;

/** Somebody who was given a document and has not come here yet. */
export const PendingShare = Type.Object({
  email: Type.String(),
  role: Role,
  history: HistoryReach,
  since: nullable(Time),
  until: nullable(Time),
  sent: Time,
});
export type PendingShare = Static<typeof PendingShare>;

/** Something that happened to who has a document. */
export const SharingEvent = Type.Object({
  at: Time,
  by: Id,
  kind: Type.Union([
    Type.Literal('shared'),
    Type.Literal('changed'),
    Type.Literal('ended'),
    Type.Literal('sent'),
    Type.Literal('joined'),
  ]),
  person: nullable(Id),
  email: Type.String({ description: 'of whoever is not here yet; else empty' }),
  role: nullable(Role),
  history: nullable(HistoryReach),
  until: nullable(Time),
});
export type SharingEvent = Static<typeof SharingEvent>;

/** Who has a document, who is invited to it, and what happened to that, newest first. */
export const Sharing = Type.Object({
  shares: Type.Array(Type.Composite([Share, Type.Object({ sent: nullable(Time) })])),
  invited: Type.Array(PendingShare),
  events: Type.Array(SharingEvent),
});
export type Sharing = Static<typeof Sharing>;

/** Somebody here whom a document may be shared with. */
export const Candidate = Type.Composite([Person, Type.Object({ email: Type.String() })]);
export type Candidate = Static<typeof Candidate>;
