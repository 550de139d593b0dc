import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Writer, mapsOf, orderBatch } from '@oxbow/core/history';
import type { AcceptedEdit } from '@oxbow/core/history';
import { Random } from '@oxbow/core/testing';
import { Transform } from 'prosemirror-transform';
import type { Node } from 'prosemirror-model';
import { less } from './figures.js';
import type { Figure } from './figures.js';

const WRITERS = 50;
const ONE_WAY = 40;
const COMMIT = 5;
const SECONDS = 20;

/** Fifty writers in one document, simulated: messages take 40 ms each way, a commit 5 ms, computing its real time. */
export async function benchCrowd(): Promise<Figure[]> {
  const random = new Random(50);
  const start = schema.node(
    'doc',
    null,
    Array.from({ length: 20 }, () =>
      schema.node('paragraph', null, [schema.text('The tide comes in and the tide goes out.')]),
    ),
  );
  const events: { at: number; run: () => void }[] = [];
  let now = 0;
  const later = (delay: number, run: () => void): void => {
    events.push({ at: now + delay, run });
  };
  const log: AcceptedEdit[] = [];
  let doc: Node = start;
  let busyUntil = 0;
  let [sent, refused] = [0, 0];
  const latencies: number[] = [];
  const desks = Array.from({ length: WRITERS }, (_, i) => ({
    writer: new Writer(`writer-${i}`, start, 0),
    view: start,
    ready: new Map<number, number>(),
  }));
  type Desk = (typeof desks)[number];

  const flush = (desk: Desk): void => {
    const message = desk.writer.outgoing();
    if (!message) return;
    for (const { counter } of message.edits) if (!desk.ready.has(counter)) desk.ready.set(counter, now);
    later(ONE_WAY, () => {
      const begun = Math.max(now, busyUntil);
      const real = performance.now();
      const verdicts = orderBatch(
        doc,
        message.edits.map(({ steps }) => ({ steps, sources: [] })),
        log.slice(message.base).flatMap(({ steps }) => mapsOf(steps)),
      );
      const accepted: AcceptedEdit[] = [];
      const gone: number[] = [];
      for (const [i, verdict] of verdicts.entries()) {
        const counter = message.edits[i]?.counter ?? 0;
        sent++;
        if (verdict.taken && verdict.steps.length > 0) {
          const edit = {
            seq: log.length + 1,
            client: desk.writer.client,
            counter,
            steps: verdict.steps,
            sources: [],
          };
          log.push(edit);
          accepted.push(edit);
          doc = verdict.doc;
        } else {
          gone.push(counter);
          if (!verdict.taken) refused++;
        }
      }
      busyUntil = begun + performance.now() - real;
      const arrives = busyUntil + COMMIT + ONE_WAY - now;
      for (const other of desks) {
        later(arrives, () => {
          const tr = new Transform(other.view);
          other.writer.receive(accepted, tr);
          if (other === desk) other.writer.refused(gone, tr);
          other.view = tr.doc;
          if (other === desk) flush(desk);
          else for (const { counter } of accepted) latencies.push(now - (desk.ready.get(counter) ?? now));
        });
      }
    });
  };
  const act = (desk: Desk): void => {
    const index = random.between(0, desk.view.childCount - 1);
    let at = 1;
    for (let i = 0; i < index; i++) at += desk.view.child(i).nodeSize;
    const size = desk.view.child(index).content.size;
    const tr = new Transform(desk.view);
    if (random.chance(0.2) && size > 8) tr.delete(at + 2, at + 5);
    else tr.insert(at + random.between(0, size), schema.text('ab '));
    desk.writer.write(desk.view, tr.steps, now);
    desk.view = tr.doc;
    later(0, () => flush(desk));
    if (now < SECONDS * 1000) later(random.between(300, 900), () => act(desk));
  };
  for (const desk of desks) later(random.between(0, 900), () => act(desk));
  while (events.length > 0) {
    const next = events.reduce((best, event, i) => (event.at < (events[best]?.at ?? Infinity) ? i : best), 0);
    const [event] = events.splice(next, 1);
    if (!event) break;
    now = event.at;
    event.run();
  }
  latencies.sort((a, b) => a - b);
  const p99 = latencies[Math.floor(latencies.length * 0.99)] ?? 0;
  return [
    less(`${WRITERS} writers, ${ONE_WAY} ms one way: edits refused`, refused, {
      digits: 0,
      goal: 0,
      note: `of ${sent}`,
    }),
    less('desks that differ at the end', desks.filter((desk) => !desk.view.eq(doc)).length, {
      digits: 0,
      goal: 0,
    }),
    less('from ready to shown at the others, simulated, 99th percentile', p99, {
      unit: 'ms',
      digits: 0,
      goal: 400,
      note: `median ${(latencies[latencies.length >> 1] ?? 0).toFixed(0)} ms`,
    }),
  ];
}
