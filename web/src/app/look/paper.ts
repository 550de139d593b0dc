import { DOCUMENT } from '@angular/common';
import { ApplicationRef, Injectable, inject, signal } from '@angular/core';

/** Pixels beyond what is in view that hold any list. */
const EVERYTHING = 1e7;

/** Whether the page is being printed: what is made as one scrolls is made whole then. */
@Injectable({ providedIn: 'root' })
export class Paper {
  private readonly app = inject(ApplicationRef);
  private readonly on = signal(false);

  constructor() {
    const window = inject(DOCUMENT).defaultView;
    window?.addEventListener('beforeprint', () => this.turn(true));
    window?.addEventListener('afterprint', () => this.turn(false));
  }

  /** How many pixels of a list are made beyond what is in view: all of it while it is printed. */
  reach(pixels: number): number {
    return this.on() ? EVERYTHING : pixels;
  }

  /** The browser looks at the page as soon as it has told: what changes is drawn at once. */
  private turn(printing: boolean): void {
    this.on.set(printing);
    this.app.tick();
  }
}
