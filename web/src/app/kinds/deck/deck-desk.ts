import { Injectable, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Person } from '@oxbow/contract';
import type { SlideView } from '@oxbow/core/kinds/deck';
import { slidesOf } from '@oxbow/core/kinds/deck';
import type { EditorState, Transaction } from 'prosemirror-state';
import { LiveDocument } from '../../document/live-document';
import { session } from '../../session/session.store';
import { WrittenPage } from '../../writing/written-page';
import { inHand, slideAt } from './in-hand';
import type { Thing } from './things';
import { enter, stationsOf, thingIn } from './things';

/** An open deck: its slides, the one in hand, and what is in hand on it. */
@Injectable()
export class DeckDesk {
  private readonly live = inject(LiveDocument);
  private readonly people = inject(Store).selectSignal(session.selectPeopleById);
  readonly view = inject(WrittenPage).view;
  readonly state = signal<EditorState | null>(null);
  readonly writable = signal(false);
  readonly inView = signal(true);

  private readonly doc = computed(() => this.state()?.doc ?? null);
  /** The slides in the order in which they are shown. */
  readonly slides = computed<readonly SlideView[]>(() => {
    const doc = this.doc();
    return doc ? slidesOf(doc) : [];
  });
  private readonly at = computed(() => {
    const state = this.state();
    return state ? inHand(state) : -1;
  });
  /** Which slide is in hand, from 0. */
  readonly index = computed(() => {
    const at = this.at();
    return Math.max(
      0,
      this.slides().findIndex((slide) => slide.at === at),
    );
  });
  readonly slide = computed<SlideView | null>(() => this.slides()[this.index()] ?? null);
  /** The box or picture in hand. */
  readonly thing = computed<Thing | null>(() => {
    const [state, slide] = [this.state(), this.slide()];
    const thing = state && thingIn(state);
    return thing && slide && thing.at > slide.at && thing.at < slide.at + slide.node.nodeSize ? thing : null;
  });
  /** Who else is on which slide, by its name. */
  readonly guests = computed<ReadonlyMap<string, readonly Person[]>>(() => {
    const [doc, slides, people] = [this.doc(), this.slides(), this.people()];
    const out = new Map<string, Person[]>();
    for (const { person: id, head, seq } of doc ? this.live.others().values() : []) {
      const [person, here] = [people.get(id), this.live.here(head, seq)];
      const at = doc && here !== null ? slideAt(doc, here) : -1;
      const slide = slides.find((one) => one.at === at);
      if (person && slide) out.set(slide.id, [...(out.get(slide.id) ?? []), person]);
    }
    return out;
  });

  /** Takes another slide in hand: the caret goes to its title. */
  goTo(index: number): void {
    const [view, slide] = [this.view(), this.slides()[index]];
    const [title] = slide ? stationsOf(slide) : [];
    if (view && title) view.dispatch(enter(view.state.tr, title).scrollIntoView());
  }

  /** Does something to the deck. Answers whether anything came of it. */
  act(run: (tr: Transaction, slide: SlideView) => void): boolean {
    const [view, slide] = [this.view(), this.slide()];
    if (!view || !slide || !this.writable()) return false;
    const { tr } = view.state;
    run(tr, slide);
    if (!tr.docChanged) return false;
    view.dispatch(tr.scrollIntoView());
    return true;
  }

  focus(): void {
    this.view()?.focus();
  }
}
