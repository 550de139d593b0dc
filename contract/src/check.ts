import type { Static, TSchema } from '@sinclair/typebox';
import { Ajv } from 'ajv';
import type { ErrorObject, ValidateFunction } from 'ajv';
import addFormats from 'ajv-formats';

const ajv = new Ajv({ allErrors: false, coerceTypes: false, discriminator: false, strict: false });
const coercing = new Ajv({ allErrors: false, coerceTypes: true, strict: false });
addFormats.default(ajv);
addFormats.default(coercing);

const compiled = new WeakMap<TSchema, ValidateFunction>();

/** What was wrong with a message, by field; `path` is empty for the message itself. */
export class Invalid extends Error {
  constructor(readonly errors: readonly { path: string; message: string }[]) {
    super(errors.map((error) => `${error.path || 'message'} ${error.message}`).join('; '));
    this.name = 'Invalid';
  }
}

/**
 * Answers `value` as what the schema says it is, or throws `Invalid` naming the field. With `coerce`, for query strings
 * and forms, "3" counts as 3.
 */
export function check<T extends TSchema>(schema: T, value: unknown, coerce = false): Static<T> {
  const validate = prepare(schema, coerce);
  if (!validate(value)) throw new Invalid(deepest(validate.errors ?? []).map(said));
  return value as Static<T>;
}

/** Makes ready to check a schema, where it is not. */
export function prepare(schema: TSchema, coerce: boolean): ValidateFunction {
  const validate = compiled.get(schema) ?? (coerce ? coercing : ajv).compile(schema);
  compiled.set(schema, validate);
  return validate;
}

/** Of the alternatives of a union that all failed, the errors furthest inside are about the one that was meant. */
function deepest(errors: readonly ErrorObject[]): ErrorObject[] {
  const depth = (error: ErrorObject): number =>
    error.instancePath.split('/').length + (error.keyword === 'const' ? -1 : 0);
  const told = errors.filter((error) => error.keyword !== 'anyOf');
  const most = Math.max(...told.map(depth));
  return told.filter((error) => depth(error) === most).slice(0, 3);
}

function said(error: ErrorObject): { path: string; message: string } {
  const base = error.instancePath.slice(1);
  const extra: unknown = error.params['additionalProperty'] ?? error.params['missingProperty'];
  const path = typeof extra === 'string' ? [base, extra].filter(Boolean).join('/') : base;
  if (error.keyword === 'additionalProperties') return { path, message: 'is not a known field' };
  if (error.keyword === 'required') return { path, message: 'is missing' };
  return { path, message: error.message ?? 'is not valid' };
}

/** Holds all text of a value to what every store can keep: throws `Invalid` naming where the sign U+0000 stands. */
export function checkSigns(value: unknown, path = ''): void {
  if (typeof value === 'string' && value.includes('\0'))
    throw new Invalid([{ path, message: 'holds the sign U+0000' }]);
  if (typeof value !== 'object' || value === null) return;
  for (const [name, held] of Object.entries(value)) checkSigns(held, path ? `${path}/${name}` : name);
}
