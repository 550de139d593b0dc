import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, Name, Time, closed, nullable } from './primitives.js';
import { HistoryReach, Person, Role } from './shapes.js';

/** The id under which everybody here is shared with. */
export const EVERYBODY = 'everybody';

/** Whom something is shared with: somebody here, a group, everybody here, or whoever was invited by an address. */
export const Holder = Type.Object({
  kind: Type.Union([
    Type.Literal('person'),
    Type.Literal('group'),
    Type.Literal('everybody'),
    Type.Literal('invited'),
  ]),
  id: Type.String({ description: 'of the person or group; "everybody"; the address' }),
  name: Type.String(),
});
export type Holder = Static<typeof Holder>;

/** The collection that a share of a document comes from; null where it is the document's own. */
const Through = nullable(Type.Object({ id: Id, name: Type.String() }));

const how = {
  role: Role,
  history: HistoryReach,
  /** When the history begins for them; null where that is the beginning, or differs from document to document. */
  since: nullable(Time),
  /** When the share ends by itself; null where it does not. */
  until: nullable(Time),
};

/** A share of a document or a collection. */
export const Share = Type.Object({
  holder: Holder,
  through: Through,
  ...how,
  sent: nullable(Time),
});
export type Share = Static<typeof Share>;

/** How a person has a document: of all the shares that reach them the one that counts. */
export const Having = Type.Object({ person: Person, holder: Holder, through: Through, ...how });
export type Having = Static<typeof Having>;

export const ShareInput = Type.Object(
  { role: Role, history: Type.Optional(HistoryReach), until: Type.Optional(nullable(Time)) },
  closed,
);
export type ShareInput = Static<typeof ShareInput>;

/** Whom a document or collection is to be shared with, by address or by the id of who or what is here, and how. */
export const ShareWithInput = Type.Object(
  {
    email: Type.Optional(Type.String({ format: 'email', maxLength: 200 })),
    holder: Type.Optional(Id),
    role: Role,
    history: Type.Optional(HistoryReach),
    until: Type.Optional(nullable(Time)),
    message: Type.Optional(Type.String({ maxLength: 2000 })),
  },
  closed,
);
export type ShareWithInput = Static<typeof ShareWithInput>;

/** Something that happened to who has a document or a collection. */
export const SharingEvent = Type.Object({
  at: Time,
  by: Id,
  kind: Type.Union([
    Type.Literal('shared'),
    Type.Literal('changed'),
    Type.Literal('ended'),
    Type.Literal('sent'),
    Type.Literal('joined'),
    Type.Literal('linked'),
    Type.Literal('unlinked'),
    Type.Literal('binned'),
    Type.Literal('putBack'),
  ]),
  /** With whom; null where it is about a reading link or the bin. */
  holder: nullable(Holder),
  email: Type.String({ description: 'by which whoever joined was invited; else empty' }),
  role: nullable(Role),
  history: nullable(HistoryReach),
  until: nullable(Time),
});
export type SharingEvent = Static<typeof SharingEvent>;

/**
 * The shares of a document or a collection, of a document also those of its collection; who has a document through which of them;
 * and what happened to that, newest first.
 */
export const Sharing = Type.Object({
  name: Type.String({ description: 'the title of the document, or the name of the collection' }),
  shares: Type.Array(Share),
  having: Type.Array(Having),
  events: Type.Array(SharingEvent),
});
export type Sharing = Static<typeof Sharing>;

/** Who or what is here, that something may be shared with; `email` is a person's. */
export const Candidate = Type.Object({ holder: Holder, email: Type.String() });
export type Candidate = Static<typeof Candidate>;

/** A group of people. */
export const Group = Type.Object({ id: Id, name: Type.String(), people: Type.Array(Id) });
export type Group = Static<typeof Group>;

const GroupPeople = Type.Optional(Type.Array(Id, { maxItems: 2000, uniqueItems: true }));
export const GroupInput = Type.Object({ name: Name, people: GroupPeople }, closed);
export type GroupInput = Static<typeof GroupInput>;
export const GroupPatch = Type.Object(
  { name: Type.Optional(Name), people: GroupPeople },
  { ...closed, minProperties: 1 },
);
export type GroupPatch = Static<typeof GroupPatch>;
