import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { operation } from './operation.js';
import { Id, Time, closed, nullable } from './primitives.js';

/** The address of a site that may show a reading page in a frame. */
const Origin = Type.String({
  pattern: '^https?://[a-z0-9.-]{1,200}(:\\d{1,5})?$',
  description: 'of a site, such as https://withymill.example',
});

const Shows = Type.Union([Type.Literal('now'), Type.Literal('landmark')], {
  description: 'the document as it is now, or always as it was at its latest landmark',
});

/** A link by which anybody may read one document, without signing in. */
export const ReadingLink = Type.Object({
  id: Id,
  address: Type.String({ description: 'of the page; empty for one that ended' }),
  shows: Shows,
  password: Type.Boolean({ description: 'whether one is asked for' }),
  until: nullable(Time),
  frames: Type.Array(Type.String(), { description: 'sites that may show it in a frame' }),
  at: Time,
  by: Id,
  visits: Type.Integer(),
  visited: nullable(Time),
  ended: nullable(Time),
});
export type ReadingLink = Static<typeof ReadingLink>;

export const ReadingLinkInput = Type.Object(
  {
    shows: Shows,
    password: Type.Optional(Type.String({ minLength: 6, maxLength: 200 })),
    until: Type.Optional(nullable(Time)),
    frames: Type.Optional(Type.Array(Origin, { maxItems: 10, uniqueItems: true })),
  },
  closed,
);
export type ReadingLinkInput = Static<typeof ReadingLinkInput>;

/** What a reading link shows. */
export const Read = Type.Object({
  title: Type.String(),
  content: Type.Unknown({ description: 'as ProseMirror writes a document' }),
});
export type Read = Static<typeof Read>;

/** Reading links: one document as a plain page for whoever has the link. */
export const readingOperations = {
  listReadingLinks: operation({
    id: 'listReadingLinks',
    method: 'get',
    path: '/api/documents/:document/links',
    summary: 'Its reading links, the one that holds and those that ended, newest first, for owners',
    status: 200,
    answer: Type.Array(ReadingLink),
  }),
  makeReadingLink: operation({
    id: 'makeReadingLink',
    method: 'post',
    path: '/api/documents/:document/links',
    summary: 'Make a reading link, for owners; the one before it ends',
    body: ReadingLinkInput,
    status: 201,
    answer: ReadingLink,
  }),
  endReadingLink: operation({
    id: 'endReadingLink',
    method: 'delete',
    path: '/api/documents/:document/links/:link',
    summary: 'End a reading link at once, for owners',
    status: 204,
    answer: null,
  }),
  read: operation({
    id: 'read',
    method: 'get',
    path: '/api/read/:token',
    summary:
      'What a reading link shows; a password goes as that of HTTP Basic (RFC 7617), with any name. The page itself is /read/:token',
    status: 200,
    answer: Read,
    open: true,
  }),
};
