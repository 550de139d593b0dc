import { createHash } from 'node:crypto';
import type { WireEdit } from '@oxbow/contract';
import { blankDocument, textSchema } from '@oxbow/core/kinds/text';
import { carry } from '@oxbow/core/compare';
import { applySteps } from '@oxbow/core/history';
import { Random, change } from '@oxbow/core/testing';
import * as fc from 'fast-check';
import { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { Caller, TestServer } from '../testing/server.js';
import { Window } from '../testing/window.js';

const NAMES = ['ines', 'tobias', 'jun'] as const;
/** How many times the usual number of runs; the usual ones are the same every time. */
const FUZZ = Number(process.env['OXBOW_FUZZ'] ?? 1);
/** Statuses with which the server may turn an act down without anything being wrong. */
const DECLINED = [409, 423];

/** What the test knows without asking: who holds the check-out, what was written, what every moment read. */
interface Model {
  asked: boolean;
  holder: number | null;
  next: number;
  readonly written: Set<string>;
  readonly moments: Map<number, string>;
}

interface Real {
  readonly id: string;
  readonly callers: readonly Caller[];
  readonly windows: readonly Window[];
}

type Command = fc.AsyncCommand<Model, Real>;

/** An act of one person; `does` may answer the status of a call, which must be a success or a plain refusal. */
class Act implements Command {
  constructor(
    private readonly name: string,
    private readonly who: number,
    private readonly seed: number,
    private readonly does: (world: {
      model: Model;
      real: Real;
      who: number;
      random: Random;
    }) => Promise<{ status: number; body?: unknown } | void>,
  ) {}

  check = (): boolean => true;

  async run(model: Model, real: Real): Promise<void> {
    const random = new Random(this.seed);
    const reply = await this.does({ model, real, who: this.who, random });
    if (reply && reply.status >= 300 && !DECLINED.includes(reply.status))
      throw new Error(`${this.toString()} was answered ${reply.status}: ${JSON.stringify(reply.body)}`);
    await remember(model, real);
  }

  toString(): string {
    return `${this.name}(${NAMES[this.who]}, ${this.seed})`;
  }
}

async function headOf({ callers, id }: Real): Promise<number> {
  return (await (callers[0] as Caller).get(`/api/documents/${id}`)).body.seq as number;
}

async function momentOf({ callers, id }: Real, seq: number): Promise<Node> {
  const { body } = await (callers[0] as Caller).get(`/api/documents/${id}/versions/@${seq}`);
  return Node.fromJSON(textSchema, body.content);
}

function hashOf(doc: Node): string {
  return createHash('sha256').update(JSON.stringify(doc.toJSON())).digest('hex');
}

/** Remembers how the present moment reads. */
async function remember(model: Model, real: Real): Promise<void> {
  const seq = await headOf(real);
  if (!model.moments.has(seq)) model.moments.set(seq, hashOf(await momentOf(real, seq)));
}

const ACTS: Record<string, ConstructorParameters<typeof Act>[3]> = {
  async write({ model, real, who, random }) {
    const window = real.windows[who] as Window;
    for (let i = random.between(1, 4); i > 0; i--) {
      const fresh = (count: number): string => {
        const text = String.fromCharCode(...Array.from({ length: count }, (_, k) => model.next + k));
        model.next += count;
        return text;
      };
      const tr = change(random, window.view, fresh, random.chance(0.5));
      if (tr.docChanged) window.act(tr.steps);
    }
  },
  async undo({ real, who, random }) {
    (real.windows[who] as Window).undo(random.chance(0.7) ? 'undo' : 'redo');
  },
  /** Sends what waits; who may not write has it turned away, and keeps it as a draft that is discarded here. */
  async sync({ model, real, who }) {
    const window = real.windows[who] as Window;
    const turnedAway = await window.sync();
    if (turnedAway === null) {
      window.view.descendants((node) => {
        for (const unit of node.text ?? '') model.written.add(unit);
      });
      return;
    }
    expect(model.asked && model.holder !== who).toBe(true);
    expect(turnedAway).toBe(423);
    window.drop();
  },
  async crash({ real, who }) {
    await (real.windows[who] as Window).crash();
  },
  async restore({ real, who, random }) {
    const seq = random.between(0, await headOf(real));
    return (real.callers[who] as Caller).post(`/api/documents/${real.id}/restore`, { seq });
  },
  async takeBack({ real, who, random }) {
    const head = await headOf(real);
    if (head === 0) return;
    const seqs = Array.from({ length: random.between(1, 3) }, () => random.between(1, head));
    return (real.callers[who] as Caller).post(`/api/documents/${real.id}/take-back`, {
      seqs: [...new Set(seqs)],
    });
  },
  async assemble({ real, who, random }) {
    const head = await headOf(real);
    const later = random.between(0, head);
    const pair = { earlier: `@${random.between(0, later)}`, later: `@${later}` };
    const caller = real.callers[who] as Caller;
    const { body } = await caller.get(
      `/api/documents/${real.id}/compare?earlier=${pair.earlier}&later=${pair.later}`,
    );
    const decisions = (body.changes as { id: number }[]).map(({ id }) => ({
      change: id,
      take: random.pick(['earlier', 'later', 'both']),
    }));
    return caller.post(`/api/documents/${real.id}/assemblies`, { ...pair, decisions });
  },
  async carry({ real, who, random }) {
    const window = real.windows[who] as Window;
    const moment = random.between(0, window.seq);
    if (window.waits) return;
    const past = await momentOf(real, moment);
    if (past.content.size < 4) return;
    const from = random.between(0, past.content.size - 2);
    const to = Math.min(past.content.size, from + random.between(1, 12));
    const { body } = await (real.callers[who] as Caller).get(
      `/api/documents/${real.id}/whereabouts?moment=@${moment}&from=${from}&to=${to}`,
    );
    const at = body.seq === window.seq ? (body.to as number) : random.between(0, window.view.content.size);
    const carrying = carry(window.view, past, [{ from, to }], { from: at, to: at });
    if (!carrying) return;
    const sources = carrying.brought.map((part) => ({ ...part, moment }));
    window.act(carrying.steps, { kind: 'carry', moment }, sources);
  },
  async checkOut({ model, real, who, random }) {
    const path = `/api/documents/${real.id}/check-out`;
    const owner = real.callers[0] as Caller;
    if (random.chance(0.4)) {
      model.asked = random.chance(0.6);
      if (!model.asked) model.holder = null;
      return owner.call('PUT', path, { asked: model.asked });
    }
    const reply = await (real.callers[who] as Caller).post(path);
    if (reply.status === 204) model.holder = who;
    return reply;
  },
  async checkIn({ model, real, who, random }) {
    if (model.holder !== who) return;
    model.holder = null;
    const caller = real.callers[who] as Caller;
    if (random.chance(0.5)) return caller.call('DELETE', `/api/documents/${real.id}/check-out`);
    return caller.post(`/api/documents/${real.id}/check-in`, { comment: 'in' });
  },
};

const WEIGHTS: Record<string, number> = { write: 6, sync: 5, crash: 2, carry: 2 };

describe('a document under many hands', () => {
  let server: TestServer;
  let callers: Caller[];
  beforeAll(async () => {
    server = await TestServer.start();
    callers = await Promise.all(NAMES.map((name) => server.as(name)));
  });
  afterAll(() => server.stop());

  it('loses nothing, whatever is restored, carried, taken back, assembled, checked out and crashed', async () => {
    const acts = Object.entries(ACTS).flatMap(([name, does]) =>
      Array.from({ length: WEIGHTS[name] ?? 1 }, () =>
        fc.tuple(fc.nat(2), fc.integer()).map(([who, seed]) => new Act(name, who, seed, does)),
      ),
    );
    const done = new Map<string, number>();
    await fc.assert(
      fc.asyncProperty(fc.commands(acts, { maxCommands: 60, size: '+1' }), async (commands) => {
        const id = (
          await (callers[0] as Caller).post('/api/documents', { title: 'Many hands', kind: 'text' })
        ).body.id as string;
        for (const name of NAMES.slice(1))
          await (callers[0] as Caller).call('PUT', `/api/documents/${id}/shares/${name}`, { role: 'editor' });
        const windows = await Promise.all(
          callers.map((caller, i) => Window.open(caller, id, `${NAMES[i]}-window`)),
        );
        const model: Model = {
          asked: false,
          holder: null,
          next: 0x4e00,
          written: new Set(),
          moments: new Map(),
        };
        const real: Real = { id, callers, windows };
        try {
          await fc.asyncModelRun(() => ({ model, real }), commands);
          await checkAll(model, real);
          for (const { cause } of await causesOf(real)) done.set(cause, (done.get(cause) ?? 0) + 1);
        } finally {
          for (const window of windows) window.close();
        }
      }),
      { numRuns: FUZZ === 1 ? 12 : 25 * FUZZ, ...(FUZZ === 1 ? { seed: 20261125 } : {}) },
    );
    for (const kind of ['writing', 'restore', 'takeBack', 'assembly', 'carry', 'undo'])
      expect(done.get(kind) ?? 0).toBeGreaterThan(0);
  }, 280_000);
});

async function editsOf({ callers, id }: Real): Promise<WireEdit[]> {
  return (await (callers[0] as Caller).get(`/api/documents/${id}/edits?after=0&upTo=100000`))
    .body as WireEdit[];
}

async function causesOf(real: Real): Promise<{ cause: string }[]> {
  return (await editsOf(real)).map((edit) => ({ cause: edit.cause.kind }));
}

/** Everyone reads the same, the log replays to it, no moment reads otherwise than it did, and no acknowledged letter is lost. */
async function checkAll(model: Model, real: Real): Promise<void> {
  await (real.callers[0] as Caller).call('PUT', `/api/documents/${real.id}/check-out`, { asked: false });
  for (const window of [...real.windows, ...real.windows]) expect(await window.sync()).toBeNull();
  const head = await headOf(real);
  const present = await momentOf(real, head);
  for (const window of real.windows)
    if (!window.view.eq(present)) throw new Error(`diverged\n${String(window.view)}\n${String(present)}`);
  const edits = await editsOf(real);
  const states = [blankDocument()];
  for (const edit of edits)
    states.push(
      applySteps(
        states.at(-1) as Node,
        edit.steps.map((step) => Step.fromJSON(textSchema, step)),
      ),
    );
  expect(states.at(-1)?.eq(present)).toBe(true);
  for (const [seq, hash] of model.moments) {
    expect(hashOf(states[seq] as Node)).toBe(hash);
    expect(hashOf(await momentOf(real, seq))).toBe(hash);
  }
  for (const unit of model.written) {
    if (unit < '\u4e00') continue;
    const last = states.findLastIndex((state) => state.textContent.includes(unit));
    expect(last).withContext(`the letter ${unit} was acknowledged`).toBeGreaterThan(-1);
    if (last < states.length - 1) expect(NAMES).toContain(edits[last]?.author as (typeof NAMES)[number]);
  }
}
