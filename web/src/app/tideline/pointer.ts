/** Pixels the pointer moves before a press becomes a brush, or a finger's touch a push. */
const MOVED = 6;
/** Milliseconds a finger rests before it looks, as a mouse does by hovering. */
const REST = 450;

/** What a pointer does on the line, at places in pixels from its beginning. */
export interface LineActs {
  /** A handle is dragged to a place. */
  dragged(which: 'earlier' | 'later', x: number): void;
  /** A stretch is being brushed; null when none is any more. */
  brushing(area: { readonly x: number; readonly width: number } | null): void;
  /** A stretch was brushed. */
  brushed(from: number, to: number): void;
  /** The line is pushed along by so many pixels. */
  pushed(by: number): void;
  /** The place that is looked at; null when none is any more. */
  looked(x: number | null): void;
}

/**
 * Tells apart what is done with a mouse, a pen or a finger: a mouse looks by hovering and brushes by dragging; a finger looks by resting, pushes the
 * line by moving, and picks by a tap. A handle is dragged by any of them.
 */
export class LinePointer {
  private handle: 'earlier' | 'later' | null = null;
  private start: number | null = null;
  private last = 0;
  private area: { x: number; width: number } | null = null;
  private resting: ReturnType<typeof setTimeout> | null = null;
  private looks = false;
  private moved = false;

  constructor(private readonly acts: LineActs) {}

  /** Whether the last press did more than press, so that it picks nothing. */
  get didMore(): boolean {
    return this.moved;
  }

  grab(which: 'earlier' | 'later'): void {
    this.handle = which;
  }

  press({ button, pointerType }: PointerEvent, x: number): void {
    this.moved = false;
    this.looks = false;
    if (button !== 0) return;
    this.start = this.last = x;
    if (pointerType === 'touch')
      this.resting = setTimeout(() => {
        this.looks = this.moved = true;
        this.acts.looked(this.last);
      }, REST);
  }

  move({ pointerType }: PointerEvent, x: number): void {
    if (this.handle) return this.acts.dragged(this.handle, x);
    if (this.looks) this.acts.looked(x);
    else if (this.start === null) {
      if (pointerType === 'mouse') this.acts.looked(x);
    } else if (this.moved || Math.abs(x - this.start) > MOVED) {
      this.stopResting();
      this.moved = true;
      if (pointerType === 'touch') this.acts.pushed(this.last - x);
      else {
        this.acts.looked(null);
        this.area = { x: Math.min(x, this.start), width: Math.abs(x - this.start) };
        this.acts.brushing(this.area);
      }
    }
    this.last = x;
  }

  letGo(x: number): void {
    const { area, start } = this;
    this.end();
    if (area && start !== null) this.acts.brushed(start, x);
  }

  leave(): void {
    if (!this.looks) this.acts.looked(null);
    if (!this.area && !this.looks) this.end();
  }

  private end(): void {
    this.stopResting();
    if (this.looks) this.acts.looked(null);
    if (this.area) this.acts.brushing(null);
    this.looks = false;
    this.handle = this.start = this.area = null;
  }

  private stopResting(): void {
    if (this.resting !== null) clearTimeout(this.resting);
    this.resting = null;
  }
}
