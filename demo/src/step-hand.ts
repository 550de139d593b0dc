import { freshIds } from '@oxbow/core/kinds/deck';
import type { Random } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { Sat, Seat } from './making.js';

/** Somebody's hand on a document: each thing it does is one edit, a few seconds after the one before. */
export abstract class StepHand implements Sat {
  readonly edits: Sat['edits'][number][] = [];
  protected doc: Node;
  private counter: number;
  now: number;

  constructor(
    { doc, at, counter }: Seat,
    protected readonly random: Random,
  ) {
    [this.doc, this.now, this.counter] = [doc, at, counter];
  }

  protected act(change: (tr: Transform) => void): void {
    const tr = new Transform(this.doc);
    change(tr);
    if (!tr.docChanged) return;
    this.now += this.random.between(1500, 9000);
    this.doc = tr.doc;
    this.edits.push({
      counter: this.counter++,
      steps: tr.steps,
      sources: [],
      writtenAt: this.now,
      cause: { kind: 'writing' },
      at: this.now,
    });
  }

  protected ids(count: number): string[] {
    return freshIds(count, () => this.random.next());
  }
}
