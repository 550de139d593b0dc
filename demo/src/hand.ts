import { textSchema as schema } from '@oxbow/core/content';
import type { Room } from '@oxbow/server';
import type { Node } from 'prosemirror-model';
import { Fragment } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import type { Random } from '@oxbow/core/testing';
import { anotherWord, sentence } from './prose.js';

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

  addSentence(): void {
    const short = this.blocks('paragraph').filter(({ node }) => node.content.size < 700);
    const block = short.length > 0 ? this.random.pick(short) : null;
    if (!block) return this.paragraph(sentence(this.random));
    const lead = block.node.content.size > 0 ? ' ' : '';
    this.type(block.at + 1 + block.node.content.size, lead + sentence(this.random));
  }

  swapWord(): void {
    const block = this.random.pick(this.blocks('paragraph'));
    const swap = anotherWord(this.random, block.node.textContent);
    if (!swap || block.node.textContent.length !== block.node.content.size) return;
    const from = block.at + 1 + swap.at;
    this.act((tr) => tr.delete(from, from + swap.length));
    this.type(from, swap.word);
  }

  dropSentence(): void {
    const long = this.blocks('paragraph').filter(({ node }) => node.content.size > 240);
    if (long.length === 0) return;
    const { node, at } = this.random.pick(long);
    const found = [...node.textContent.matchAll(/[^.]+\. ?/g)];
    const match = this.random.pick(found);
    if (match) this.act((tr) => tr.delete(at + 1 + match.index, at + 1 + match.index + match[0].length));
  }

  moveParagraph(): void {
    const blocks = this.blocks('paragraph');
    if (blocks.length < 4) return;
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
  ordinary(): void {
    const roll = this.random.next();
    if (this.blocks('paragraph').length < 3 || roll < 0.16) this.paragraph(sentence(this.random));
    else if (roll < 0.52) this.addSentence();
    else if (roll < 0.78) this.swapWord();
    else if (roll < 0.87) this.dropSentence();
    else if (roll < 0.92) this.moveParagraph();
    else this.emphasise();
  }
}
