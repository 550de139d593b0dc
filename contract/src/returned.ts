import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Comment, MomentRef, Seq } from './primitives.js';

/** What to take of a passage: what the base has, a form by its index, or all, one behind the other. */
const Take = Type.Union([
  Type.Literal('base'),
  Type.Literal('all'),
  Type.Integer({ minimum: 0, maximum: 8 }),
]);

/** What was decided about passages, by their number; of those that are not named and have one form, that is taken. */
export const Takes = Type.Array(Type.Tuple([Type.Integer({ minimum: 0 }), Take]), { maxItems: 20_000 });
export type Takes = Static<typeof Takes>;

/** What came back is compared with this moment, which whoever sent it had. */
export const ReturnedForm = Type.Object({ base: MomentRef });
export type ReturnedForm = Static<typeof ReturnedForm>;

const decided = { base: MomentRef, takes: Type.String({ description: '`Takes` as JSON' }) };
export const ReturnedInput = Type.Object({ ...decided, comment: Type.Optional(Comment) });
export type ReturnedInput = Static<typeof ReturnedInput>;
export const ReturnedFileForm = Type.Object({
  ...decided,
  format: Type.Union([Type.Literal('html'), Type.Literal('docx'), Type.Literal('odt')]),
});

export type ReturnedFileForm = Static<typeof ReturnedFileForm>;

const At = Type.Union([Type.Literal('base'), Type.Integer()]);

/** Files that came back, brought together passage by passage. */
export const Returned = Type.Object({
  base: Seq,
  readers: Type.Array(
    Type.Object({
      name: Type.String({ description: 'whoever the file says wrote it, or else its name' }),
      file: Type.String(),
      leftOut: Type.Integer({ description: 'kinds of things in the file that were not read' }),
    }),
  ),
  lines: Type.Array(
    Type.Object({
      kind: Type.String({ description: 'what the block is, as the schema names it' }),
      pieces: Type.Array(
        Type.Object({
          text: Type.Optional(Type.String()),
          passage: Type.Optional(Type.Integer()),
          at: Type.Optional(At),
        }),
        { description: 'text that all have, passages, and places of what moved' },
      ),
    }),
  ),
  passages: Type.Array(
    Type.Object({
      id: Type.Integer(),
      kind: Type.Union([
        Type.Literal('text'),
        Type.Literal('whole'),
        Type.Literal('blocks'),
        Type.Literal('form'),
        Type.Literal('place'),
      ]),
      base: Type.String({ description: 'its text, its form in words, or what it stands behind' }),
      forms: Type.Array(
        Type.Object({
          text: Type.String(),
          by: Type.Array(Type.Integer({ description: 'index into readers' })),
        }),
      ),
      about: Type.Optional(Type.String({ description: 'what moved, or has one of several forms' })),
      where: Type.Optional(
        Type.String({ description: 'of sheets and slides: the cell, row, column or slide' }),
      ),
    }),
  ),
});
export type Returned = Static<typeof Returned>;
