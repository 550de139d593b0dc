import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { textSchema as schema } from '../kinds/text/index.js';
import { MOST_STEPS, MUCH_JSON } from '../bounds/index.js';
import { FUZZ } from '../testing/budget.js';
import { doc, p } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { HANDS } from '../testing/hands.js';
import { change, writeHistory } from '../testing/writers.js';
import { orderBatch } from './authority.js';
import { mapsOf } from './step-maps.js';
import { applySteps } from './edit.js';
import type { AcceptedEdit } from './following.js';
import type { OwnCause } from './pending.js';
import { Gap, Writer } from './writer.js';

/** An authority and any number of writers around it, in one process, with messages delivered when told. */
class Table {
  readonly log: AcceptedEdit[] = [];
  /** The document after each edit. */
  readonly states: Node[];
  clock = 0;

  constructor(readonly start: Node) {
    this.states = [start];
  }

  get now(): Node {
    return this.states.at(-1) as Node;
  }

  seat(client: string): Seat {
    return new Seat(this, client);
  }
}

class Seat {
  writer: Writer;
  view: Node;

  constructor(
    readonly table: Table,
    readonly client: string,
  ) {
    this.writer = new Writer(client, table.now, table.log.length);
    this.view = table.now;
  }

  act(tr: Transform, cause: OwnCause = { kind: 'writing' }, pause = 2000): void {
    this.table.clock += pause;
    this.writer.write(this.view, tr.steps, this.table.clock, { cause });
    this.view = tr.doc;
  }

  type(at: number, text: string, pause?: number): void {
    this.act(new Transform(this.view).insert(at, schema.text(text)), undefined, pause);
  }

  undo(kind: 'undo' | 'redo' = 'undo'): void {
    const result = this.writer[kind](this.view);
    if (result.kind !== 'steps') return;
    const tr = new Transform(this.view);
    for (const step of result.steps) tr.step(step);
    this.writer.write(this.view, tr.steps, this.table.clock, {
      cause: { kind, of: result.of },
      sources: result.sources,
    });
    this.view = tr.doc;
  }

  send(): void {
    const message = this.writer.outgoing();
    if (!message) return;
    const proposals = message.edits.map((edit) => ({ steps: edit.steps, sources: [] }));
    const verdicts = orderBatch(
      this.table.now,
      proposals,
      this.table.log.slice(message.base).flatMap((edit) => mapsOf(edit.steps)),
    );
    const dropped: number[] = [];
    for (const [i, verdict] of verdicts.entries()) {
      const counter = message.edits[i]?.counter ?? -1;
      if (!verdict.taken || verdict.steps.length === 0) dropped.push(counter);
      else {
        this.table.log.push({
          seq: this.table.log.length + 1,
          client: this.client,
          counter,
          steps: verdict.steps,
          sources: [],
        });
        this.table.states.push(verdict.doc);
      }
    }
    this.listen();
    const tr = new Transform(this.view);
    this.writer.refused(dropped, tr);
    this.view = tr.doc;
  }

  /** The window closes and another takes up what it left: its unsent edits, and what it could undo. */
  reload(): void {
    const { log, states } = this.table;
    const { base, edits } = this.writer.unsent();
    const acts = this.writer.acts();
    const from = Math.max(0, Math.min(base, ...[...acts.done, ...acts.undone].flat().map((seq) => seq - 1)));
    const start = states[from] as Node;
    this.writer = new Writer(this.client, start, from);
    this.writer.receive(log.slice(from, base), new Transform(start));
    this.view = this.writer.resume(edits);
    this.writer.recall(acts);
    this.listen();
  }

  listen(): void {
    const tr = new Transform(this.view);
    this.writer.receive(this.table.log.slice(this.writer.confirmed), tr);
    this.view = tr.doc;
  }
}

describe('a writer', () => {
  for (const hand of HANDS)
    it(`converges with all others, whatever the order of messages and however often windows close, of the kind ${hand.kind.name}`, () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const table = new Table(
            writeHistory(random, 4, { hand, stale: false, undo: false }).docs.at(-1) as Node,
          );
          const seats = ['one', 'two', 'three'].map((client) => table.seat(client));
          for (let i = 0; i < 40; i++) {
            const seat = random.pick(seats);
            const roll = random.next();
            if (roll < 0.5)
              seat.act(
                hand.act(random, seat.view, (n) => 'abcdef'.slice(0, n), true),
                undefined,
                random.between(10, 900),
              );
            else if (roll < 0.6) seat.undo();
            else if (roll < 0.65) seat.undo('redo');
            else if (roll < 0.75) seat.send();
            else if (roll < 0.83) seat.reload();
            else seat.listen();
          }
          for (let i = 0; i < 3; i++) for (const seat of seats) seat.send();
          for (const seat of seats) {
            seat.listen();
            expect(seat.view.eq(table.now)).toBe(true);
            expect(seat.writer.waiting.length).toBe(0);
          }
        }),
        { numRuns: 100 * FUZZ },
      );
    });

  it('undoes only what was its own, also before it is accepted, and redoes it', () => {
    const table = new Table(doc(p('tide')));
    const [a, b] = [table.seat('a'), table.seat('b')];
    a.type(5, ' mill');
    a.type(1, 'The ');
    b.type(1, 'Oh: ');
    b.send();
    a.listen();
    a.undo();
    expect(a.view.textContent).toBe('Oh: tide mill');
    a.send();
    a.undo();
    expect(a.view.textContent).toBe('Oh: tide');
    a.undo('redo');
    a.send();
    expect(a.view.textContent).toBe('Oh: tide mill');
    b.listen();
    expect(b.view.eq(a.view)).toBe(true);
  });

  for (const structure of [false, true])
    it(`goes back through all that it wrote act by act, and forward again${structure ? ', lists and tables too' : ''}`, () => {
      const start = doc(p('The mill stands where the creek meets the marsh.'), p('It turns.'));
      let [whole, all] = [0, 0];
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const a = new Table(start).seat('a');
          const texts = [a.view];
          for (let i = random.between(2, 9); i > 0; i--) {
            const tr = change(random, a.view, (count) => 'abcdefgh'.slice(0, count), structure);
            if (tr.doc.eq(a.view)) continue;
            a.act(tr);
            texts.push(a.view);
            if (random.chance(0.6)) a.send();
          }
          const walk = (kind: 'undo' | 'redo'): boolean =>
            texts.every((_, i) => {
              if (i === 0) return true;
              a.undo(kind);
              if (random.chance(0.6)) a.send();
              const text = texts[kind === 'redo' ? i : texts.length - 1 - i] as Node;
              return a.view.eq(text);
            });
          all++;
          if (['undo', 'redo', 'undo', 'redo'].every((kind) => walk(kind as 'undo'))) whole++;
        }),
        { numRuns: 200 * FUZZ, ...(FUZZ <= 1 ? { seed: 5 } : {}) },
      );
      expect(whole / all).toBeGreaterThanOrEqual(structure ? 0.95 : 1);
    });

  it('brings back with undo what it removed, between what others wrote there', () => {
    const table = new Table(doc(p('ebb and flood')));
    const [a, b] = [table.seat('a'), table.seat('b')];
    a.act(new Transform(a.view).delete(4, 8));
    a.send();
    b.listen();
    b.type(4, '!');
    b.send();
    a.listen();
    a.undo();
    expect(a.view.textContent).toBe('ebb! and flood');
    expect(a.writer.unsent().edits[0]?.sources).toEqual([
      jasmine.objectContaining({ moment: 0, position: 4, length: 4 }),
    ]);
  });

  it('gathers typing into edits of half a second and undoes a burst at once', () => {
    const table = new Table(doc(p('')));
    const a = table.seat('a');
    for (const [i, letter] of [...'tidemill'].entries()) a.type(1 + i, letter, 100);
    expect(a.writer.waiting.length).toBe(2);
    a.undo();
    expect(a.view.textContent).toBe('');
  });

  it('adopts what the authority made of its edit', () => {
    const table = new Table(doc(p('')));
    const a = table.seat('a');
    a.type(1, 'cafe\u0301');
    a.send();
    expect(a.view.textContent).toBe('caf\u00e9');
  });

  it('notices when edits are missing', () => {
    const writer = new Writer('a', doc(p('')), 4);
    expect(() =>
      writer.receive(
        [{ seq: 6, client: 'b', counter: 1, steps: [], sources: [] }],
        new Transform(doc(p(''))),
      ),
    ).toThrowError(Gap);
  });

  it('undoes and redoes in a window what an earlier one did, and others’ writing stays', () => {
    const table = new Table(doc(p('tide')));
    const [one, two] = [table.seat('one'), table.seat('two')];
    one.type(1, 'high ');
    one.send();
    two.listen();
    two.type(two.view.content.size - 1, ' table');
    two.send();
    one.reload();
    expect([one.view.textContent, one.writer.canUndo]).toEqual(['high tide table', true]);
    one.undo();
    one.send();
    one.reload();
    expect(one.view.textContent).toBe('tide table');
    one.undo('redo');
    expect(one.view.textContent).toBe('high tide table');
    expect(one.writer.acts().done.length).toBe(0);
    one.send();
    expect(one.writer.acts().done.length).toBe(1);
  });

  it('undoes one act whatever was done since, and tells where a place went', () => {
    const table = new Table(doc(p('tide')));
    const seat = table.seat('one');
    seat.type(1, 'high ');
    const first = seat.writer.waiting[0]?.counter ?? -1;
    seat.type(seat.view.content.size - 1, ' table');
    const undo = seat.writer.undoOf(seat.view, first);
    expect(undo.kind === 'steps' && applySteps(seat.view, undo.steps).textContent).toBe('tide table');
    expect(seat.writer.here(1, 0)).toBe(6);
    expect(seat.writer.here(1, 0, -1)).toBe(1);
    expect(seat.writer.here(1, 5)).toBeNull();
    expect([1, 6, 10, 16].map((at) => seat.writer.confirmedAt(at))).toEqual([1, 1, 5, 5]);
    expect(seat.writer.instances(1, 8).map(({ seq, length }) => [seq > 100, length])).toEqual([
      [true, 5],
      [false, 2],
    ]);
    seat.type(1, 'very ');
    for (const at of [1, 3, 5]) expect(seat.writer.confirmedAt(seat.writer.here(at, 0) ?? 0)).toBe(at);
  });

  it('makes several edits of steps that hold too much for one message, undone together', () => {
    const table = new Table(doc(p('tide')));
    const seat = table.seat('one');
    const tr = new Transform(seat.view);
    for (let i = 0; i < 30; i++) tr.insert(1, schema.text('x'.repeat(20_000)));
    seat.writer.write(seat.view, tr.steps, 1000);
    seat.view = tr.doc;
    const sizes = seat.writer.waiting.map(
      ({ steps }) => JSON.stringify(steps.map((step) => step.toJSON() as unknown)).length,
    );
    expect(sizes.length).toBe(3);
    expect(Math.max(...sizes)).toBeLessThan(MUCH_JSON + 1000);
    for (let sends = 0; seat.writer.waiting.length > 0 && sends < 9; sends++) seat.send();
    seat.undo();
    expect(seat.view.textContent).toBe('tide');
  });

  it('makes several edits of what is too much for one, sent in turn and undone together', () => {
    const table = new Table(doc(p('tide')));
    const seat = table.seat('one');
    const tr = new Transform(seat.view);
    for (let i = 0; i < 2 * MOST_STEPS + 7; i++) tr.insert(1, schema.text('x'));
    seat.writer.write(seat.view, tr.steps, 1000, {
      sources: [{ step: MOST_STEPS + 3, at: 0, length: 1, moment: 0, position: 1 }],
    });
    seat.view = tr.doc;
    expect(seat.writer.waiting.map(({ steps }) => steps.length)).toEqual([MOST_STEPS, MOST_STEPS, 7]);
    expect(seat.writer.waiting[1]?.sources).toEqual([{ step: 3, at: 0, length: 1, moment: 0, position: 1 }]);
    expect(seat.writer.outgoing(() => 6, 10)?.edits.length)
      .withContext('by weight')
      .toBe(1);
    seat.writer.reconnected();
    for (let sends = 0; seat.writer.waiting.length > 0 && sends < 9; sends++) seat.send();
    seat.undo();
    expect(seat.view.textContent).toBe('tide');
  });

  it('lets go of what is long ago in a long session, converges all the same, and undoes what is not', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const table = new Table(doc(p('The mill stands where the creek meets the marsh.')));
        const [a, b] = [table.seat('a'), table.seat('b')];
        a.writer = new Writer('a', table.now, 0, 1, 8);
        for (let i = 0; i < 60; i++) {
          const seat = random.pick([a, b]);
          if (random.chance(0.15)) seat.undo(random.pick(['undo', 'redo']));
          else seat.act(change(random, seat.view, (count) => 'abcdefgh'.slice(0, count), false));
          if (random.chance(0.7)) seat.send();
          if (random.chance(0.3)) random.pick([a, b]).listen();
        }
        for (const seat of [a, b, a, b]) {
          while (seat.writer.waiting.length > 0) seat.send();
          seat.listen();
        }
        expect(a.view.eq(table.now)).toBe(true);
        expect(b.view.eq(table.now)).toBe(true);
        expect(a.writer.began).toBeGreaterThan(0);
        expect(a.writer.confirmed - a.writer.began).toBeLessThan(40);
        const before = a.view;
        a.act(new Transform(a.view).insert(1, schema.text('xyz')));
        a.send();
        a.undo();
        expect(a.view.eq(before)).toBe(true);
      }),
      { numRuns: 60 * FUZZ },
    );
  });

  it('sends a long draft in parts', () => {
    const table = new Table(doc(p('tide')));
    const seat = table.seat('one');
    for (let i = 0; i < 450; i++) seat.type(1, 'x', 1000);
    let sends = 0;
    for (; seat.writer.waiting.length > 0 && sends < 9; sends++) seat.send();
    expect([sends, table.log.length]).toEqual([3, 450]);
    expect(seat.view.eq(table.now)).toBe(true);
  });
});
