import type { Presence } from '@oxbow/contract';
import type { View } from '../access/view.js';
import type { Room } from '../ordering/room.js';

/** Who is where in each document that is open, by client; edits counted from the very beginning. */
export class Here {
  private readonly places = new Map<string, Map<string, Presence & { socket: string }>>();

  /**
   * Remembers where somebody is, as they told it by a connection, which is one place in a document. Answers false, and remembers nothing,
   * where the window is somebody else's: nobody can take the name of another's.
   */
  set(document: string, presence: Presence, socket: string): boolean {
    const places = this.places.get(document) ?? new Map<string, Presence & { socket: string }>();
    const held = places.get(presence.client);
    if (held && held.person !== presence.person) return false;
    for (const [client, one] of places)
      if (one.socket === socket && client !== presence.client) places.delete(client);
    this.places.set(document, places.set(presence.client, { ...presence, socket }));
    return true;
  }

  /** Forgets who was in a document by a connection, and answers which clients those were. */
  leave(document: string, socket: string): string[] {
    const places = this.places.get(document) ?? new Map<string, Presence & { socket: string }>();
    const gone = [...places.values()].filter((one) => one.socket === socket).map(({ client }) => client);
    for (const client of gone) places.delete(client);
    if (places.size === 0) this.places.delete(document);
    return gone;
  }

  /** Everybody's place in a document, as it is in its head, for somebody who has it so. */
  told(document: string, view: Pick<View, 'first'>, room: Room): Presence[] {
    return [...(this.places.get(document)?.values() ?? [])].flatMap(
      (presence) => (placed(presence, view) && placed(carried(presence, room), view)) ?? [],
    );
  }
}

/** Somebody's place as it is told to somebody else; null where it is of a moment that is not told. */
export function placed(presence: Presence, { first }: Pick<View, 'first'>): Presence | null {
  const { person, client, seq, anchor, head } = presence;
  return seq < first ? null : { person, client, seq: seq - first, anchor, head };
}

/** Somebody's place as it is in the head of a document, where what came since is at hand. */
function carried(presence: Presence, room: Room): Presence {
  const { anchor, head, seq } = presence;
  const [now, then] = room.carried([anchor, head], seq) ?? [];
  return now === undefined || then === undefined
    ? presence
    : { ...presence, anchor: now, head: then, seq: room.head.seq };
}
