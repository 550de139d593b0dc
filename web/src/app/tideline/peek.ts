import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import type { Moment } from '@oxbow/contract';
import { asTold } from '@oxbow/core/content';
import { documentOf, kindOf } from '@oxbow/core/kinds';
import { LRUCache } from 'lru-cache';
import { DOMSerializer, Fragment } from 'prosemirror-model';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { KINDS_ON_SCREEN } from '../document/kinds';
import { fullTime } from '../look/time';

/** Milliseconds the pointer rests before a page is fetched. */
const REST = 140;
/** Blocks of the page that are drawn: what fits the picture. */
const BLOCKS = 16;

const pages = new LRUCache<string, Moment>({ max: 80 });

/** A small picture of the page as it was, while the pointer is on the line. */
@Component({
  selector: 'ox-peek',
  template: `
    <p i18n class="when">{!!when(), select, true {{{ when() }}} other {a moment …}}</p>
    <div class="clip" aria-hidden="true"><div #page class="page-text small"></div></div>
  `,
  styleUrl: './peek.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Peek {
  readonly document = input.required<string>();
  readonly seq = input.required<number>();
  /** How far down the page the reader is, from 0 to 1: the picture shows the same part. */
  readonly depth = input(0);

  private readonly api = inject(Api);
  private readonly kinds = inject(KINDS_ON_SCREEN);
  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');
  protected readonly when = signal('');

  constructor() {
    effect((onCleanup) => {
      const [document, seq, depth] = [this.document(), this.seq(), this.depth()];
      const held = pages.get(`${document} ${seq}`);
      if (held) return void this.draw(held, depth);
      const timer = setTimeout(() => void this.fetch(document, seq, depth), REST);
      onCleanup(() => clearTimeout(timer));
    });
  }

  private async fetch(document: string, seq: number, depth: number): Promise<void> {
    try {
      const moment = await firstValueFrom(this.api.moment(document, seq));
      pages.set(`${document} ${seq}`, moment);
      if (seq === this.seq()) await this.draw(moment, depth);
    } catch (error) {
      this.when.set(saidOf(error));
    }
  }

  private async draw(moment: Moment, depth: number): Promise<void> {
    const doc = asTold(documentOf(moment.content));
    const drawn = await this.kinds[kindOf(doc).name]?.drawn?.();
    if (moment.seq !== this.seq()) return;
    this.show(moment);
    if (drawn) return this.page().nativeElement.replaceChildren(drawn(doc, [], { lines: BLOCKS, depth }));
    const start = Math.max(0, Math.min(doc.childCount - BLOCKS, Math.floor(depth * doc.childCount)));
    const blocks = Array.from({ length: Math.min(BLOCKS, doc.childCount - start) }, (_, i) =>
      doc.child(start + i),
    );
    const page = this.page().nativeElement;
    page.replaceChildren(
      DOMSerializer.fromSchema(doc.type.schema).serializeFragment(Fragment.fromArray(blocks)),
    );
    for (const image of page.querySelectorAll('img')) image.remove();
  }

  private show(moment: Moment): void {
    this.when.set(
      $localize`${moment.version === null ? '' : $localize`Version ${moment.version}, `}${fullTime(moment.at)}, ${moment.words} words`,
    );
  }
}
