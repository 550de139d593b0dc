import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  signal,
} from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import type { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { slidesOf } from '@oxbow/core/kinds/deck';
import type { Node } from 'prosemirror-model';
import { firstValueFrom } from 'rxjs';
import { SlidePicture } from './slide-picture';

/** A deck that is to be shown. */
export interface Shown {
  readonly document: string;
  readonly doc: Node;
  /** What it is shown as, such as the name of a landmark. */
  readonly title: string;
  /** The slide to begin with, by its name; null for the first. */
  readonly from: string | null;
}

/** Slides shown one after the other, full screen where the browser allows it. Hidden ones are left out. */
@Component({
  selector: 'ox-showing',
  imports: [MatIconModule, SlidePicture],
  templateUrl: './showing.html',
  styleUrl: './showing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'key($event)', '(document:fullscreenchange)': 'left()' },
})
export class Showing {
  protected readonly shown = inject<Shown>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<Showing>>(MatDialogRef);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected readonly slides = ((all) => {
    const seen = all.filter(({ hidden, id }) => !hidden || id === this.shown.from);
    return seen.length > 0 ? seen : all;
  })(slidesOf(this.shown.doc));
  protected readonly at = signal(
    Math.max(
      0,
      this.slides.findIndex(({ id }) => id === this.shown.from),
    ),
  );
  protected readonly slide = computed(() => this.slides[this.at()]);
  protected readonly speaks = signal(false);
  protected readonly notes = computed(() => {
    const notes = this.slide()?.node.lastChild;
    return notes ? notes.children.map(({ textContent }) => textContent).filter(Boolean) : [];
  });
  /** A number that is being typed, to go to that slide. */
  private typed = '';
  private isFull = false;

  constructor() {
    afterNextRender(() => {
      // Where the browser does not allow the full screen, the window is filled.
      this.element.requestFullscreen().then(
        () => (this.isFull = true),
        () => (this.isFull = false),
      );
    });
    inject(DestroyRef).onDestroy(() => {
      if (document.fullscreenElement === this.element) void document.exitFullscreen();
    });
  }

  protected left(): void {
    if (this.isFull && document.fullscreenElement === null) this.close();
  }

  protected close(): void {
    this.dialog.close(this.slide()?.id);
  }

  protected go(to: number): void {
    this.typed = '';
    this.at.set(Math.max(0, Math.min(this.slides.length - 1, to)));
  }

  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { key } = event;
    if (/^\d$/.test(key)) {
      this.typed += key;
      event.stopPropagation();
      return;
    }
    const [at, last] = [this.at(), this.slides.length - 1];
    const onButton = event.target instanceof HTMLButtonElement;
    const acts: Record<string, (() => void) | undefined> = {
      ArrowRight: () => this.go(at + 1),
      ArrowDown: () => this.go(at + 1),
      PageDown: () => this.go(at + 1),
      ' ': onButton ? undefined : () => this.go(at + 1),
      Enter: onButton ? undefined : () => this.go(this.typed ? Math.max(0, Number(this.typed) - 1) : at + 1),
      ArrowLeft: () => this.go(at - 1),
      ArrowUp: () => this.go(at - 1),
      PageUp: () => this.go(at - 1),
      Backspace: () => this.go(at - 1),
      Home: () => this.go(0),
      End: () => this.go(last),
      n: () => this.speaks.update((speaks) => !speaks),
      Escape: () => this.close(),
    };
    const act = acts[key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }
}

/** Shows slides. Answers the name of the slide at which that was left. */
export function showSlides(dialog: MatDialog, data: Shown): Promise<string | undefined> {
  return firstValueFrom(
    dialog
      .open<Showing, Shown, string>(Showing, {
        data,
        width: '100vw',
        maxWidth: '100vw',
        height: '100dvh',
        panelClass: 'showing-panel',
        autoFocus: '.stage',
        ariaLabel: data.title,
      })
      .afterClosed(),
  );
}
