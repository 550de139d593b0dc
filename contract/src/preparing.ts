import type { TSchema } from '@sinclair/typebox';
import { prepare } from './check.js';
import { EditsMessage, JoinMessage, LeaveMessage, PresenceMessage } from './live.js';
import type { Operation } from './operation.js';
import { operations } from './operations.js';
import { paramsOf } from './params.js';

/**
 * Makes ready to check whatever the contract knows, one schema at a time: making one ready takes up to a tenth of a second,
 * which whoever sends the first message of a kind would wait for, and everybody else with them.
 */
export function* preparing(): Generator<undefined, void> {
  for (const [schema, coerce] of schemas()) {
    prepare(schema, coerce);
    yield;
  }
}

function* schemas(): Generator<readonly [schema: TSchema, coerce: boolean]> {
  for (const message of [EditsMessage, JoinMessage, PresenceMessage, LeaveMessage]) yield [message, false];
  for (const { path, query, body, form } of Object.values<Operation>(operations)) {
    yield [paramsOf(path), false];
    if (query) yield [query, true];
    if (body) yield [body, false];
    if (form) yield [form, false];
  }
}
