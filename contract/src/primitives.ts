import type { TSchema } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';

/** Objects that take no other fields. */
export const closed = { additionalProperties: false } as const;

export const nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);

export const Id = Type.String({ minLength: 1, maxLength: 40, pattern: '^[A-Za-z0-9_-]+$' });

export const Time = Type.String({ format: 'date-time', description: 'ISO 8601, UTC' });

export const Seq = Type.Integer({ minimum: 0, maximum: 2 ** 30 });

export const Name = Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' });

export const Comment = Type.String({ maxLength: 2000 });

export const MomentRef = Type.String({
  pattern: '^(@\\d{1,9}|\\d{1,9})$',
  description: 'a version number, or @SEQ for any moment',
});

export const Format = Type.Union([
  Type.Literal('json'),
  Type.Literal('markdown'),
  Type.Literal('html'),
  Type.Literal('text'),
  Type.Literal('docx'),
  Type.Literal('odt'),
  Type.Literal('xlsx'),
  Type.Literal('ods'),
  Type.Literal('csv'),
  Type.Literal('pptx'),
  Type.Literal('odp'),
]);
