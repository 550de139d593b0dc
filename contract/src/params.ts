import type { TObject, TSchema } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { Id, MomentRef, Name } from './primitives.js';

const Digits = Type.String({ pattern: '^\\d{1,9}$', description: 'a number' });
const Hash = Type.String({ pattern: '^[0-9a-f]{64}$', description: 'SHA-256, hexadecimal' });

const HolderId = Type.String({
  pattern: '^[^\\u0000-\\u001f]{1,200}$',
  description: 'the id of a person or a group, "everybody", or the address of whoever is invited',
});

const Token = Type.String({ pattern: '^[A-Za-z0-9_-]{20,60}$', description: 'what a link carries' });

/** What may stand in each part of a path. */
const PARTS: Readonly<Record<string, TSchema>> = {
  arrival: Id,
  collection: Id,
  document: Id,
  erasure: Id,
  group: Id,
  hash: Hash,
  holder: HolderId,
  index: Digits,
  invitation: Id,
  landmark: Name,
  link: Id,
  moment: MomentRef,
  notice: Id,
  number: Digits,
  person: Id,
  session: Id,
  token: Token,
  watch: Id,
};

const known = new Map<string, TObject>();

/** What the parameters of a path must be, one schema for each path. Throws for a part that nothing is said of, so that no call is without. */
export function paramsOf(path: string): TObject {
  const schema = known.get(path) ?? schemaOf(path);
  known.set(path, schema);
  return schema;
}

function schemaOf(path: string): TObject {
  const names = [...path.matchAll(/:(\w+)/g)].map(([, name = '']) => name);
  return Type.Object(
    Object.fromEntries(
      names.map((name) => {
        const part = PARTS[name];
        if (!part) throw new RangeError(`Nothing says what :${name} of ${path} may be`);
        return [name, part];
      }),
    ),
  );
}
