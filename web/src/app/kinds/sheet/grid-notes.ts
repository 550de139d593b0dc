import { Injectable, computed, inject } from '@angular/core';
import type { LedgerEntry } from '@oxbow/contract';
import { cellAt } from '@oxbow/core/kinds/sheet';
import { Store } from '@ngrx/store';
import { LiveDocument } from '../../document/live-document';
import { ledgerSaid, wantedOf } from '../../ledger/ledger';
import { DeskLedger } from '../../ledger/ledger-state';
import { colourOf } from '../../look/colours';
import { session } from '../../session/session.store';
import { cellName } from './calculating';
import type { CellNote, Guest } from './grid-line';
import { SheetDesk } from './sheet-desk';
import { spotOf } from './spots';

/** What stands on cells beside what is in them: who else is there, and who wrote them. */
@Injectable()
export class GridNotes {
  private readonly desk = inject(SheetDesk);
  private readonly live = inject(LiveDocument);
  private readonly ledger = inject(DeskLedger);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);

  /** Who else stands where, by row. */
  readonly guests = computed<ReadonlyMap<string, readonly Guest[]>>(() => {
    const [view, people, out] = [this.desk.view(), this.people(), new Map<string, Guest[]>()];
    if (!view) return out;
    for (const { person: id, anchor, head, seq } of this.live.others().values()) {
      const [person, from, to] = [people.get(id), this.live.here(anchor, seq), this.live.here(head, seq)];
      const spot = from === null || to === null ? null : spotOf(view, { anchor: from, head: to });
      if (!person || spot?.sheet !== this.desk.sheet()?.id) continue;
      const { initials, name, colour } = person;
      const guest = { column: spot?.column ?? '', initials, name, colour: colourOf(colour) };
      out.set(spot?.row ?? '', [...(out.get(spot?.row ?? '') ?? []), guest]);
    }
    return out;
  });

  /** What is marked on cells: where something of the past would go, or else who wrote each, while that is asked. */
  readonly notes = computed<ReadonlyMap<string, CellNote> | null>(() => this.placed() ?? this.written());

  private placed(): ReadonlyMap<string, CellNote> | null {
    const [place, view] = [this.desk.place(), this.desk.view()];
    if (!place || !view) return null;
    const note = { colour: 'var(--landmark)', says: place.says || $localize`It stands here`, dim: false };
    const out = new Map<string, CellNote>();
    for (const sheet of view.sheets)
      for (const row of sheet.rows) {
        const end = row.at + row.node.nodeSize;
        if (place.from > end || place.to < row.at || (place.from === place.to && place.from >= end)) continue;
        const cells = sheet.columns.filter(({ id }) => {
          const cell = cellAt(row, id);
          return cell && place.from < cell.at + cell.cell.nodeSize && place.to > cell.at;
        });
        const whole = place.from <= row.at && place.to >= end;
        const across = whole || cells.length === 0 ? sheet.columns : cells;
        for (const { id } of across) out.set(cellName(sheet.id, row.id, id), note);
      }
    return out;
  }

  private written(): ReadonlyMap<string, CellNote> | null {
    const [drawn, view] = [this.ledger.drawn(), this.desk.view()];
    if (!drawn || !view) return null;
    const latest = new Map<string, LedgerEntry>();
    for (const entry of drawn.entries) {
      if (entry.to > view.doc.content.size) continue;
      const $from = view.doc.resolve(entry.from);
      const [row, cell] = [$from.node(1), $from.depth > 1 ? $from.node(2) : null];
      if (!cell) continue;
      const name = cellName(
        String(row.attrs['sheet']),
        String(row.attrs['id']),
        String(cell.attrs['column']),
      );
      const known = latest.get(name);
      if (!known || known.at < entry.at) latest.set(name, entry);
    }
    return new Map(
      [...latest].map(([name, entry]) => [
        name,
        {
          colour: colourOf(drawn.people.get(entry.by)?.colour ?? 0),
          says: ledgerSaid(entry, drawn.people),
          dim: !wantedOf(drawn.filter)(entry),
        },
      ]),
    );
  }
}
