import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, Seq, nullable } from './primitives.js';
import { Cause, CutCause, Filing, Kind, Role } from './shapes.js';

/** The last time that a date can have, after ECMA-262, section 21.4.1.1. */
const LAST_TIME = 8_640_000_000_000_000;
const Milliseconds = Type.Integer({ minimum: 0, maximum: LAST_TIME, description: 'since the epoch' });
const Hex = (bytes: number) => Type.String({ pattern: `^[0-9a-f]{${bytes * 2}}$` });

/** A line of `log.jsonl`: an edit with its seal. */
export const ArchivedEdit = Type.Object(
  {
    seq: Type.Integer({ minimum: 1 }),
    author: Id,
    client: Type.String({ maxLength: 100 }),
    counter: Type.Integer({ minimum: 0 }),
    acceptedAt: Milliseconds,
    writtenAt: Milliseconds,
    schema: Type.Integer({ minimum: 1 }),
    steps: Type.Array(Type.Unknown(), { description: 'ProseMirror steps as JSON' }),
    sources: Type.Array(
      Type.Object({
        seq: Seq,
        offset: Type.Integer({ minimum: 0 }),
        length: Type.Integer({ minimum: 1 }),
        step: Type.Integer({ minimum: 0 }),
        at: Type.Integer({ minimum: 0 }),
        of: Type.Optional(
          Type.Object(
            { document: Id, writer: Id },
            { description: 'the other document that it came from, and who wrote it there' },
          ),
        ),
      }),
    ),
    cause: Cause,
    wordsIn: Type.Integer({ minimum: 0 }),
    wordsOut: Type.Integer({ minimum: 0 }),
    salt: nullable(Hex(16)),
    digest: Hex(32),
  },
  { additionalProperties: false },
);
export type ArchivedEdit = Static<typeof ArchivedEdit>;

/** `archive.json`. */
export const ArchiveAbout = Type.Object(
  {
    archive: Type.Literal(1),
    title: Type.String({ minLength: 1, maxLength: 200 }),
    kind: Kind,
    createdAt: Milliseconds,
    edits: Type.Integer({ minimum: 0 }),
    chain: Hex(32),
    people: Type.Array(
      Type.Object({
        id: Id,
        name: Type.String({ minLength: 1, maxLength: 200 }),
        initials: Type.String({ maxLength: 8 }),
        colour: Type.Integer({ minimum: 0 }),
        email: Type.String({ maxLength: 254 }),
        role: nullable(Role),
      }),
      { description: 'everybody the history names, and who the document was shared with' },
    ),
    versions: Type.Array(
      Type.Object({
        number: Type.Integer({ minimum: 1 }),
        label: Type.String(),
        seq: Seq,
        at: Milliseconds,
        cause: CutCause,
        authors: Type.Array(Id),
        comment: Type.String({ maxLength: 2000 }),
        gist: Type.String(),
        size: Type.Integer(),
        wordsAdded: Type.Integer(),
        wordsRemoved: Type.Integer(),
        discarded: Type.Optional(Milliseconds),
        thinned: Type.Optional(Milliseconds),
        comments: Type.Array(Type.Object({ at: Milliseconds, by: Id, comment: Type.String() }), {
          description: 'what the comment has said, oldest first',
        }),
      }),
    ),
    landmarks: Type.Array(
      Type.Object({
        id: Id,
        seq: Seq,
        name: Type.String(),
        note: Type.String(),
        by: Id,
        at: Milliseconds,
        until: Type.Integer({
          minimum: 0,
          maximum: LAST_TIME,
          description: 'when it was given up; 0 while it is there',
        }),
      }),
    ),
    filings: Type.Array(Type.Object({ seq: Seq, told: Filing })),
  },
  { additionalProperties: false },
);
export type ArchiveAbout = Static<typeof ArchiveAbout>;

/** The JSON Schema of an archive's two tables of contents, as `docs/archive.schema.json` has it. */
export const archiveSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Oxbow Tide archive of a document’s history, version 1',
  description: 'archive.json is of the type `about`; each line of log.jsonl is of the type `edit`.',
  $defs: { about: ArchiveAbout, edit: ArchivedEdit },
};
