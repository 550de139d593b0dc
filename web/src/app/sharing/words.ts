import type { Having, HistoryReach, Holder, Role, SharingEvent } from '@oxbow/contract';
import { dayAndTime } from '../look/time';

/** What each role may do, in the order of how much. */
export const ROLES: readonly {
  readonly role: Role;
  readonly name: string;
  /** What they may do with a document, and with a collection and all that is in it. */
  readonly may: string;
  readonly mayWithAll: string;
}[] = [
  { role: 'viewer', name: 'Viewer', may: 'reads', mayWithAll: 'reads all of it' },
  { role: 'commenter', name: 'Commenter', may: 'reads and comments', mayWithAll: 'reads and comments' },
  { role: 'editor', name: 'Editor', may: 'reads and writes', mayWithAll: 'writes and puts documents in' },
  { role: 'owner', name: 'Owner', may: 'writes and shares it', mayWithAll: 'shares, renames and deletes it' },
];

/** How far back somebody may look. */
export const HISTORIES: readonly { readonly history: HistoryReach; readonly name: string }[] = [
  { history: 'all', name: 'From the beginning' },
  { history: 'since', name: 'From the day of the share on' },
  { history: 'none', name: 'Only as it is now' },
];

/** A role by name. */
export function roleName(role: Role | null): string {
  return ROLES.find((one) => one.role === role)?.name.toLowerCase() ?? '';
}

/** How far back somebody may look, in words. */
export function historyName(history: HistoryReach | null, since: string | null): string {
  if (history === 'none') return 'sees it only as it is now';
  if (history === 'since')
    return since ? `sees its history from ${dayAndTime(since)} on` : 'from that day on';
  return 'sees all of its history';
}

/** What a share is with, where that is nobody by name. */
export function holderKind({ kind }: Holder): string {
  return { person: '', group: 'group', everybody: 'but no guests', invited: 'invited' }[kind];
}

/** The way in which somebody has a document, in words. */
export function wayName({ holder, through }: Having): string {
  const ways = {
    person: 'by name',
    group: `as one of ${holder.name}`,
    everybody: 'as everybody here',
    invited: 'by invitation',
  };
  return ways[holder.kind] + (through ? `, through the collection ${through.name}` : '');
}

/** What happened to who has something, in words. */
export function eventSaid(event: SharingEvent): string {
  const { holder } = event;
  const whom = holder?.kind === 'everybody' ? 'everybody here' : (holder?.name ?? '');
  const reach = { all: '', since: ', from that day on', none: ', only as it is now' }[event.history ?? 'all'];
  switch (event.kind) {
    case 'shared':
      return `shared it with ${whom}, as ${roleName(event.role)}${reach}`;
    case 'changed':
      return `let ${whom} have it as ${roleName(event.role)}${reach}`;
    case 'ended':
      return `stopped sharing it with ${whom}`;
    case 'sent':
      return `wrote to ${whom} about it again`;
    case 'joined':
      return `came, invited as ${event.email}`;
    case 'linked':
      return 'made a reading link';
    case 'unlinked':
      return 'ended the reading link';
    case 'binned':
      return 'put it in the bin';
    case 'putBack':
      return 'put it back out of the bin';
  }
}

/** The end of a day, here; null for none. */
export function endOfDay(day: Date | null): string | null {
  if (day === null) return null;
  return new Date(day.getFullYear(), day.getMonth(), day.getDate(), 23, 59, 59, 999).toISOString();
}
