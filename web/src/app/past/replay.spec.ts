import type { WireEdit } from '@oxbow/contract';
import { blankDocument, textSchema } from '@oxbow/core/kinds/text';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { framesOf } from './frames';
import { DrawnStage } from './drawn-stage';
import { Replay } from './replay';
import { WrittenStage } from './written-stage';

/** Edits by two people, with the document after each. */
function written(): { edits: WireEdit[]; docs: Node[] } {
  const docs = [blankDocument()];
  const edits: WireEdit[] = [];
  const add = (author: string, change: (tr: Transform) => Transform): void => {
    const tr = change(new Transform(docs.at(-1) as Node));
    docs.push(tr.doc);
    edits.push({
      seq: docs.length - 1,
      author,
      acceptedAt: docs.length * 1000,
      writtenAt: 0,
      client: 'c',
      counter: docs.length,
      schema: 1,
      steps: tr.steps.map((step) => step.toJSON() as WireEdit['steps'][number]),
      sources: [],
      cause: { kind: 'writing' },
      wordsIn: 1,
      wordsOut: 0,
    });
  };
  add('ines', (tr) => tr.insert(1, textSchema.text('The gate is open.')));
  add('tobias', (tr) => tr.insert(1, textSchema.text('Note: ')));
  add('ines', (tr) => tr.split(6));
  add('tobias', (tr) => tr.delete(8, 12));
  add('ines', (tr) => tr.insert(1, textSchema.text('A ')).insert(3, textSchema.text('small ')));
  return { edits, docs };
}

describe('re-enacting', () => {
  it('shows after each step the document as it was, forward, backward and by jumps', () => {
    const page = document.createElement('div');
    const { edits, docs } = written();
    const replay = new Replay(new WrittenStage(page, 'guide', docs[0] as Node), () => 'teal');
    const frames = framesOf(edits, 'edit');
    for (const target of [1, 2, 3, 4, 5, 4, 2, 5, 0, 3, 3, 1]) {
      replay.goTo(target, frames, edits, false);
      expect(replay.doc.eq(docs[target] as Node))
        .withContext(String(target))
        .toBeTrue();
    }
    replay.restart();
    replay.goTo(1, framesOf(edits, 'sitting'), edits, false);
    expect(replay.doc.eq(docs.at(-1) as Node)).toBeTrue();
    replay.end();
  });

  it('marks what the shown step put in, where it stands then, and where something went', () => {
    const page = document.createElement('div');
    const { edits, docs } = written();
    const replay = new Replay(new WrittenStage(page, 'guide', docs[0] as Node), (author) =>
      author === 'ines' ? 'teal' : 'red',
    );
    const frames = framesOf(edits, 'edit');
    replay.goTo(2, frames, edits, false);
    expect(page.querySelector('.was-added')?.textContent).toBe('Note: ');
    expect(page.querySelector('.was-added')?.getAttribute('style')).toContain('red');
    replay.goTo(4, frames, edits, false);
    expect(page.querySelector('.play-gap')).not.toBeNull();
    replay.goTo(5, frames, edits, false);
    expect([...page.querySelectorAll('.was-added')].map((mark) => mark.textContent).join('')).toBe(
      'A small ',
    );
    replay.goTo(0, frames, edits, false);
    expect(page.querySelector('.was-added')).toBeNull();
    replay.end();
  });

  it('does the same on a page that is drawn anew after each step', () => {
    const page = document.createElement('div');
    const { edits, docs } = written();
    const drawn: string[] = [];
    const stage = new DrawnStage(
      page,
      docs[0] as Node,
      (doc, marks) => {
        drawn.push(`${doc.textContent} ${marks.map(({ who }) => who).join()}`);
        const element = document.createElement('p');
        element.className = marks[0]?.name ?? '';
        return element;
      },
      'guide',
    );
    const replay = new Replay(stage, (author) => author);
    const frames = framesOf(edits, 'edit');
    for (const target of [1, 4, 2, 5]) {
      replay.goTo(target, frames, edits, true);
      expect(replay.doc.eq(docs[target] as Node)).toBeTrue();
    }
    expect(drawn.at(-1)).toBe(`${docs[5]?.textContent ?? ''} ines,ines`);
    expect(page.querySelector('.was-added')).not.toBeNull();
    replay.end();
    expect(page.children.length).toBe(0);
  });
});
