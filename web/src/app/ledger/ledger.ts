import type { LedgerEntry, Person } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { colourOf } from '../look/colours';
import { fullTime, shortTime } from '../look/time';

/** Which entries of the ledger are drawn; the others are dimmed. `days` is the greatest age, 0 for any. */
export interface LedgerFilter {
  readonly person: string;
  readonly days: number;
}

export const ledgerKey = new PluginKey<DecorationSet>('ledger');

/** Shows who put each stretch of the page there: a tab at each block, and a word at each stretch. Set by meta, null for none. */
export function ledgerPlugin(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key: ledgerKey,
    state: {
      init: () => DecorationSet.empty,
      apply(tr, held) {
        const said = tr.getMeta(ledgerKey) as ((doc: Node) => DecorationSet) | undefined;
        return said ? said(tr.doc) : held.map(tr.mapping, tr.doc);
      },
    },
    props: { decorations: (state) => ledgerKey.getState(state) },
  });
}

/** What is told of who put what on a page, and which of it is wanted. */
export interface DrawnLedger {
  readonly entries: readonly LedgerEntry[];
  readonly filter: LedgerFilter;
  readonly people: ReadonlyMap<string, Person>;
}

/** Whether an entry is among those that are wanted. */
export function wantedOf(filter: LedgerFilter, now = Date.now()): (entry: LedgerEntry) => boolean {
  return ({ by, writer, at }) =>
    (!filter.person || by === filter.person || writer === filter.person) &&
    (filter.days === 0 || now - Date.parse(at) <= filter.days * 86_400_000);
}

/** Draws entries on the document they are of. */
export function drawLedger(
  { entries, filter, people }: DrawnLedger,
  now = Date.now(),
): (doc: Node) => DecorationSet {
  const wanted = wantedOf(filter, now);
  return (doc) => {
    const blocks = new Map<number, LedgerEntry[]>();
    const stretches = entries.flatMap((entry) => {
      if (entry.to > doc.content.size) return [];
      const $from = doc.resolve(entry.from);
      if ($from.depth === 0) return [];
      const start = $from.before();
      blocks.set(start, [...(blocks.get(start) ?? []), entry]);
      const shown = wanted(entry);
      return [
        Decoration.inline(entry.from, entry.to, {
          class: shown ? 'ledger-by' : 'ledger-dim',
          title: ledgerSaid(entry, people),
          style: styleOf(entry, people),
        }),
      ];
    });
    const tabs = [...blocks].flatMap(([start, held]) => {
      const last = held.filter(wanted).sort((a, b) => b.at.localeCompare(a.at))[0];
      const node = doc.nodeAt(start);
      if (!last || !node) return [];
      return [
        Decoration.node(start, start + node.nodeSize, {
          class: 'ledgered',
          'data-ledger': `${people.get(last.by)?.initials ?? '?'} ${shortTime(last.at)}`,
          style: styleOf(last, people),
        }),
      ];
    });
    return DecorationSet.create(doc, [...stretches, ...tabs]);
  };
}

function styleOf({ by }: LedgerEntry, people: ReadonlyMap<string, Person>): string {
  return `--who: ${colourOf(people.get(by)?.colour ?? 0)}`;
}

/** Who an entry says put it there, and when. */
export function ledgerSaid({ by, writer, at }: LedgerEntry, people: ReadonlyMap<string, Person>): string {
  const name = (id: string): string => people.get(id)?.name ?? $localize`Somebody`;
  const who = by === writer ? name(by) : $localize`${name(by)} brought back what ${name(writer)} wrote`;
  return `${who}, ${fullTime(at)}`;
}
