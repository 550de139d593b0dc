import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FILLS } from '@oxbow/core/kinds/sheet';
import type { ActId } from '../../acting/acts';
import { LiveDocument } from '../../document/live-document';
import { Rail, itemOf, toldOf, toolOf } from '../../writing/rail';
import type { RailItem, RailTool } from '../../writing/rail';
import { FORMATS } from './number-formats';
import { SheetActs } from './sheet-acts';
import { SheetDesk } from './sheet-desk';

const INKS: Readonly<Record<(typeof FILLS)[number], string>> = {
  '': $localize`No fill`,
  sand: $localize`Sand`,
  reed: $localize`Reed`,
  sky: $localize`Sky`,
  rose: $localize`Rose`,
};

const ALIGNMENTS = ['alignStart', 'alignCenter', 'alignEnd'] as const;
const LINES: readonly ActId[] = [
  'rowAbove',
  'rowBelow',
  'removeRow',
  'moveUp',
  'moveDown',
  'columnBefore',
  'columnAfter',
  'removeColumn',
  'moveBefore',
  'moveAfter',
];
const ORDERS: readonly ActId[] = ['sortUp', 'sortDown', 'fillDown', 'fillRight', 'freeze'];
const MORE: readonly ActId[] = [
  'cellLife',
  'emptyCells',
  'plainCells',
  'renameSheet',
  'sheetBefore',
  'sheetAfter',
  'removeSheet',
];

/** Tools for the selected cells, beside them. */
@Component({
  selector: 'ox-cell-tools',
  imports: [Rail],
  template: `
    @if (desk.writable()) {
      <ox-rail name="Tools for cells" i18n-name side="left" [tools]="tools()" (closed)="acts.back()" />
    }
  `,
  styleUrl: './cell-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CellTools {
  protected readonly desk = inject(SheetDesk);
  protected readonly acts = inject(SheetActs);
  private readonly live = inject(LiveDocument);

  protected readonly tools = computed((): RailTool[][] => {
    const view = this.desk.view();
    const undoing = (['undo', 'redo'] as const).map((which) =>
      toolOf(which, () => this.acts.run(which), { off: !view || !this.live.acts.can(which) }),
    );
    const looks = [
      toolOf('bold', () => this.acts.run('bold'), { on: this.desk.form().bold }),
      ...ALIGNMENTS.map((id) => toolOf(id, () => this.acts.run(id))),
      { label: $localize`Fill of the cells`, icon: 'highlight', menu: () => this.fills() },
      { label: $localize`How numbers are shown`, icon: 'numbers', menu: () => this.formats() },
    ];
    const lines = [
      { label: $localize`Rows and columns`, icon: 'table', menu: () => this.items(LINES) },
      { label: $localize`Sort and fill`, icon: 'sort', menu: () => this.items(ORDERS) },
      { label: $localize`More for cells and sheets`, icon: 'more', menu: () => this.items(MORE) },
    ];
    return [undoing, looks, lines];
  });

  private items(ids: readonly ActId[]): RailItem[] {
    return ids.map((id) =>
      itemOf(id, () => this.acts.run(id), { label: toldOf(id), icon: undefined, off: !this.acts.can(id) }),
    );
  }

  private fills(): RailItem[] {
    return FILLS.map((fill) => ({
      label: INKS[fill],
      swatch: `ink-${fill}`,
      chosen: this.desk.form().fill === fill,
      run: () => this.acts.look({ fill }),
    }));
  }

  private formats(): RailItem[] {
    const { format: now } = this.desk.form();
    const known = FORMATS.some(([code]) => code === now);
    return (known ? FORMATS : [...FORMATS, [now, now] as const]).map(([format, label]) => ({
      label,
      chosen: format === now,
      run: () => this.acts.look({ format }),
    }));
  }
}
