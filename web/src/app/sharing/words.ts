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
  { role: 'viewer', name: $localize`Viewer`, may: $localize`reads`, mayWithAll: $localize`reads all of it` },
  {
    role: 'commenter',
    name: $localize`Commenter`,
    may: $localize`reads and comments`,
    mayWithAll: $localize`reads and comments`,
  },
  {
    role: 'editor',
    name: $localize`Editor`,
    may: $localize`reads and writes`,
    mayWithAll: $localize`writes and puts documents in`,
  },
  {
    role: 'owner',
    name: $localize`Owner`,
    may: $localize`writes and shares it`,
    mayWithAll: $localize`shares, renames and deletes it`,
  },
];

/** How far back somebody may look. */
export const HISTORIES: readonly { readonly history: HistoryReach; readonly name: string }[] = [
  { history: 'all', name: $localize`From the beginning` },
  { history: 'since', name: $localize`From the day of the share on` },
  { history: 'none', name: $localize`Only as it is now` },
];

/** A role by name. */
export function roleName(role: Role | null): string {
  return ROLES.find((one) => one.role === role)?.name.toLowerCase() ?? '';
}

/** How far back somebody may look, in words. */
export function historyName(history: HistoryReach | null, since: string | null): string {
  if (history === 'none') return $localize`sees it only as it is now`;
  if (history === 'since')
    return since ? $localize`sees its history from ${dayAndTime(since)} on` : $localize`from that day on`;
  return $localize`sees all of its history`;
}

/** What a share is with, where that is nobody by name. */
export function holderKind({ kind }: Holder): string {
  return {
    person: '',
    group: $localize`group`,
    everybody: $localize`but no guests`,
    invited: $localize`invited`,
  }[kind];
}

/** The way in which somebody has a document, in words. */
export function wayName({ holder, through }: Having): string {
  const ways = {
    person: $localize`by name`,
    group: $localize`as one of ${holder.name}`,
    everybody: $localize`as everybody here`,
    invited: $localize`by invitation`,
  };
  return ways[holder.kind] + (through ? $localize`, through the collection ${through.name}` : '');
}

/** What happened to who has something, in words. */
export function eventSaid(event: SharingEvent): string {
  const { holder } = event;
  const whom = holder?.kind === 'everybody' ? $localize`everybody here` : (holder?.name ?? '');
  const reach = { all: '', since: $localize`, from that day on`, none: $localize`, only as it is now` }[
    event.history ?? 'all'
  ];
  switch (event.kind) {
    case 'shared':
      return $localize`shared it with ${whom}, as ${roleName(event.role)}${reach}`;
    case 'changed':
      return $localize`let ${whom} have it as ${roleName(event.role)}${reach}`;
    case 'ended':
      return $localize`stopped sharing it with ${whom}`;
    case 'sent':
      return $localize`wrote to ${whom} about it again`;
    case 'joined':
      return $localize`came, invited as ${event.email}`;
    case 'linked':
      return $localize`made a reading link`;
    case 'unlinked':
      return $localize`ended the reading link`;
    case 'binned':
      return $localize`put it in the bin`;
    case 'putBack':
      return $localize`put it back out of the bin`;
  }
}

/** The end of a day, here; null for none. */
export function endOfDay(day: Date | null): string | null {
  if (day === null) return null;
  return new Date(day.getFullYear(), day.getMonth(), day.getDate(), 23, 59, 59, 999).toISOString();
}
