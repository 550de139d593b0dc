import { may, waits } from './policy.js';
import type { Action } from './policy.js';
import type { Access, People, Signed } from './people.js';
import { Trouble } from '../trouble/trouble.js';

/** The document of a path, for somebody who may do this with it. A document one may not see does not exist. */
export async function granted(
  { people }: { readonly people: People },
  id: string | undefined,
  person: Signed,
  action: Action,
): Promise<Access> {
  const access = await people.access(id ?? '', person);
  return allowed(access, access?.holder ?? null, action);
}

/**
 * Holds how somebody stands to a document against what they want to do: the one place where the role and the check-out are
 * asked. Throws 404, 403 or 423.
 */
export function allowed<S extends Pick<Access, 'role' | 'hold'>>(
  standing: S | null,
  holder: Signed | null,
  action: Action,
): S {
  if (!standing || !may(standing.role, 'read')) throw new Trouble(404, 'There is no such document');
  if (!may(standing.role, action))
    throw new Trouble(
      403,
      'You may read this document, not change it',
      `As ${standing.role} you cannot do that here.`,
    );
  if (waits(standing.hold, action))
    throw holder
      ? new Trouble(423, `${holder.name} has this document checked out`)
      : new Trouble(423, 'Check this document out first', 'It is written in by one person at a time.');
  return standing;
}
