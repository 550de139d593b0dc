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
  if (!access || !may(access.role, 'read')) throw new Trouble(404, 'There is no such document');
  if (!may(access.role, action))
    throw new Trouble(
      403,
      'You may read this document, not change it',
      `As ${access.role} you cannot do that here.`,
    );
  if (waits(access.hold, action))
    throw access.holder
      ? new Trouble(423, `${access.holder.name} has this document checked out`)
      : new Trouble(423, 'Check this document out first', 'It is written in by one person at a time.');
  return access;
}
