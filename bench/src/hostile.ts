import { setTimeout as pause } from 'node:timers/promises';
import type { Accepted, Answer } from '@oxbow/contract';
import { BUDGETS } from '@oxbow/contract';
import { writeDocx } from '@oxbow/core/formats';
import { build } from '@oxbow/core/testing';
import { zipSync, strToU8 } from 'fflate';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { Asked, ServedApp, quantile } from './served.js';
import type { Client } from './served.js';
import type { Seat } from './serving.js';

const GOAL = 150;
/** Least and most milliseconds for which one kind of input is sent again and again. */
const [LEAST, MOST] = [5000, 20_000];

interface Ground {
  readonly app: ServedApp;
  readonly hostile: Seat;
  readonly socket: Client;
  /** A document that the hostile person and the one who types share. */
  readonly shared: string;
  /** A document of the hostile person's own with a long text. */
  readonly own: string;
  counter: number;
}

/** One kind of input, as bad as it may be. Answers what the server said to it. */
type Attack = (ground: Ground) => Promise<string>;

/**
 * What the worst allowed input of each kind adds to the wait of somebody who types in a document that both share: each is
 * sent again and again for some seconds, by one person, to a server in a process of its own.
 */
export async function benchHostile(): Promise<Figure[]> {
  const app = await ServedApp.start();
  let typing: Asked | null = null;
  try {
    const [typist, hostile] = (await app.people(2)) as [Seat, Seat];
    const shared = await app.document(
      'Shared',
      [typist, hostile],
      'The tide mill stands where the creek meets the marsh. ',
    );
    const long = 'ebb and flood and the wheel turns '.repeat(3000);
    const own = await app.document('Own', [hostile], long);
    const ground: Ground = { app, hostile, socket: await app.live(hostile), shared, own, counter: 1 };
    await join(ground.socket, shared);
    await join(ground.socket, own);
    typing = await Asked.start('./typist.js', [String(app.port), typist.cookie, shared]);
    const asking = typing;
    const figures: Figure[] = [];
    await during(app, asking, async () => {
      await pause(LEAST);
      return 'nothing';
    });
    for (const [name, attack] of Object.entries(attacks)) {
      const { p99, delay, said, times } = await during(app, asking, () => attack(ground));
      figures.push(
        less(`${name}: 99th percentile of the wait`, p99, {
          unit: 'ms',
          digits: 0,
          goal: GOAL,
          note: `event loop delay ${delay[0].toFixed(0)} ms, at most ${delay[1].toFixed(0)} ms; sent ${times} times, answered ${said}`,
        }),
      );
    }
    return figures;
  } finally {
    await typing?.stop();
    await app.stop();
  }
}

async function during(app: ServedApp, typist: Asked, attack: () => Promise<string>) {
  await typist.ask('begin');
  await app.begin();
  const begun = performance.now();
  let [said, times] = ['', 0];
  do {
    said = await Promise.race([attack(), pause(MOST, 'nothing in time')]);
    times++;
  } while (performance.now() - begun < LEAST);
  const { delay } = await app.end();
  const waits = await typist.ask<number[]>('end');
  return { p99: quantile(waits, 0.99), delay, said, times };
}

async function join(socket: Client, document: string): Promise<number> {
  const answer = (await socket.timeout(60_000).emitWithAck('join', { document })) as Answer<{ seq: number }>;
  if (!answer.ok) throw new Error(answer.problem.title);
  return answer.value.seq;
}

async function send(
  socket: Client,
  document: string,
  client: string,
  base: number,
  edits: object[],
): Promise<string> {
  const message = { document, client, base, edits } as never;
  const answer = (await socket.timeout(60_000).emitWithAck('edits', message)) as Answer<Accepted>;
  if (!answer.ok)
    return `${answer.problem.status} ${answer.problem.detail ?? answer.problem.title}`.slice(0, 90);
  return answer.value.results.every(({ seq }) => seq !== null) ? 'accepted' : 'refused in part';
}

function typed(at: number, text: string): object {
  return { stepType: 'replace', from: at, to: at, slice: { content: [{ type: 'text', text }] } };
}

function edit(counter: number, steps: object[], sources: object[] = []): object {
  return { counter, steps, sources, writtenAt: Date.now(), cause: { kind: 'writing' } };
}

function token(size: number): string {
  return `${'aZ9_-Qk'.repeat(size / 14)}.${'b8x-Yq_'.repeat(size / 14)}`;
}

async function call(ground: Ground, method: string, path: string, body?: object | FormData): Promise<string> {
  const answer = await ground.app.call(ground.hostile, method, path, body);
  const text = await answer.text();
  const detail = answer.status >= 400 ? ((JSON.parse(text) as { detail?: string }).detail ?? '') : '';
  return `${answer.status} ${detail}`.trim().slice(0, 90);
}

async function bringIn(ground: Ground, name: string, bytes: Uint8Array | string): Promise<string> {
  const form = new FormData();
  form.set('file', new Blob([typeof bytes === 'string' ? bytes : Buffer.from(bytes)]), name);
  return call(ground, 'POST', '/api/documents/import', form);
}

function odt(body: string): Uint8Array {
  const names = ['office', 'text', 'table', 'style', 'fo', 'xlink', 'dc', 'draw', 'svg']
    .map((name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`)
    .join(' ');
  return zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.text'), { level: 0 }],
    'content.xml': strToU8(
      `<office:document-content ${names}><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
    ),
  });
}

const about = { title: '', author: '', at: '2026-11-28T10:00:00.000Z', picture: () => null };
const { doc, p } = build;

const attacks: Record<string, Attack> = {
  'a message of 4,000 steps in the shared document': (ground) => {
    const edits = Array.from({ length: 20 }, () =>
      edit(
        ground.counter++,
        Array.from({ length: BUDGETS.messageSteps / 20 }, () => typed(1, 'x')),
      ),
    );
    return send(ground.socket, ground.shared, 'bench-steps', 0, edits);
  },
  'a message of half a million letters': async (ground) => {
    const text = 'flood '.repeat((BUDGETS.messageBytes - 10_000) / 6);
    const id = await ground.app.document('Large', [ground.hostile]);
    return send(ground.socket, id, 'bench-bytes', 0, [edit(ground.counter++, [typed(1, text)])]);
  },
  'a message with 2,000 sources': (ground) => {
    const steps = [typed(1, 'e'.repeat(BUDGETS.editSources))];
    const sources = Array.from({ length: BUDGETS.editSources }, (_, at) => ({
      step: 0,
      at,
      length: 1,
      seq: 1,
      offset: 0,
    }));
    return send(ground.socket, ground.own, 'bench-sources', 1, [edit(ground.counter++, steps, sources)]);
  },
  'more than a message may hold': (ground) =>
    send(ground.socket, ground.own, 'bench-much', 1, [
      edit(ground.counter++, [typed(1, 'x'.repeat(BUDGETS.messageBytes))]),
    ]),
  'a token of 60 kB pasted, and a version of it': async (ground) => {
    await send(ground.socket, ground.own, 'bench-token', 1, [
      edit(ground.counter++, [typed(1, token(60_000))]),
    ]);
    return call(ground, 'POST', `/api/documents/${ground.own}/versions`, {});
  },
  'a file with a token of 60 kB': (ground) =>
    bringIn(ground, 'token.txt', `A word and ${token(60_000)} more.`),
  'a file of 40 million spaces': (ground) =>
    bringIn(ground, 'spaces.odt', odt(`<text:p>${'<text:s text:c="10000"/>'.repeat(4000)}</text:p>`)),
  'a file of a million words': (ground) =>
    bringIn(
      ground,
      'long.docx',
      writeDocx(
        doc(...Array.from({ length: 5000 }, (_, i) => p(`${i} ${'ebb and flood '.repeat(40)}`))),
        about,
      ),
    ),
  'a comparison of 4,000 lines in another order': async (ground) => {
    const lines = Array.from(
      { length: 4000 },
      (_, i) => `line ${String((i * 7919) % 10_000).padStart(5, '0')} of the log`,
    );
    const form = new FormData();
    form.set('file', new Blob([lines.join('\n\n')]), 'log.md');
    const made = (await (
      await ground.app.call(ground.hostile, 'POST', '/api/documents/import', form)
    ).json()) as { id: string };
    const again = new FormData();
    again.set('file', new Blob([lines.reverse().join('\n\n')]), 'log.md');
    await ground.app.call(ground.hostile, 'POST', `/api/documents/${made.id}/files`, again);
    return call(ground, 'GET', `/api/documents/${made.id}/compare?earlier=2&later=3`);
  },
  'forty comparisons at once': async (ground) => {
    const versions = await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        call(ground, 'GET', `/api/documents/${ground.own}/compare?earlier=@0&later=@${i % 2}&x=${i}`),
      ),
    );
    return versions.at(-1) ?? '';
  },
  'words sought in one document': (ground) => call(ground, 'GET', `/api/documents/${ground.own}/find?q=ebb`),
  'words sought in all documents': (ground) => call(ground, 'GET', '/api/find?q=flood'),
};
