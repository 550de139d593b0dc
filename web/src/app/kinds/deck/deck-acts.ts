import { Injectable, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import type { Landmark } from '@oxbow/contract';
import { documentOf } from '@oxbow/core/kinds';
import { LAYOUTS, moveLines, removeLine } from '@oxbow/core/kinds/deck';
import type { Layout } from '@oxbow/core/kinds/deck';
import { asTold } from '@oxbow/core/content';
import type { Node } from 'prosemirror-model';
import { firstValueFrom } from 'rxjs';
import { Acting } from '../../acting/acting';
import type { ActId } from '../../acting/acts';
import { Api, saidOf } from '../../api/api';
import { DeskHistory } from '../../document/history';
import { LiveDocument } from '../../document/live-document';
import { Comparing } from '../../reading/comparing';
import { stretchOf } from '../../writing/links';
import { WrittenPage } from '../../writing/written-page';
import type { ProseCommandId } from '../../writing/commands';
import { COMMANDS } from './commands';
import { DeckDesk } from './deck-desk';
import { addBox, addPicture, addSlide, restack } from './things';

/** What layouts are called. */
export const LAYOUT_NAMES: Readonly<Record<Layout, string>> = {
  title: $localize`Title`,
  text: $localize`Title and text`,
  two: $localize`Two columns`,
  picture: $localize`Text and picture`,
  blank: $localize`Title only`,
};

/** What the acts of a deck lead to on its page. */
export interface DeckWays {
  readonly document: () => string;
  readonly pickPicture: () => void;
  readonly find: () => void;
}

/** What can be done to an open deck, by buttons, keys, menus and the list of commands alike. */
@Injectable()
export class DeckActs {
  private readonly acting = inject(Acting);
  private readonly api = inject(Api);
  private readonly comparing = inject(Comparing);
  private readonly desk = inject(DeckDesk);
  private readonly dialog = inject(MatDialog);
  private readonly history = inject(DeskHistory);
  private readonly live = inject(LiveDocument);
  private readonly written = inject(WrittenPage);
  private ways: DeckWays | null = null;
  /** What is asked about beside the tools. */
  readonly asking = signal<'nothing' | 'link' | 'picture'>('nothing');
  /** Moments with a name: each is the deck as somebody may want to show it. */
  readonly landmarks = this.history.landmarks;

  /** Offers what can be done, as long as the page is there. */
  offer(ways: DeckWays): void {
    this.ways = ways;
    const { acting } = this;
    acting.offer(
      { undo: () => this.run('undo'), redo: () => this.run('redo') },
      (id) => this.free() && this.can(id),
    );
    acting.offer(
      Object.fromEntries((Object.keys(COMMANDS) as ProseCommandId[]).map((id) => [id, () => this.write(id)])),
      (id) => this.free() && this.canWrite(id as ProseCommandId),
    );
    // Slides are shown from the past, too.
    acting.offer(
      this.runs,
      (id) => (id === 'showSlides' ? this.dialog.openDialogs.length === 0 : this.free()) && this.can(id),
    );
    acting.offer({ findHere: () => ways.find() }, () => this.free());
    acting.offerFinding((typed) =>
      this.landmarks()
        .filter(({ name }) => name.toLowerCase().includes(typed.toLowerCase()))
        .map((landmark) => ({
          label: $localize`Show the deck as “${landmark.name}”`,
          about: $localize`The slides as they were at this landmark, full screen`,
          run: () => void this.showAs(landmark),
        })),
    );
  }

  private readonly runs: Partial<Record<ActId, () => void>> = {
    showSlides: () => void this.show(),
    addSlide: () => this.add('text'),
    copySlide: () => this.copy(),
    slideBefore: () => this.move(this.desk.index(), this.desk.index() - 1),
    slideAfter: () => this.move(this.desk.index(), this.desk.index() + 1),
    hideSlide: () => this.hide(),
    removeSlide: () => this.remove(),
    addBox: () => this.desk.act((tr, slide) => addBox(tr, slide)),
    insertImage: () => this.ways?.pickPicture(),
    aboutImage: () => this.asking.set('picture'),
    toFront: () => this.stack('front'),
    toBack: () => this.stack('back'),
    removeThing: () => this.removeThing(),
    link: () => this.asking.set('link'),
  };

  /** Whether an act can be done now. */
  can(id: ActId): boolean {
    const [slides, index, thing, state] = [
      this.desk.slides(),
      this.desk.index(),
      this.desk.thing(),
      this.desk.state(),
    ];
    if (id === 'showSlides') return slides.length > 0;
    if (!state || !this.desk.writable()) return false;
    if (id === 'undo' || id === 'redo') return this.live.acts.can(id);
    const needs: Partial<Record<ActId, boolean>> = {
      slideBefore: index > 0,
      slideAfter: index < slides.length - 1,
      removeSlide: slides.length > 1,
      aboutImage: thing?.node.type.name === 'frame',
      toFront: thing !== null,
      toBack: thing !== null,
      removeThing: thing !== null,
      link: stretchOf(state) !== null,
    };
    return needs[id] ?? true;
  }

  canWrite(id: ProseCommandId): boolean {
    const [state, view] = [this.desk.state(), this.desk.view()];
    return state !== null && view !== null && this.desk.writable() && COMMANDS[id](state);
  }

  /** Does an act, if it can be done now. */
  run(id: ActId): void {
    if (!this.can(id)) return;
    if (id === 'undo' || id === 'redo') this.live.acts.undo(id);
    else this.runs[id]?.();
    this.back();
  }

  write(id: ProseCommandId): void {
    const view = this.desk.view();
    if (view && this.desk.writable()) COMMANDS[id](view.state, (tr) => view.dispatch(tr), view);
    this.back();
  }

  /** One is on the slide again, unless something is asked. */
  back(): void {
    if (this.asking() === 'nothing' && this.dialog.openDialogs.length === 0) this.desk.focus();
  }

  private free(): boolean {
    return (
      this.desk.inView() &&
      this.dialog.openDialogs.length === 0 &&
      !/^(input|textarea|select)$/i.test(document.activeElement?.tagName ?? '')
    );
  }

  /** Adds a slide of a layout behind the one in hand. */
  add(layout: Layout): void {
    this.desk.act((tr) => addSlide(tr, this.desk.slides(), this.desk.index(), layout));
    this.desk.focus();
  }

  layOut(layout: Layout): void {
    this.desk.act((tr, slide) => {
      if (slide.node.attrs['layout'] !== layout) tr.setNodeAttribute(slide.at, 'layout', layout);
    });
    this.back();
  }

  private copy(): void {
    this.desk.act((tr, { node }) => addSlide(tr, this.desk.slides(), this.desk.index(), node));
  }

  /** Moves a slide so that it is shown at an index. */
  move(from: number, to: number): void {
    const slides = this.desk.slides();
    const slide = slides[from];
    if (!slide || to === from || to < 0 || to >= slides.length) return;
    this.desk.act((tr) => moveLines(tr, slides, [slide], to > from ? to + 1 : to));
  }

  private hide(): void {
    this.desk.act((tr, { at, hidden }) => tr.setNodeAttribute(at, 'hidden', !hidden));
  }

  /** Removes the slide in hand; the one that follows it is in hand then. */
  private remove(): void {
    const [slides, index] = [this.desk.slides(), this.desk.index()];
    const next = slides[index + 1] ?? slides[index - 1];
    if (!next) return;
    if (!this.desk.act((tr, slide) => removeLine(tr, slide))) return;
    this.desk.goTo(this.desk.slides().findIndex(({ id }) => id === next.id));
  }

  private stack(way: 'front' | 'back'): void {
    const thing = this.desk.thing();
    if (thing) this.desk.act((tr, slide) => restack(tr, slide, thing, way));
  }

  private removeThing(): void {
    const thing = this.desk.thing();
    if (thing) this.desk.act((tr) => tr.delete(thing.at, thing.at + thing.node.nodeSize));
  }

  /** Stores a picture and puts it on the slide in hand. */
  async insertPicture(file: File): Promise<void> {
    const document = this.ways?.document() ?? '';
    const [stored, ratio] = await Promise.all([this.written.store(document, file), ratioOf(file)]);
    if (stored) this.desk.act((tr, slide) => addPicture(tr, slide, { ...stored, ratio }));
  }

  /** Shows the slides as they are now, from the one in hand; while one reads the past, as they were at Later. */
  private async show(): Promise<void> {
    const look = this.comparing.look();
    if (look) {
      const title = this.landmarks().find(({ seq }) => seq === look.later.seq)?.name;
      const said = title ?? look.file ?? $localize`The slides as they were`;
      return this.showDeck(documentOf(look.later.content), said, null);
    }
    const doc = this.desk.state()?.doc;
    if (doc) await this.showDeck(doc, $localize`The slides as they are now`, this.desk.slide()?.id ?? null);
  }

  /** Shows the slides as they were at a landmark. */
  async showAs({ name, seq }: Landmark): Promise<void> {
    try {
      const { content } = await firstValueFrom(this.api.moment(this.ways?.document() ?? '', seq));
      await this.showDeck(documentOf(content), name, null);
    } catch (error) {
      this.live.said.next(saidOf(error));
    }
  }

  private async showDeck(doc: Node, title: string, from: string | null): Promise<void> {
    const { showSlides } = await import('./showing');
    const document = this.ways?.document() ?? '';
    const at = await showSlides(this.dialog, { document, doc: asTold(doc), title, from });
    if (!this.desk.inView()) return;
    if (from !== null && at !== undefined)
      this.desk.goTo(this.desk.slides().findIndex(({ id }) => id === at));
    this.desk.focus();
  }

  readonly layouts = LAYOUTS;
}

/** How many times as wide as high a picture is; of what the browser cannot draw, as a photograph usually is. */
async function ratioOf(file: File): Promise<number> {
  try {
    const { width, height } = await createImageBitmap(file);
    return width / Math.max(1, height);
  } catch {
    return 3 / 2;
  }
}
