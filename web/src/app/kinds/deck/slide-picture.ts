import { deckSchema as schema } from '@oxbow/core/kinds/deck';
import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, input } from '@angular/core';
import type { Node } from 'prosemirror-model';
import { imageAddress } from '../../document/drawn';
import { draw } from '../../reading/draw';

/** Draws one slide as it is shown. `document` is whose images are shown. */
export function drawSlide(slide: Node, document: string): DocumentFragment {
  const doc = schema.node('deck', null, [slide]);
  const image = (hash: string): string => imageAddress(document, hash);
  return draw({ doc, marks: [], ghosts: [], other: null, image }, 0, doc.content.size);
}

/** A slide to look at, as large as there is room for. */
@Component({
  selector: 'ox-slide-picture',
  template: '',
  styles: ':host { display: block; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'page-text slide-picture' },
})
export class SlidePicture {
  readonly slide = input.required<Node>();
  readonly document = input.required<string>();
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  constructor() {
    effect(() => this.element.replaceChildren(drawSlide(this.slide(), this.document())));
  }
}
