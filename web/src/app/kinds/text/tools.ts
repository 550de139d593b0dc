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
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { INKS, SIZES, TYPEFACES, textSchema as schema } from '@oxbow/core/kinds/text';
import type { Command, EditorState } from 'prosemirror-state';
import { isInTable } from 'prosemirror-tables';
import type { EditorView } from 'prosemirror-view';
import { firstValueFrom } from 'rxjs';
import { Acting } from '../../acting/acting';
import { ACTS, keysTold } from '../../acting/acts';
import type { ActId } from '../../acting/acts';
import { Api, saidOf } from '../../api/api';
import { LiveDocument } from '../../document/live-document';
import { COMMANDS, MARK_OF, hasMark, imageIn, setMark } from './commands';
import type { CommandId } from './commands';
import { ImageForm } from './image-form';
import { LinkForm } from './link-form';
import { stretchOf } from './links';

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
  imports: [ImageForm, LinkForm, MatIconModule, MatMenuModule, MatTooltipModule],
  templateUrl: './tools.html',
  styleUrl: './tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Tools {
  readonly view = input.required<EditorView>();
  readonly state = input.required<EditorState>();
  readonly document = input.required<string>();

  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialog);
  private readonly live = inject(LiveDocument);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');
  protected readonly acts = ACTS;
  protected readonly kinds = KINDS;
  protected readonly looks = LOOKS;
  protected readonly reversals = ['undo', 'redo'] as const;
  /** What is asked about beside the rail. */
  protected readonly asking = signal<'nothing' | 'link' | 'image'>('nothing');
  protected readonly folded = signal(localStorage.getItem(FOLDED) === 'yes');
  protected readonly foldingSaid = computed(() =>
    this.folded() ? $localize`Unfold the writing tools` : $localize`Fold the writing tools`,
  );
  protected readonly inTable = computed(() => isInTable(this.state()));
  protected readonly image = computed(() => imageIn(this.state()));
  protected readonly stretch = computed(() => stretchOf(this.state()));
  protected readonly blockIcon = computed(() => {
    const { $from } = this.state().selection;
    for (let depth = $from.depth; depth > 0; depth--) {
      const icon = ICONS[$from.node(depth).type.name];
      if (icon) return icon;
    }
    return 'paragraph';
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

  /** What a tool is called, with its keys. */
  protected told(id: ActId): string {
    const { label, keys } = ACTS[id];
    return keys ? `${label} (${keysTold(keys)})` : label;
  }

  /** Whether an act can be done; asked anew with each state of the page. */
  protected can(id: CommandId): boolean {
    return this.state() && COMMANDS[id](this.view().state);
  }

  protected run(id: CommandId): void {
    this.runCommand(COMMANDS[id]);
  }

  protected runCommand(command: Command): void {
    const view = this.view();
    command(view.state, (tr) => view.dispatch(tr), view);
    view.focus();
  }

  protected isOn(id: CommandId): boolean {
    const mark = MARK_OF[id];
    return mark !== undefined && hasMark(this.state(), mark);
  }

  /** Whether there is something to undo or redo; asked anew with each state of the page. */
  protected mayUndo(which: 'undo' | 'redo'): boolean {
    return this.state() && this.live.acts.can(which);
  }

  protected undo(which: 'undo' | 'redo'): void {
    this.live.acts.undo(which);
    this.view().focus();
  }

  protected ask(what: 'link' | 'image'): void {
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

  protected async askSetUp(): Promise<void> {
    const { askPageSetup } = await import('./page-setup');
    await askPageSetup(this.view(), this.dialog);
  }

  protected fold(): void {
    this.folded.update((folded) => !folded);
    localStorage.setItem(FOLDED, this.folded() ? 'yes' : 'no');
  }

  /** Arrow keys go along the rail. */
  protected along(event: Event, direction: 1 | -1): void {
    const buttons = [...this.element.nativeElement.querySelectorAll<HTMLElement>('.rail > button:enabled')];
    const at = buttons.indexOf(event.target as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    buttons.at((at + direction) % buttons.length)?.focus();
  }

  protected async insertImage(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    try {
      const { hash } = await firstValueFrom(this.api.storeImage(this.document(), file));
      const view = this.view();
      const image = schema.node('image', { hash, alt: file.name.replace(/\.\w+$/, '') });
      view.dispatch(view.state.tr.replaceSelectionWith(image));
    } catch (error) {
      this.live.said.next(saidOf(error));
    }
    this.picker().nativeElement.value = '';
  }
}
