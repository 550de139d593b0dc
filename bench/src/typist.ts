import { setTimeout as pause } from 'node:timers/promises';
import type { Answer } from '@oxbow/contract';
import { io } from 'socket.io-client';

/** Milliseconds between two edits. */
const EVERY = 25;

// Somebody who types all the time, in a process of their own, so that their wait is the server's and nobody else's.
const [, , port = '', cookie = '', document = ''] = process.argv;
const socket = io(`http://127.0.0.1:${port}`, {
  path: '/live',
  transports: ['websocket'],
  extraHeaders: { Cookie: cookie },
});
let [seq, counter] = [0, 1];
let waits: number[] = [];
const open = new Set<Promise<void>>();

socket.on('edits', ({ edits }: { edits: readonly { seq: number }[] }) => {
  seq = Math.max(seq, edits.at(-1)?.seq ?? 0);
});

async function type(): Promise<void> {
  const begun = performance.now();
  const steps = [{ stepType: 'replace', from: 1, to: 1, slice: { content: [{ type: 'text', text: 'e' }] } }];
  const edit = { counter: counter++, steps, sources: [], writtenAt: Date.now(), cause: { kind: 'writing' } };
  const message = { document, client: 'bench-typist', base: seq, edits: [edit] };
  await socket.timeout(60_000).emitWithAck('edits', message);
  waits.push(performance.now() - begun);
}

process.on('message', (asked: 'begin' | 'end') => {
  if (asked === 'begin') {
    waits = [];
    process.send?.({ value: null });
  } else void Promise.all(open).then(() => process.send?.({ value: waits }));
});
process.on('disconnect', () => process.exit(0));

await new Promise<void>((resolve) => socket.once('connect', resolve));
const joined = (await socket.timeout(60_000).emitWithAck('join', { document })) as Answer<{ seq: number }>;
if (!joined.ok) throw new Error(joined.problem.title);
seq = joined.value.seq;
process.send?.({ value: null });
for (;;) {
  const typed = type();
  open.add(typed);
  void typed.finally(() => open.delete(typed));
  await pause(EVERY);
}
