import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  viewChild,
} from '@angular/core';
import type { Node } from 'prosemirror-model';
import type { DrawDocument, DrawnMark } from '../document/kinds';
import { Picking } from './picking';
import type { Picked } from './picking';

/** Most lines of a moment that are drawn to pick from. */
const LINES = 2000;

/** A moment of the past as it is drawn, to pick from: one piece of it, or the whole that holds it. */
@Component({
  selector: 'ox-pick-page',
  template: `<div
    #page
    class="page"
    role="application"
    tabindex="0"
    aria-label="The page as it was: arrow keys go about, Enter carries what is picked, W picks what holds it"
    i18n-aria-label
    (click)="clicked($event)"
    (keydown)="key($event)"
    (copy)="taken.emit(picks())"
  ></div>`,
  styles: `
    :host {
      display: block;
    }
    .page {
      overflow: auto;
      padding-block-end: 60px;
    }
    .page ::ng-deep [data-from] {
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PickPage extends Picking {
  readonly draw = input.required<DrawDocument>();

  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly picks = linkedSignal<Node, Picked>({ source: this.doc, computation: () => [] });
  private readonly marks = computed<readonly DrawnMark[]>(() =>
    this.gone().map(({ from, to }) => ({ from, to, name: 'gone', who: '' })),
  );

  constructor() {
    super();
    effect(() => {
      const drawn = this.draw()(this.doc(), this.marks(), {
        lines: LINES,
        document: this.document(),
      });
      this.page().nativeElement.replaceChildren(drawn);
    });
    effect(() => {
      const [one] = this.picks();
      this.marks();
      for (const element of this.pieces())
        element.classList.toggle(
          'picked',
          one !== undefined && placeOf(element).from === one.from && placeOf(element).to === one.to,
        );
    });
  }

  /** Picks the piece that a stretch lies in, or is. */
  override pick(from: number, to: number): void {
    const found = this.pieces().filter((piece) => placeOf(piece).from <= from && placeOf(piece).to >= to);
    const smallest = found.sort((one, other) => sizeOf(one) - sizeOf(other))[0];
    if (smallest) this.take(smallest);
  }

  override widen(): void {
    const [one] = this.picks();
    if (!one) return;
    const round = this.pieces().filter(
      (piece) =>
        placeOf(piece).from <= one.from && placeOf(piece).to >= one.to && sizeOf(piece) > one.to - one.from,
    );
    const next = round.sort((a, b) => sizeOf(a) - sizeOf(b))[0];
    if (next) this.take(next);
  }

  override positionAt(top: number): number | null {
    const found = this.pieces().find((piece) => piece.getBoundingClientRect().bottom > top);
    return found ? placeOf(found).from : null;
  }

  override heightOf(position: number): number | null {
    const found = this.pieces().find(
      (piece) => placeOf(piece).from <= position && placeOf(piece).to > position,
    );
    return found?.getBoundingClientRect().top ?? null;
  }

  private pieces(): HTMLElement[] {
    return [...this.page().nativeElement.querySelectorAll<HTMLElement>('[data-from]')];
  }

  private take(piece: HTMLElement): void {
    this.picks.set([placeOf(piece)]);
    this.picked.emit(this.picks());
    piece.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    this.element.nativeElement.querySelector<HTMLElement>('.page')?.focus({ preventScroll: true });
  }

  protected clicked({ target }: Event): void {
    const piece = (target as HTMLElement).closest<HTMLElement>('[data-from]');
    if (piece) this.take(piece);
  }

  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const acts: Record<string, () => void> = {
      Enter: () => this.sent.emit(),
      w: () => this.widen(),
      ArrowRight: () => this.go(1),
      ArrowLeft: () => this.go(-1),
      ArrowDown: () => this.goLine(1),
      ArrowUp: () => this.goLine(-1),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }

  /** The next or previous piece, in the order in which they are drawn. */
  private go(by: 1 | -1): void {
    const pieces = this.pieces();
    const at = this.indexIn(pieces);
    const next = pieces[at < 0 ? 0 : Math.max(0, Math.min(pieces.length - 1, at + by))];
    if (next) this.take(next);
  }

  /** The piece above or below, or the nearest beside that. */
  private goLine(by: 1 | -1): void {
    const pieces = this.pieces();
    const at = pieces[this.indexIn(pieces)];
    if (!at) return this.go(by);
    const { left, top, bottom } = at.getBoundingClientRect();
    const beyond = pieces.filter((piece) => {
      const box = piece.getBoundingClientRect();
      return by > 0 ? box.top >= bottom - 1 : box.bottom <= top + 1;
    });
    const far = (piece: HTMLElement): number => {
      const box = piece.getBoundingClientRect();
      return Math.abs(box.top - top) * 100 + Math.abs(box.left - left);
    };
    const next = beyond.sort((one, other) => far(one) - far(other))[0];
    if (next) this.take(next);
  }

  private indexIn(pieces: readonly HTMLElement[]): number {
    const [one] = this.picks();
    return pieces.findIndex((piece) => placeOf(piece).from === one?.from && placeOf(piece).to === one.to);
  }
}

function placeOf({ dataset }: HTMLElement): { readonly from: number; readonly to: number } {
  return { from: Number(dataset['from']), to: Number(dataset['to']) };
}

function sizeOf(piece: HTMLElement): number {
  const { from, to } = placeOf(piece);
  return to - from;
}
