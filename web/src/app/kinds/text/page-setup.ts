import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import { MatSelectModule } from '@angular/material/select';
import {
  LONGEST_RUNNING,
  PAGES_FIELD,
  PAGE_FIELD,
  PAPERS,
  USUAL_PAPER,
  WIDEST_MARGIN,
  paperOf,
  sheetOf,
  textSchema as schema,
} from '@oxbow/core/kinds/text';
import type { Paper, PaperSize } from '@oxbow/core/kinds/text';
import type { EditorView } from 'prosemirror-view';
import { firstValueFrom } from 'rxjs';
import { setAttributes } from '../../writing/commands';

const SIDES = ['top', 'right', 'bottom', 'left'] as const;
const PARTS = ['start', 'middle', 'end'] as const;

const margin = (): FormControl<number> =>
  new FormControl(USUAL_PAPER.top, {
    nonNullable: true,
    validators: [
      Validators.required,
      Validators.min(0),
      Validators.max(WIDEST_MARGIN),
      Validators.pattern(/^\d+$/),
    ],
  });
const part = (): FormControl<string> =>
  new FormControl('', { nonNullable: true, validators: [Validators.maxLength(LONGEST_RUNNING / 3 - 1)] });
const running = () => new FormGroup({ start: part(), middle: part(), end: part() });

/** Asks for the paper, its margins, and what stands at the head and the foot of each page. */
@Component({
  selector: 'ox-page-setup',
  imports: [
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatRadioModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  templateUrl: './page-setup.html',
  styleUrl: './page-setup.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageSetup {
  private readonly dialog = inject<MatDialogRef<PageSetup, Paper>>(MatDialogRef);
  private readonly was = inject<Paper>(MAT_DIALOG_DATA);
  protected readonly sizes = Object.entries(PAPERS).map(([size, [width, height]]) => ({
    size: size as PaperSize,
    told: `${size === 'letter' ? $localize`Letter` : size === 'legal' ? $localize`Legal` : size}, ${width} × ${height} mm`,
  }));
  protected readonly sides = SIDES;
  protected readonly parts = PARTS;
  protected readonly lines = ['header', 'footer'] as const;
  /** What stands for the numbers in a header or footer. */
  protected readonly signs = { page: '{page}', pages: '{pages}' };
  protected readonly widest = WIDEST_MARGIN;
  protected readonly form = new FormGroup({
    size: new FormControl<PaperSize>('A4', { nonNullable: true }),
    landscape: new FormControl(false, { nonNullable: true }),
    margins: new FormGroup({ top: margin(), right: margin(), bottom: margin(), left: margin() }),
    header: running(),
    footer: running(),
  });
  private readonly typed = toSignal(this.form.valueChanges, { initialValue: this.form.value });
  /** The sheet as a small picture, in percent of the larger side. */
  protected readonly sheet = computed(() => {
    this.typed();
    const paper = this.paper();
    const { width, height } = sheetOf(paper);
    const of = (mm: number, all: number): string => `${Math.min(45, (mm / all) * 100)}%`;
    const inset = `${of(paper.top, height)} ${of(paper.right, width)} ${of(paper.bottom, height)} ${of(paper.left, width)}`;
    return { ratio: `${width} / ${height}`, inset };
  });

  constructor() {
    const { size, landscape, header, footer, ...margins } = this.was;
    const lineOf = (text: string) => {
      const [start = '', middle = '', end = ''] = text.split('\t');
      return { start, middle, end };
    };
    this.form.setValue({ size, landscape, margins, header: lineOf(header), footer: lineOf(footer) });
  }

  private paper(): Paper {
    const { size, landscape, margins, header, footer } = this.form.getRawValue();
    const line = ({ start, middle, end }: typeof header): string =>
      [start, middle, end]
        .map((text) => text.replace(/\s+/g, ' ').trim())
        .join('\t')
        .replace(/\t+$/, '');
    return { size, landscape, ...margins, header: line(header), footer: line(footer) };
  }

  /** Puts the number of the page in the middle of the foot, where nothing stands yet. */
  protected number(): void {
    const { middle } = this.form.controls.footer.controls;
    middle.setValue($localize`${middle.value} ${PAGE_FIELD} of ${PAGES_FIELD}`.trim());
  }

  protected set(): void {
    if (this.form.valid) this.dialog.close(this.paper());
  }
}

/** Asks for the set-up of the page, and sets what was changed of it. */
export async function askPageSetup(view: EditorView, dialog: MatDialog): Promise<void> {
  const asked = dialog.open<PageSetup, Paper, Paper>(PageSetup, {
    data: paperOf(view.state.doc),
    maxWidth: '96vw',
    width: '760px',
  });
  const paper = await firstValueFrom(asked.afterClosed());
  if (paper && !view.isDestroyed) setPaper(view, paper);
}

/** Lays the document out on a paper: attributes of the set-up that it has, or one at its beginning. */
export function setPaper(view: EditorView, paper: Paper): void {
  const { doc } = view.state;
  let position = -1;
  doc.forEach((block, offset) => {
    if (position < 0 && block.type === schema.nodes.page_setup) position = offset;
  });
  const attrs: Record<string, unknown> = { ...paper };
  if (position >= 0) setAttributes(position, attrs)(view.state, (tr) => view.dispatch(tr), view);
  else if (JSON.stringify(paper) !== JSON.stringify(USUAL_PAPER))
    view.dispatch(view.state.tr.insert(0, schema.nodes.page_setup.create(attrs)));
  view.focus();
}
