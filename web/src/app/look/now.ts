import { DestroyRef, Injectable, inject, signal } from '@angular/core';
import { ago, fullTime } from './time';

/** Milliseconds after which times that tell how long ago something was are told anew. */
const TICK = 30_000;

/** The present, as times on the screen tell it: what reads it is told again as it goes on. */
@Injectable({ providedIn: 'root' })
export class Now {
  private readonly at = signal(new Date());

  constructor() {
    const timer = setInterval(() => this.at.set(new Date()), TICK);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }

  /** "10 minutes ago", "yesterday", "3 days ago". */
  ago(at: Date | number | string): string {
    return ago(at, this.at());
  }

  /** A time to the second, and how long ago it was. */
  fullTime(at: Date | number | string): string {
    return fullTime(at, this.at());
  }
}
