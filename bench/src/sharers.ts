import { setTimeout as pause } from 'node:timers/promises';
import type { Answer } from '@oxbow/contract';
import { LARGE, copyLarge } from './document.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';
import { ServedApp } from './served.js';
import type { Client } from './served.js';

const SHARERS = 20;
const [FEW, MANY] = [1000, 100_000];
/** Until everybody's shelf was told of an edit, and asked for what changed; milliseconds. */
const TOLD = 6000;

/** Bytes that reach the shelves of twenty sharers for one edit, by how long the document's history is. */
export async function shelfBytes(): Promise<Figure> {
  const [few, many] = [await bytesOfOne(FEW), await bytesOfOne(MANY)];
  return less(`bytes to ${SHARERS} shelves for one edit at ${MANY} edits / at ${FEW}`, many / few, {
    goal: 1.2,
    note: `${many} and ${few} bytes`,
  });
}

async function bytesOfOne(edits: number): Promise<number> {
  const app = await ServedApp.start(await copyLarge(edits));
  const sockets: Client[] = [];
  try {
    const people = await app.people(SHARERS);
    const id = await app.share(LARGE, people);
    let bytes = 0;
    for (const seat of people) {
      const socket = await app.live(seat);
      sockets.push(socket);
      // As the web app does: whoever is told that a row of the shelf changed asks for that row.
      socket.on('shelf', (told) => {
        bytes += JSON.stringify(told).length;
        void app.call(seat, 'GET', `/api/documents/${id}`).then(async (answer) => {
          bytes += (await answer.text()).length;
        });
      });
    }
    const [writer] = sockets;
    const joined = (await writer?.emitWithAck('join', { document: id })) as Answer<{ seq: number }>;
    if (!joined.ok) throw new Error(joined.problem.title);
    await pause(TOLD);
    bytes = 0;
    await writer?.emitWithAck('edits', {
      document: id,
      client: 'bench-sharer',
      base: joined.value.seq,
      edits: [
        {
          counter: 1,
          steps: [
            { stepType: 'replace', from: 1, to: 1, slice: { content: [{ type: 'text', text: 'ebb ' }] } },
          ],
          sources: [],
          writtenAt: Date.now(),
          cause: { kind: 'writing' },
        },
      ],
    });
    await pause(TOLD);
    return bytes;
  } finally {
    for (const socket of sockets) socket.close();
    await app.stop();
  }
}
