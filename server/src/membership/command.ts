import { join } from 'node:path';
import { People } from '../access/people.js';
import { Files } from '../formats/files.js';
import { Letters } from '../mail/letters.js';
import type { Mailing } from '../mail/letters.js';
import { openDatabase } from '../store/database.js';
import { Facts } from '../store/facts.js';
import { Trouble } from '../trouble/trouble.js';
import { Links } from './links.js';
import { Membership } from './membership.js';
import { Settings } from './settings.js';

/** Where the data is, and how people are reached. */
export interface CommandGround {
  readonly folder: string;
  readonly url?: string;
  readonly site: string;
  readonly mailing?: Mailing;
}

export const PEOPLE_USAGE = `npm run people -- list                     who is here, and who is invited
npm run people -- invite ADDRESS [guest]   invite somebody, or anew; prints the link that is sent
npm run people -- reset ADDRESS            send somebody a link to a new password, and print it
npm run people -- disable ADDRESS          keep somebody from signing in; their work and its credit stay
npm run people -- enable ADDRESS           let them in again
npm run people -- admin ADDRESS            make somebody an administrator
npm run people -- clock                    say that the clock is right, after it jumped`;

/**
 * What `npm run people` does: lets people in and out without a browser, also while the server runs, which knows of it within a
 * minute. Answers what to print. Throws `Trouble` for what cannot be done, and `RangeError` for what is no such command.
 */
export async function peopleCommand(words: readonly string[], ground: CommandGround): Promise<string[]> {
  const database = await openDatabase(ground);
  const people = new People(database);
  await people.load();
  const files = new Files();
  const letters = new Letters(join(ground.folder, 'mail'), files, () => undefined, ground.mailing);
  const facts = new Facts(database);
  const membership = new Membership(
    database,
    people,
    facts,
    new Settings(facts),
    new Links(database),
    letters,
    () => ground.site,
    (error) => {
      throw error;
    },
  );
  try {
    return await run(words, membership, facts);
  } finally {
    await people.close();
    await files.close();
    await database.close();
  }
}

async function run(
  [act = '', address = '', also]: readonly string[],
  membership: Membership,
  facts: Facts,
): Promise<string[]> {
  const email = address.toLowerCase();
  const change = async (patch: { admin?: boolean; disabled?: boolean }, said: string): Promise<string[]> => {
    const member = (await membership.members()).people.find((one) => one.email === email);
    if (!member) throw new Trouble(404, `Nobody here has the address ${address}`);
    await membership.change(member.id, patch);
    return [`${member.name} ${said}`];
  };
  if (act !== 'list' && act !== 'clock' && email === '')
    throw new RangeError(`Which address? ${act} needs one.`);
  switch (act) {
    case 'clock':
      await facts.keep('clock', String(Date.now()));
      return [`The clock is taken for right: it is ${new Date().toISOString()}`];
    case 'list':
      return listed(membership);
    case 'invite': {
      const { invitation, link } = await membership.invite(null, { email, guest: also === 'guest' });
      return [`${email} is invited until ${invitation.until}:`, link];
    }
    case 'reset': {
      const link = await membership.sendReset(email);
      if (link === null) throw new Trouble(404, `Nobody who may sign in has the address ${address}`);
      return [`${email} may set a new password for an hour:`, link];
    }
    case 'disable':
      return change({ disabled: true }, 'may not sign in any more');
    case 'enable':
      return change({ disabled: false }, 'may sign in again');
    case 'admin':
      return change({ admin: true }, 'is an administrator now');
    default:
      throw new RangeError(`There is no command ${act}.`);
  }
}

async function listed(membership: Membership): Promise<string[]> {
  const { people, invitations } = await membership.members();
  const told = people.map(({ name, email, admin, guest, disabled }) => {
    const marks = [admin && 'administrator', guest && 'guest', disabled && 'disabled'].filter(Boolean);
    return `${email}  ${name}${marks.length > 0 ? `  (${marks.join(', ')})` : ''}`;
  });
  return [...told, ...invitations.map(({ email, until }) => `${email}  invited until ${until}`)];
}
