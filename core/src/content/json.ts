import type { Schema } from 'prosemirror-model';
import { Fragment, Node } from 'prosemirror-model';
import type { Work } from './work.js';

/**
 * JSON of a plain value, as `JSON.stringify` tells it. Rests after each part down to `depth`, so that telling much keeps nobody
 * waiting: a list of many takes as long as one of its items at a time.
 */
export function* tellJson(value: unknown, depth: number): Work<string> {
  if (depth === 0 || typeof value !== 'object' || value === null || 'toJSON' in value)
    return JSON.stringify(value);
  const parts: string[] = [];
  if (Array.isArray(value)) {
    for (const item of value as unknown[]) {
      const told = yield* tellJson(item, depth - 1);
      parts.push(isTold(item) ? told : 'null');
      yield;
    }
    return `[${parts.join(',')}]`;
  }
  for (const [name, held] of Object.entries(value)) {
    if (isTold(held)) parts.push(`${JSON.stringify(name)}:${yield* tellJson(held, depth - 1)}`);
    yield;
  }
  return `{${parts.join(',')}}`;
}

function isTold(value: unknown): boolean {
  return value !== undefined && typeof value !== 'function' && typeof value !== 'symbol';
}

/** Content of a list within a list within the document: what is told, or read, in one go. */
const BLOCK = 3;

/** A document as JSON. Rests after each block. */
export function* tellDocument(doc: Node): Work<string> {
  return yield* tellJson(doc.toJSON(), BLOCK);
}

/** The document that JSON tells of. Rests after each block. Throws `RangeError` for what the schema does not know. */
export function* readDocument(schema: Schema, json: string): Work<Node> {
  const { content = [], ...rest } = JSON.parse(json) as { content?: unknown[] };
  const blocks: Node[] = [];
  for (const block of content) {
    blocks.push(Node.fromJSON(schema, block));
    yield;
  }
  return Node.fromJSON(schema, rest).copy(Fragment.fromArray(blocks));
}
