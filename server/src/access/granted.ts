import { may, waits } from './policy.js';
import type { Action, Having, Hold } from './policy.js';
import type { Access, People, Signed } from './people.js';
import { Trouble } from '../trouble/trouble.js';
import type { View } from './view.js';

/** The document of a path, as somebody has it who may do this with it. A document one may not see does not exist. */
export async function granted(
  { people }: { readonly people: People },
  id: string | undefined,
  person: Signed,
  action: Action,
): Promise<Access> {
  const access = await people.access(id ?? '', person);
  allowed(access?.document ?? null, access?.holder ?? null, action);
  return access as Access;
}

/**
 * Holds how somebody stands to a document against what they want to do: the one place where the role, the reach and the
 * check-out are asked. Throws 404, 403 or 423.
 */
export function allowed<S extends Having & { readonly hold: Hold }>(
  standing: S | null,
  holder: Signed | null,
  action: Action,
): S {
  if (!standing || !may(standing, 'read')) throw new Trouble(404, 'There is no such document');
  if (!may(standing, action)) throw refusal(standing, action);
  if (waits(standing.hold, action))
    throw holder
      ? new Trouble(423, `${holder.name} has this document checked out`)
      : new Trouble(423, 'Check this document out first', 'It is written in by one person at a time.');
  return standing;
}

/**
 * Asks once more, for what is done a while after it was asked: whether whoever has a view may still do this with the document, and knows the
 * same history of it. Throws 404, 403, 423, or 409 where their history begins elsewhere now.
 */
export async function stillGranted(
  people: Pick<People, 'standings' | 'byKey'>,
  { id, person, first }: Pick<View, 'id' | 'person' | 'first'>,
  action: Action,
): Promise<void> {
  const standing = await people.standings.read(id, person);
  const holder = standing?.holder ? (people.byKey(standing.holder) ?? null) : null;
  if (allowed(standing, holder, action).first !== first)
    throw new Trouble(
      409,
      'This document is shared with you otherwise now',
      'Open it anew; nothing was changed.',
    );
}

function refusal(standing: Having, action: Action): Trouble {
  return may({ ...standing, history: 'all' }, action)
    ? new Trouble(403, 'You have this document as it is now', 'Its history was not shared with you.')
    : new Trouble(
        403,
        'You may read this document, not change it',
        `As ${standing.role} you cannot do that here.`,
      );
}
