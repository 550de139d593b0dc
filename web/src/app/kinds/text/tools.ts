import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { INKS, SIZES, TYPEFACES, textSchema as schema } from '@oxbow/core/kinds/text';
import type { Command, EditorState } from 'prosemirror-state';
import { isInTable } from 'prosemirror-tables';
import type { EditorView } from 'prosemirror-view';
import { Acting } from '../../acting/acting';
import type { ActId } from '../../acting/acts';
import { LiveDocument } from '../../document/live-document';
import { isOn, setMark } from '../../writing/commands';
import { LinkForm } from '../../writing/link-form';
import { stretchOf } from '../../writing/links';
import { WrittenPage } from '../../writing/written-page';
import { Rail, itemOf, toolOf } from '../../writing/rail';
import type { RailItem, RailTool } from '../../writing/rail';
import { COMMANDS, imageIn } from './commands';
import type { CommandId } from './commands';
import { ImageForm } from '../../writing/image-form';

const KINDS = {
  blocks: ['paragraph', 'heading1', 'heading2', 'heading3'],
  holders: ['bulletList', 'numberedList', 'checkList', 'quote', 'codeBlock', 'outOf'],
  marks: ['bold', 'italic', 'underline'],
  more: ['strike', 'subscript', 'superscript', 'code', 'plainLook'],
  align: ['alignStart', 'alignCenter', 'alignEnd', 'alignJustify'],
  insert: ['insertTable', 'insertFootnote', 'insertRule', 'insertPageBreak'],
  rows: ['rowAbove', 'rowBelow', 'removeRow', 'headingRow'],
  columns: [
    'columnBefore',
    'columnAfter',
    'removeColumn',
    'headingColumn',
    'wider',
    'narrower',
    'evenColumns',
  ],
  cells: ['mergeCells', 'splitCell', 'removeTable'],
  image: ['imageInLine', 'imageAtStart', 'imageAtEnd', 'imageWide'],
} as const satisfies Record<string, readonly CommandId[]>;

/** Icons of what a block can be, by the type of its node. */
const ICONS: Readonly<Record<string, string>> = {
  heading: 'heading',
  bullet_list: 'bullet',
  ordered_list: 'numbered',
  check_list: 'check',
  quote: 'quote',
  code_block: 'code',
  table: 'table',
  footnote: 'footnote',
};

/** Looks of text that have a value, each with what it does. */
const LOOKS: readonly { readonly label: string; readonly run: Command }[] = [
  ...INKS.map((ink) => ({
    label: $localize`Highlight, ${ink}`,
    run: setMark(schema.marks.highlight, { ink }),
  })),
  ...TYPEFACES.map((face) => ({
    label: $localize`Typeface, ${face}`,
    run: setMark(schema.marks.typeface, { face }),
  })),
  ...SIZES.map((size) => ({ label: $localize`Size, ${size}`, run: setMark(schema.marks.size, { size }) })),
];

const FOLDED = 'oxbow-tools-folded';

/** Whether one types in a field beside the page, which has keys of its own. */
function inField(): boolean {
  return /^(input|textarea|select)$/i.test(document.activeElement?.tagName ?? '');
}

/** The writing tools: a rail at the edge of the page that stays in view, and can be folded into the edge. */
@Component({
  selector: 'ox-tools',
  imports: [ImageForm, LinkForm, Rail],
  templateUrl: './tools.html',
  styleUrl: './tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Tools {
  readonly view = input.required<EditorView>();
  readonly state = input.required<EditorState>();
  readonly document = input.required<string>();

  private readonly written = inject(WrittenPage);
  private readonly dialog = inject(MatDialog);
  private readonly live = inject(LiveDocument);
  private readonly rail = viewChild.required(Rail);
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');
  /** What is asked about beside the rail. */
  protected readonly asking = signal<'nothing' | 'link' | 'image'>('nothing');
  protected readonly folded = signal(localStorage.getItem(FOLDED) === 'yes');
  protected readonly image = computed(() => imageIn(this.state()));
  private readonly blockIcon = computed(() => {
    const { $from } = this.state().selection;
    for (let depth = $from.depth; depth > 0; depth--) {
      const icon = ICONS[$from.node(depth).type.name];
      if (icon) return icon;
    }
    return 'paragraph';
  });

  protected readonly tools = computed((): RailTool[][] => {
    const folding: RailTool = {
      label: this.folded() ? $localize`Unfold the writing tools` : $localize`Fold the writing tools`,
      icon: this.folded() ? 'unfold' : 'fold',
      open: !this.folded(),
      run: () => this.fold(),
    };
    const state = this.state();
    if (this.folded()) return [[folding]];
    const undoing = (['undo', 'redo'] as const).map((which) =>
      toolOf(which, () => this.undo(which), { off: !this.live.acts.can(which) }),
    );
    const block: RailTool = {
      label: $localize`What this block is`,
      icon: this.blockIcon(),
      menu: () => this.items([...KINDS.blocks, ...KINDS.holders]),
    };
    const aligning: RailTool = {
      label: $localize`Alignment`,
      icon: 'alignLeft',
      menu: () => this.items(KINDS.align),
    };
    const marks = KINDS.marks.map((id) => toolOf(id, () => this.run(id), { on: isOn(state, id) }));
    const link = toolOf('link', () => this.ask('link'), {
      label: $localize`Link`,
      off: stretchOf(state) === null,
      open: this.asking() === 'link',
    });
    const more: RailTool = { label: $localize`More about this text`, icon: 'more', menu: () => this.looks() };
    const inserting: RailTool = { label: $localize`Insert`, icon: 'add', menu: () => this.insertions() };
    const cells: RailTool = {
      label: $localize`Rows and columns`,
      icon: 'table',
      on: true,
      menu: () => this.items([...KINDS.rows, ...KINDS.columns, ...KINDS.cells]),
    };
    const picture: RailTool = {
      label: $localize`This image`,
      icon: 'image',
      on: true,
      menu: () => [...this.items(KINDS.image), itemOf('aboutImage', () => this.ask('image'))],
    };
    return [
      undoing,
      [block, aligning],
      [...marks, link, more],
      [inserting, ...(isInTable(state) ? [cells] : []), ...(this.image() ? [picture] : [])],
      [folding],
    ];
  });

  constructor() {
    const acting = inject(Acting);
    const runs = (Object.keys(COMMANDS) as CommandId[]).map((id) => [id, () => this.run(id)]);
    acting.offer(
      { undo: () => this.undo('undo'), redo: () => this.undo('redo') },
      (id) => !inField() && this.live.acts.can(id === 'undo' ? 'undo' : 'redo'),
    );
    acting.offer(
      Object.fromEntries(runs) as Partial<Record<ActId, () => void>>,
      (id) => !inField() && this.can(id as CommandId),
    );
    acting.offer(
      { link: () => this.asking.set('link') },
      () => !inField() && stretchOf(this.view().state) !== null,
    );
    acting.offer({ aboutImage: () => this.asking.set('image') }, () => imageIn(this.view().state) !== null);
    acting.offer({
      insertImage: () => this.picker().nativeElement.click(),
      pageSetup: () => void this.askSetUp(),
    });
  }

  /** Goes to the tools. */
  focus(): void {
    this.rail().focus();
  }

  private items(ids: readonly CommandId[]): RailItem[] {
    return ids.map((id) => itemOf(id, () => this.run(id), { off: !this.can(id) }));
  }

  private looks(): RailItem[] {
    const off = this.state().selection.empty;
    const looks = LOOKS.map(({ label, run }) => ({ label, off, run: () => this.runCommand(run) }));
    return [...this.items(KINDS.more), ...looks];
  }

  private insertions(): RailItem[] {
    return [
      itemOf('insertImage', () => this.picker().nativeElement.click()),
      ...this.items(KINDS.insert),
      itemOf('pageSetup', () => void this.askSetUp()),
    ];
  }

  /** Whether an act can be done; asked anew with each state of the page. */
  private can(id: CommandId): boolean {
    return this.state() && COMMANDS[id](this.view().state);
  }

  private run(id: CommandId): void {
    this.runCommand(COMMANDS[id]);
  }

  private runCommand(command: Command): void {
    const view = this.view();
    command(view.state, (tr) => view.dispatch(tr), view);
    view.focus();
  }

  private undo(which: 'undo' | 'redo'): void {
    this.live.acts.undo(which);
    this.view().focus();
  }

  private ask(what: 'link' | 'image'): void {
    this.asking.update((asking) => (asking === what ? 'nothing' : what));
  }

  /** A menu was closed: one is on the page again, unless something is asked. */
  protected back(): void {
    if (this.asking() === 'nothing' && this.dialog.openDialogs.length === 0) this.view().focus();
  }

  protected leave(): void {
    this.asking.set('nothing');
    this.view().focus();
  }

  private async askSetUp(): Promise<void> {
    const { askPageSetup } = await import('./page-setup');
    await askPageSetup(this.view(), this.dialog);
  }

  private fold(): void {
    this.folded.update((folded) => !folded);
    localStorage.setItem(FOLDED, this.folded() ? 'yes' : 'no');
  }

  protected async insertImage(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    const stored = await this.written.store(this.document(), file);
    const view = this.view();
    if (stored) view.dispatch(view.state.tr.replaceSelectionWith(schema.node('image', stored)));
    this.picker().nativeElement.value = '';
  }
}
