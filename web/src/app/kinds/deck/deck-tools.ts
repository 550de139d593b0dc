import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  viewChild,
} from '@angular/core';
import type { ActId } from '../../acting/acts';
import { isOn } from '../../writing/commands';
import type { ProseCommandId } from '../../writing/commands';
import { ImageForm } from '../../writing/image-form';
import { LinkForm } from '../../writing/link-form';
import { Rail, itemOf, toldOf, toolOf } from '../../writing/rail';
import type { RailItem, RailTool } from '../../writing/rail';
import { DeckActs, LAYOUT_NAMES } from './deck-acts';
import { DeckDesk } from './deck-desk';

const MARKS = ['bold', 'italic', 'underline'] as const;
const TEXT: readonly ProseCommandId[] = [
  'bulletList',
  'numberedList',
  'outOf',
  'alignStart',
  'alignCenter',
  'alignEnd',
  'strike',
  'subscript',
  'superscript',
  'code',
  'plainLook',
];
const THINGS: readonly ActId[] = ['aboutImage', 'toFront', 'toBack', 'removeThing'];
const SLIDE: readonly ActId[] = ['copySlide', 'slideBefore', 'slideAfter', 'hideSlide', 'removeSlide'];

/** Tools for slides and for what is on them, beside the slide in hand. */
@Component({
  selector: 'ox-deck-tools',
  imports: [ImageForm, LinkForm, Rail],
  template: `
    <ox-rail name="Tools for slides" i18n-name side="left" [tools]="tools()" (closed)="acts.back()" />
    <input
      #picker
      class="unseen"
      type="file"
      accept="image/png,image/jpeg,image/gif,image/webp"
      tabindex="-1"
      aria-label="Picture to insert"
      i18n-aria-label
      (change)="insert(picker)"
    />
    @if (acts.asking() === 'link' && desk.view(); as view) {
      <ox-link-form [view]="view" (closed)="leave()" />
    }
    @if (acts.asking() === 'picture' && picture(); as image) {
      <ox-image-form [view]="desk.view()!" [image]="image" (closed)="leave()" />
    }
  `,
  styleUrl: './deck-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeckTools {
  readonly document = input.required<string>();
  protected readonly acts = inject(DeckActs);
  protected readonly desk = inject(DeckDesk);
  private readonly rail = viewChild.required(Rail);
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');
  /** The picture in hand. */
  protected readonly picture = computed(() => {
    const thing = this.desk.thing();
    return thing?.node.type.name === 'frame' ? { position: thing.at, attrs: thing.node.attrs } : null;
  });

  protected readonly tools = computed((): RailTool[][] => {
    const state = this.desk.state();
    if (!state) return [];
    const tool = (id: ActId, more: Partial<RailTool> = {}): RailTool =>
      toolOf(id, () => this.acts.run(id), { off: !this.acts.can(id), ...more });
    const show: RailTool =
      this.acts.landmarks().length > 0
        ? { ...tool('showSlides'), run: undefined, menu: () => this.showings() }
        : tool('showSlides');
    if (!this.desk.writable()) return [[show]];
    const thing = this.desk.thing();
    return [
      [show],
      [tool('undo'), tool('redo')],
      [
        { label: $localize`Add a slide`, told: toldOf('addSlide'), icon: 'add', menu: () => this.layouts() },
        { label: $localize`This slide`, icon: 'slide', menu: () => this.ofSlide() },
      ],
      [
        tool('addBox', { label: $localize`Add a text box` }),
        tool('insertImage', { label: $localize`Add a picture` }),
        ...(thing ? [this.ofThing(thing.node.type.name === 'frame')] : []),
      ],
      [
        ...MARKS.map((id) =>
          toolOf(id, () => this.acts.write(id), { on: isOn(state, id), off: !this.acts.canWrite(id) }),
        ),
        tool('link', { label: $localize`Link`, open: this.acts.asking() === 'link' }),
        { label: $localize`More about this text`, icon: 'more', menu: () => this.text() },
      ],
    ];
  });

  /** Goes to the tools. */
  focus(): void {
    this.rail().focus();
  }

  /** Asks for a picture to put on the slide. */
  pick(): void {
    this.picker().nativeElement.click();
  }

  private items(ids: readonly ActId[]): RailItem[] {
    return ids.map((id) =>
      itemOf(id, () => this.acts.run(id), { label: toldOf(id), off: !this.acts.can(id) }),
    );
  }

  private showings(): RailItem[] {
    return [
      itemOf('showSlides', () => this.acts.run('showSlides'), {
        label: $localize`Show the slides as they are now`,
      }),
      ...this.acts.landmarks().map((landmark) => ({
        label: $localize`Show the deck as “${landmark.name}”`,
        icon: 'mark',
        run: () => void this.acts.showAs(landmark),
      })),
    ];
  }

  private layouts(): RailItem[] {
    return this.acts.layouts.map((layout) => ({
      label: LAYOUT_NAMES[layout],
      run: () => this.acts.add(layout),
    }));
  }

  private ofSlide(): RailItem[] {
    const now = this.desk.slide()?.node.attrs['layout'];
    return [
      ...this.items(SLIDE).map((item, i) =>
        SLIDE[i] === 'hideSlide' ? { ...item, chosen: this.desk.slide()?.hidden === true } : item,
      ),
      ...this.acts.layouts.map((layout) => ({
        label: $localize`Title as in “${LAYOUT_NAMES[layout]}”`,
        chosen: layout === now,
        run: () => this.acts.layOut(layout),
      })),
    ];
  }

  private ofThing(isPicture: boolean): RailTool {
    return {
      label: isPicture ? $localize`This picture` : $localize`This box`,
      icon: isPicture ? 'image' : 'box',
      on: true,
      menu: () =>
        isPicture
          ? this.items(THINGS).map((item, i) =>
              THINGS[i] === 'aboutImage' ? { ...item, label: $localize`What it shows …` } : item,
            )
          : this.items(THINGS.filter((id) => id !== 'aboutImage')),
    };
  }

  private text(): RailItem[] {
    return TEXT.map((id) => itemOf(id, () => this.acts.write(id), { off: !this.acts.canWrite(id) }));
  }

  protected insert(picker: HTMLInputElement): void {
    const [file] = picker.files ?? [];
    if (file) void this.acts.insertPicture(file);
    picker.value = '';
  }

  protected leave(): void {
    this.acts.asking.set('nothing');
    this.desk.focus();
  }
}
