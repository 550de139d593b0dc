import { textSchema as schema } from '@oxbow/core/kinds/text';
import type { Room } from '@oxbow/server';
import type { Node } from 'prosemirror-model';
import { Fragment } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { Random } from '@oxbow/core/testing';
import type { Line, Supply } from './prose.js';

type Wanted = Parameters<Room['submit']>[0]['edits'][number];

/** A top-level block with its place. */
interface Block {
  readonly node: Node;
  readonly at: number;
}

/** Somebody's hand on a document: every act becomes the edits that typing it would have made, with their times. */
export class Hand {
  readonly edits: Wanted[] = [];

  constructor(
    public doc: Node,
    private readonly random: Random,
    public now: number,
    private counter: number,
    /** The edit that `doc` is at. */
    private readonly base: number,
  ) {}

  /** One edit of any kind. */
  act(change: (tr: Transform) => void, sources: Wanted['sources'] = []): void {
    const tr = new Transform(this.doc);
    change(tr);
    if (!tr.docChanged) return;
    this.now += this.random.between(450, 1900);
    this.doc = tr.doc;
    this.edits.push({
      counter: this.counter++,
      steps: tr.steps,
      sources,
      writtenAt: this.now,
      cause: { kind: 'writing' },
      at: this.now,
    });
  }

  /** Types a text, in bursts, now and then with a slip that is put right. */
  type(at: number, text: string): void {
    let position = at;
    for (let i = 0; i < text.length;) {
      const burst = text.slice(i, i + this.random.between(4, 14));
      const from = position;
      if (burst.length > 5 && this.random.chance(0.06)) {
        const slip = burst.slice(0, -3) + burst.slice(-2);
        this.act((tr) => tr.insert(from, schema.text(slip)));
        this.act((tr) => tr.delete(from + slip.length - 2, from + slip.length));
        this.act((tr) => tr.insert(from + slip.length - 2, schema.text(burst.slice(-3))));
      } else this.act((tr) => tr.insert(from, schema.text(burst)));
      position += burst.length;
      i += burst.length;
    }
  }

  blocks(type?: string): Block[] {
    const out: Block[] = [];
    this.doc.forEach((node, at) => {
      if (!type || node.type.name === type) out.push({ node, at });
    });
    return out;
  }

  heading(text: string, level: number): void {
    const [only] = this.blocks();
    if (only && this.doc.childCount === 1 && only.node.content.size === 0)
      this.act((tr) => tr.setBlockType(1, 1, schema.nodes.heading, { level }));
    else this.act((tr) => tr.insert(tr.doc.content.size, schema.node('heading', { level })));
    this.type(this.doc.content.size - 1, text);
  }

  /** A new paragraph behind a random one, or at the end. */
  paragraph(text: string, atEnd = false): void {
    const blocks = this.blocks('paragraph');
    const behind = atEnd || blocks.length === 0 ? null : this.random.pick(blocks);
    const at = behind ? behind.at + behind.node.nodeSize : this.doc.content.size;
    this.act((tr) => tr.insert(at, schema.node('paragraph')));
    this.type(at + 1, text);
  }

  /** Writes a sentence where it belongs in its section. */
  write({ section, sentence, after, behind }: Line): void {
    const blocks = this.blocks();
    const begin = blocks.findIndex(
      ({ node }) => node.type.name === 'heading' && node.textContent.trim() === section,
    );
    const own = blocks.slice(begin + 1);
    const end = own.findIndex(({ node }) => node.type.name === 'heading');
    const paragraphs = (end < 0 ? own : own.slice(0, end)).filter(
      ({ node }) => node.type.name === 'paragraph',
    );
    const home =
      paragraphs.find(({ node }) => after.some((one) => holds(node, one))) ??
      (after.length === 0 ? null : paragraphs.at(-1));
    if (home) {
      const lead = home.node.content.size > 0 ? ' ' : '';
      return this.type(home.at + 1 + home.node.content.size, lead + sentence);
    }
    const before = paragraphs.find(({ node }) => holds(node, behind)) ?? paragraphs.at(-1) ?? blocks[begin];
    const at = before ? before.at + before.node.nodeSize : this.doc.content.size;
    this.act((tr) => tr.insert(at, schema.node('paragraph')));
    this.type(at + 1, sentence);
  }

  /** Writes the next sentences of a text. */
  begin(supply: Supply, count: number): void {
    for (let i = 0; i < count; i++) {
      const line = supply.next(this.random);
      if (line) this.write(line);
    }
  }

  /** Puts some words otherwise, or back as they were; answers whether any of them stood there. */
  turn(turns: Supply['text']['turns']): boolean {
    const found = this.blocks('paragraph').flatMap(({ node, at }) => {
      const text = node.textContent;
      if (text.length !== node.content.size) return [];
      return turns.flatMap(([one, other]) =>
        [
          [one, other],
          [other, one],
        ].flatMap(([from = '', to = '']) => {
          const place = text.indexOf(from);
          return place < 0 || (to.includes(from) && text.includes(to))
            ? []
            : [{ at: at + 1 + place, from, to }];
        }),
      );
    });
    if (found.length === 0) return false;
    const { at, from, to } = this.random.pick(found);
    const [head, tail] = alike(from, to);
    this.act((tr) => tr.delete(at + head, at + from.length - tail));
    this.type(at + head, to.slice(head, to.length - tail));
    return true;
  }

  /** Drops one of the sentences that were not meant to stay; answers whether one stood there. */
  drop(passing: readonly string[]): boolean {
    for (const { node, at } of this.blocks('paragraph'))
      for (const sentence of passing) {
        const place = node.textContent.indexOf(sentence);
        if (place < 0) continue;
        const alone = node.textContent.trim() === sentence;
        const from = place > 0 ? place - 1 : place;
        if (alone) this.act((tr) => tr.delete(at, at + node.nodeSize));
        else this.act((tr) => tr.delete(at + 1 + from, at + 1 + place + sentence.length));
        return true;
      }
    return false;
  }

  /** Moves a paragraph to another place in its section. */
  moveParagraph(): void {
    const sections: Block[][] = [[]];
    for (const block of this.blocks()) {
      if (block.node.type.name === 'heading') sections.push([]);
      else if (block.node.type.name === 'paragraph') sections.at(-1)?.push(block);
    }
    const blocks = this.random.pick(sections);
    if (blocks.length < 2) return;
    const [from, to] = [this.random.pick(blocks), this.random.pick(blocks)];
    if (from.at === to.at) return;
    const length = from.node.nodeSize;
    const known = this.edits.length === 0;
    this.act(
      (tr) => {
        tr.delete(from.at, from.at + length);
        tr.insert(tr.mapping.map(to.at), from.node);
      },
      known ? [{ step: 1, at: 0, length, moment: this.base, position: from.at }] : [],
    );
  }

  emphasise(): void {
    const { node, at } = this.random.pick(this.blocks('paragraph'));
    const words = [...node.textContent.matchAll(/\b[A-Za-z]{5,}\b/g)];
    if (words.length === 0) return;
    const word = this.random.pick(words);
    const from = at + 1 + word.index;
    this.act((tr) =>
      tr.addMark(from, from + word[0].length, schema.mark(this.random.pick(['bold', 'italic'] as const))),
    );
  }

  /** A list item at the end of the first list, made when there is none. */
  item(text: string, kind: 'bullet_list' | 'check_list' = 'bullet_list'): void {
    const child = kind === 'check_list' ? schema.nodes.check_item : schema.nodes.list_item;
    const empty = child.create(null, schema.node('paragraph'));
    const [list] = this.blocks(kind);
    if (!list) this.act((tr) => tr.insert(tr.doc.content.size, schema.node(kind, null, [empty])));
    else this.act((tr) => tr.insert(list.at + list.node.nodeSize - 1, empty));
    const held = this.blocks(kind)[0] as Block;
    this.type(held.at + held.node.nodeSize - 3, text);
  }

  tick(): void {
    const [list] = this.blocks('check_list');
    if (!list) return;
    const index = this.random.between(0, list.node.childCount - 1);
    let at = list.at + 1;
    for (let i = 0; i < index; i++) at += list.node.child(i).nodeSize;
    this.act((tr) => tr.setNodeAttribute(at, 'checked', !list.node.child(index).attrs['checked']));
  }

  /** A table with a heading row and nothing below it. */
  table(headings: readonly string[]): void {
    const cells = headings.map(() => schema.node('table_header', null, [schema.node('paragraph')]));
    this.act((tr) =>
      tr.insert(tr.doc.content.size, schema.node('table', null, [schema.node('table_row', null, cells)])),
    );
    this.fillLastRow(headings);
  }

  row(texts: readonly string[]): void {
    const table = this.blocks('table').at(-1);
    if (!table) return;
    const cells = texts.map(() => schema.node('table_cell', null, [schema.node('paragraph')]));
    this.act((tr) => tr.insert(table.at + table.node.nodeSize - 1, schema.node('table_row', null, cells)));
    this.fillLastRow(texts);
  }

  private fillLastRow(texts: readonly string[]): void {
    for (const [i, text] of texts.entries()) {
      const table = this.blocks('table').at(-1);
      const row = table?.node.lastChild;
      if (!table || !row) return;
      let at = table.at + table.node.nodeSize - 1 - row.nodeSize + 1;
      for (let k = 0; k < i; k++) at += row.child(k).nodeSize;
      this.type(at + 2, text);
    }
  }

  /** Everything from a block on is gone at one stroke. */
  wipeFrom(index: number): void {
    const block = this.blocks()[index];
    if (block)
      this.act((tr) =>
        tr.replaceWith(block.at, tr.doc.content.size, Fragment.from(schema.node('paragraph'))),
      );
  }

  /** Whatever a person does to a text on an ordinary day. */
  ordinary(supply: Supply): void {
    const roll = this.random.next();
    const { pace } = supply;
    const line =
      roll < pace ? supply.next(this.random) : roll < pace + 0.03 ? supply.draft(this.random) : null;
    if (line) this.write(line);
    else if (roll < pace + 0.1 && this.drop(supply.passing)) return;
    else if (roll < 0.96 && this.turn(supply.text.turns)) return;
    else if (roll < 0.985) this.moveParagraph();
    else this.emphasise();
  }
}

/** Whether a paragraph holds a sentence, or what became of it: its first words. */
function holds(node: Node, sentence: string | null): boolean {
  return sentence !== null && node.textContent.includes(sentence.slice(0, 13));
}

/** How many letters two texts share at their beginnings, and at their ends, in whole words. */
function alike(one: string, other: string): [head: number, tail: number] {
  const [a, b] = [one.split(' '), other.split(' ')];
  const most = Math.min(a.length, b.length) - 1;
  let head = 0;
  while (head < most && a[head] === b[head]) head++;
  let tail = 0;
  while (tail < most - head && a.at(-1 - tail) === b.at(-1 - tail)) tail++;
  const length = (words: readonly string[]): number => words.reduce((sum, word) => sum + word.length + 1, 0);
  return [length(a.slice(0, head)), length(a.slice(a.length - tail))];
}
