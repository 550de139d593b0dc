import { setTimeout as pause } from 'node:timers/promises';
import type { Accepted, Answer } from '@oxbow/contract';
import type { Client } from './served.js';
import { ServedApp, quantile } from './served.js';
import { less, more } from './figures.js';
import type { Figure } from './figures.js';
import type { Served } from './serving.js';

const WRITERS = 200;
const SECONDS = 8;
const GOAL_WAIT = 250;

/** Somebody who types at the start of a document, whatever others do. */
class Typist {
  private counter = 1;
  private seq = 0;
  readonly waits: number[] = [];
  refused = 0;

  constructor(
    private readonly socket: Client,
    private readonly document: string,
    private readonly name: string,
  ) {
    socket.on('edits', ({ edits }) => {
      this.seq = Math.max(this.seq, edits.at(-1)?.seq ?? 0);
    });
  }

  async join(): Promise<void> {
    const answer = (await this.socket
      .timeout(30_000)
      .emitWithAck('join', { document: this.document })) as Answer<{ seq: number }>;
    if (!answer.ok) throw new Error(answer.problem.title);
    this.seq = answer.value.seq;
  }

  /** Sends an edit and notes how long the answer took. */
  async type(): Promise<void> {
    const begun = performance.now();
    const counter = this.counter++;
    const answer = (await this.socket.timeout(30_000).emitWithAck('edits', {
      document: this.document,
      client: this.name,
      base: this.seq,
      edits: [
        {
          counter,
          steps: [
            {
              stepType: 'replace',
              from: 1,
              to: 1,
              slice: { content: [{ type: 'text', text: counter % 6 === 0 ? ' ' : 'e' }] },
            },
          ],
          sources: [],
          writtenAt: Date.now(),
          cause: { kind: 'writing' },
        },
      ],
    })) as Answer<Accepted>;
    const taken = answer.ok && answer.value.results.every(({ seq }) => seq !== null);
    if (!taken) this.refused++;
    else this.waits.push(performance.now() - begun);
  }
}

interface Round {
  readonly rate: number;
  readonly accepted: number;
  readonly refused: number;
  readonly p99: number;
  readonly served: Served;
}

/** Many writers over real sockets: two hundred in a hundred documents, and a hundred in one. */
export async function benchThrong(): Promise<Figure[]> {
  const app = await ServedApp.start();
  try {
    const seats = await app.people(WRITERS);
    const pairs: Typist[] = [];
    for (let i = 0; i < WRITERS; i += 2) {
      const two = seats.slice(i, i + 2);
      const document = await app.document(
        `Throng ${i / 2}`,
        two,
        'The tide mill stands where the creek meets the marsh. ',
      );
      for (const [j, seat] of two.entries())
        pairs.push(new Typist(await app.live(seat), document, `writer-${i + j}`));
    }
    await Promise.all(pairs.map((one) => one.join()));
    await write(app, pairs, 400);
    const figures: Figure[] = [];
    let most = 0;
    for (const rate of [400, 700, 1050, 1300, 1600]) {
      const round = await write(app, pairs, rate);
      const holds = round.refused === 0 && round.p99 <= GOAL_WAIT && round.accepted >= 0.98 * rate;
      if (holds) most = Math.max(most, round.accepted);
      figures.push(
        ...told(
          `${WRITERS} writers in ${WRITERS / 2} documents, ${rate} edits a second`,
          round,
          rate === 400,
        ),
      );
      if (!holds && rate > 400) break;
    }
    figures.push(
      more(`most that one process took with answers within ${GOAL_WAIT} ms`, most, {
        unit: 'a second',
        digits: 0,
        goal: 1000,
      }),
    );
    const crowd = seats.slice(0, WRITERS / 2);
    const one = await app.document('Crowd', crowd, 'The tide mill stands where the creek meets the marsh. ');
    const together: Typist[] = [];
    for (const [i, seat] of crowd.entries())
      together.push(new Typist(await app.live(seat), one, `crowd-${i}`));
    await Promise.all(together.map((typist) => typist.join()));
    figures.push(
      ...told(
        `${crowd.length} writers in one document, 200 edits a second`,
        await write(app, together, 200),
        true,
      ),
    );
    return figures;
  } finally {
    await app.stop();
  }
}

/** Lets everybody type in turn, so many edits a second together. */
async function write(app: ServedApp, typists: readonly Typist[], rate: number): Promise<Round> {
  for (const typist of typists) {
    typist.waits.length = 0;
    typist.refused = 0;
  }
  await app.begin({ profile: true });
  const begun = performance.now();
  const sent: Promise<void>[] = [];
  for (let i = 0; i < rate * SECONDS; i++) {
    const due = begun + (i * 1000) / rate;
    const early = due - performance.now();
    if (early > 1) await pause(early);
    const typist = typists[i % typists.length];
    if (typist) sent.push(typist.type());
  }
  await Promise.all(sent);
  const seconds = (performance.now() - begun) / 1000;
  const waits = typists.flatMap((typist) => typist.waits);
  return {
    rate,
    accepted: waits.length / seconds,
    refused: typists.reduce((sum, typist) => sum + typist.refused, 0),
    p99: quantile(waits, 0.99),
    served: await app.end(),
  };
}

function told(what: string, round: Round, isBar: boolean): Figure[] {
  const { rate, accepted, refused, p99, served } = round;
  const parts = Object.entries(served.parts).map(([part, share]) => `${part} ${(100 * share).toFixed(0)} %`);
  return [
    more(`${what}: accepted`, accepted, {
      unit: 'a second',
      digits: 0,
      ...(isBar ? { goal: 0.98 * rate } : {}),
      note: `${refused} refused; main thread busy ${(100 * served.busy).toFixed(0)} %: ${parts.join(', ')}`,
    }),
    less(`${what}: 99th percentile to the answer`, p99, {
      unit: 'ms',
      digits: 0,
      ...(isBar ? { goal: GOAL_WAIT } : {}),
    }),
  ];
}
