import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { FormControl, FormsModule, ReactiveFormsModule } from '@angular/forms';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ALIGNMENTS, INKS, SIZES, TYPEFACES, isSafeLink, textSchema as schema } from '@oxbow/core/content';
import { lift, setBlockType, toggleMark, wrapIn } from 'prosemirror-commands';
import type { Attrs, MarkType, NodeType, ResolvedPos } from 'prosemirror-model';
import { liftListItem, wrapInList } from 'prosemirror-schema-list';
import type { Command, EditorState } from 'prosemirror-state';
import {
  addColumnAfter,
  addRowAfter,
  deleteColumn,
  deleteRow,
  deleteTable,
  isInTable,
  mergeCells,
  splitCell,
  toggleHeaderRow,
} from 'prosemirror-tables';
import type { EditorView } from 'prosemirror-view';
import { firstValueFrom } from 'rxjs';
import { Acting } from '../acting/acting';
import { ACTS, keysTold } from '../acting/acts';
import { Api, saidOf } from '../api/api';
import { LiveDocument } from '../document/live-document';

interface Tool {
  readonly label: string;
  readonly icon?: string;
  readonly run: Command;
}

const { nodes, marks } = schema;

/** A mark with a value: sets it, or takes it off where it is set already. */
function setMark(type: MarkType, attrs: Attrs): Command {
  return (state, dispatch) => {
    const { from, to, empty } = state.selection;
    if (empty) return false;
    const held =
      state.doc.rangeHasMark(from, to, type) &&
      type.isInSet(state.doc.resolve(from + 1).marks())?.eq(type.create(attrs));
    dispatch?.(held ? state.tr.removeMark(from, to, type) : state.tr.addMark(from, to, type.create(attrs)));
    return true;
  };
}

function insert(type: NodeType): Command {
  return (state, dispatch) => {
    dispatch?.(state.tr.replaceSelectionWith(type.create()).scrollIntoView());
    return true;
  };
}

const insertTable: Command = (state, dispatch) => {
  const cell = (type: NodeType) => type.createAndFill();
  const row = (type: NodeType) =>
    nodes.table_row.create(
      null,
      [cell(type), cell(type), cell(type)].filter((one) => one !== null),
    );
  dispatch?.(
    state.tr
      .replaceSelectionWith(
        nodes.table.create(null, [row(nodes.table_header), row(nodes.table_cell), row(nodes.table_cell)]),
      )
      .scrollIntoView(),
  );
  return true;
};

function align(value: string): Command {
  return (state, dispatch) => {
    const tr = state.tr;
    state.doc.nodesBetween(state.selection.from, state.selection.to, (node, position) => {
      if ('align' in node.attrs) tr.setNodeAttribute(position, 'align', value);
    });
    if (!tr.docChanged) return false;
    dispatch?.(tr);
    return true;
  };
}

const BLOCKS: Tool[] = [
  { label: 'Paragraph', icon: 'paragraph', run: setBlockType(nodes.paragraph) },
  { label: 'Heading 1', icon: 'heading', run: setBlockType(nodes.heading, { level: 1 }) },
  { label: 'Heading 2', icon: 'heading', run: setBlockType(nodes.heading, { level: 2 }) },
  { label: 'Heading 3', icon: 'heading', run: setBlockType(nodes.heading, { level: 3 }) },
  { label: 'Bullet list', icon: 'bullet', run: wrapInList(nodes.bullet_list) },
  { label: 'Numbered list', icon: 'numbered', run: wrapInList(nodes.ordered_list) },
  { label: 'Check list', icon: 'check', run: wrapInList(nodes.check_list) },
  { label: 'Quote', icon: 'quote', run: wrapIn(nodes.quote) },
  { label: 'Code', icon: 'code', run: setBlockType(nodes.code_block) },
  {
    label: 'Out of this list or quote',
    run: (state, dispatch) =>
      liftListItem(nodes.list_item)(state, dispatch) ||
      liftListItem(nodes.check_item)(state, dispatch) ||
      lift(state, dispatch),
  },
];

const INSERTS: Tool[] = [
  { label: 'Table', icon: 'table', run: insertTable },
  { label: 'Rule', icon: 'rule', run: insert(nodes.rule) },
  { label: 'Page break', icon: 'pageBreak', run: insert(nodes.page_break) },
];

const TABLE: Tool[] = [
  { label: 'Row below', run: addRowAfter },
  { label: 'Column after', run: addColumnAfter },
  { label: 'Remove row', run: deleteRow },
  { label: 'Remove column', run: deleteColumn },
  { label: 'Merge cells', run: mergeCells },
  { label: 'Split cell', run: splitCell },
  { label: 'Heading row on or off', run: toggleHeaderRow },
  { label: 'Remove table', run: deleteTable },
];

const PLAIN: Tool[] = [
  { label: 'Bold', icon: 'bold', run: toggleMark(marks.bold) },
  { label: 'Italic', icon: 'italic', run: toggleMark(marks.italic) },
];

const MORE: Tool[] = [
  { label: 'Underline', icon: 'underline', run: toggleMark(marks.underline) },
  { label: 'Strike through', icon: 'strike', run: toggleMark(marks.strike) },
  { label: 'Subscript', icon: 'sub', run: toggleMark(marks.subscript) },
  { label: 'Superscript', icon: 'sup', run: toggleMark(marks.superscript) },
  { label: 'Code', icon: 'code', run: toggleMark(marks.code) },
];

const LOOKS: Tool[] = [
  ...INKS.map((ink): Tool => ({
    label: `Highlight, ${ink}`,
    icon: 'highlight',
    run: setMark(marks.highlight, { ink }),
  })),
  ...TYPEFACES.map((face): Tool => ({ label: `Typeface, ${face}`, run: setMark(marks.typeface, { face }) })),
  ...SIZES.map((size): Tool => ({ label: `Size, ${size}`, run: setMark(marks.size, { size }) })),
];

const ALIGN: Tool[] = ALIGNMENTS.map((value) => ({
  label: `Align ${value}`,
  icon: { start: 'alignLeft', center: 'alignCenter', end: 'alignRight', justify: 'alignJustify' }[value],
  run: align(value),
}));

/** The whole link that a place is in; null where it is in none. */
function linkRound($at: ResolvedPos): { from: number; to: number } | null {
  const link = marks.link.isInSet($at.marks());
  if (!link) return null;
  const { parent } = $at;
  const holds = (index: number): boolean => {
    const node = index >= 0 && index < parent.childCount ? parent.child(index) : null;
    return node !== null && link.isInSet(node.marks);
  };
  let [first, last] = [$at.index(), $at.index()];
  if (!holds(first)) first = last = first - 1;
  while (holds(first - 1)) first--;
  while (holds(last + 1)) last++;
  const from = $at.posAtIndex(first);
  return { from, to: $at.posAtIndex(last) + parent.child(last).nodeSize };
}

/** Whether one types in a field beside the page, which has an undo of its own. */
function inField(): boolean {
  return /^(input|textarea|select)$/i.test(document.activeElement?.tagName ?? '');
}

/** The writing tools: they stand beside the block in hand. */
@Component({
  selector: 'ox-tools',
  imports: [FormsModule, MatIconModule, MatMenuModule, MatTooltipModule, ReactiveFormsModule],
  templateUrl: './tools.html',
  styleUrl: './tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '[style.top.px]': 'top()',
    role: 'toolbar',
    'aria-label': 'Writing tools',
    'aria-orientation': 'vertical',
  },
})
export class Tools {
  readonly view = input.required<EditorView>();
  readonly state = input.required<EditorState>();
  readonly document = input.required<string>();

  private readonly api = inject(Api);
  private readonly live = inject(LiveDocument);
  private readonly acting = inject(Acting);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly acts = ACTS;
  protected readonly reversals = ['undo', 'redo'] as const;
  protected readonly keysTold = keysTold;
  protected readonly top = signal(0);
  protected readonly linking = signal(false);
  protected readonly href = new FormControl('', { nonNullable: true });
  protected readonly badLink = signal(false);
  protected readonly blocks = BLOCKS;
  protected readonly inserts = INSERTS;
  protected readonly table = TABLE;
  protected readonly plain = PLAIN;
  protected readonly more = MORE;
  protected readonly looks = LOOKS;
  protected readonly align = ALIGN;
  protected readonly inTable = computed(() => isInTable(this.state()));
  protected readonly blockIcon = computed(() => {
    const { $from } = this.state().selection;
    for (let depth = $from.depth; depth > 0; depth--) {
      const icon = {
        heading: 'heading',
        bullet_list: 'bullet',
        ordered_list: 'numbered',
        check_list: 'check',
        quote: 'quote',
        code_block: 'code',
        table: 'table',
      }[$from.node(depth).type.name];
      if (icon) return icon;
    }
    return 'paragraph';
  });

  constructor() {
    this.acting.offer(
      { undo: () => this.undo('undo'), redo: () => this.undo('redo') },
      (id) => !inField() && this.live.acts.can(id === 'undo' ? 'undo' : 'redo'),
    );
    this.acting.offer({ link: () => this.startLink() }, () => !inField() && this.stretch() !== null);
    effect(() => {
      const state = this.state();
      const view = this.view();
      if (state !== view.state) return;
      const page = view.dom.getBoundingClientRect();
      const at = view.coordsAtPos(Math.min(state.selection.head, state.doc.content.size));
      this.top.set(Math.max(0, at.top - page.top - 6));
    });
  }

  protected can(tool: Tool): boolean {
    return tool.run(this.state());
  }

  protected run(tool: Tool): void {
    const view = this.view();
    tool.run(view.state, (tr) => view.dispatch(tr), view);
    view.focus();
  }

  protected isOn(tool: Tool): boolean {
    const { from, $from, to, empty } = this.state().selection;
    const type = tool.label === 'Bold' ? marks.bold : marks.italic;
    return empty
      ? type.isInSet(this.state().storedMarks ?? $from.marks()) !== undefined
      : this.state().doc.rangeHasMark(from, to, type);
  }

  /** Whether there is something to undo or redo; asked anew with each state of the page. */
  protected mayUndo(which: 'undo' | 'redo'): boolean {
    return this.state() && this.live.acts.can(which);
  }

  protected undo(which: 'undo' | 'redo'): void {
    this.live.acts.undo(which);
    this.view().focus();
  }

  /** What a link would be put on: what is selected, or the whole link that the caret is in; null for neither. */
  protected readonly stretch = computed(() => {
    const { from, to, empty, $from } = this.state().selection;
    return empty ? linkRound($from) : { from, to };
  });

  protected startLink(): void {
    const { from, to } = this.stretch() ?? { from: 0, to: 0 };
    let href = '';
    this.state().doc.nodesBetween(from, to, (node) => {
      href ||= String(marks.link.isInSet(node.marks)?.attrs['href'] ?? '');
    });
    this.href.setValue(href);
    this.badLink.set(false);
    this.linking.set(!this.linking());
    setTimeout(() => this.element.nativeElement.querySelector<HTMLInputElement>('.link input')?.select());
  }

  protected leaveLink(): void {
    this.linking.set(false);
    this.view().focus();
  }

  protected setLink(): void {
    const written = this.href.value.trim();
    const href = /^[\w-]+(\.[\w-]+)+/.test(written) ? `https://${written}` : written;
    const view = this.view();
    const stretch = this.stretch();
    if (href && !isSafeLink(href)) return this.badLink.set(true);
    if (!stretch) return this.leaveLink();
    const { from, to } = stretch;
    view.dispatch(
      href
        ? view.state.tr.addMark(from, to, marks.link.create({ href }))
        : view.state.tr.removeMark(from, to, marks.link),
    );
    this.linking.set(false);
    view.focus();
  }

  protected async image(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    try {
      const { hash } = await firstValueFrom(this.api.storeImage(this.document(), file));
      const view = this.view();
      view.dispatch(
        view.state.tr.replaceSelectionWith(
          nodes.image.create({ hash, alt: file.name.replace(/\.\w+$/, '') }),
        ),
      );
    } catch (error) {
      this.live.said.next(saidOf(error));
    }
  }
}
