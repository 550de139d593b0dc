import { plainText } from '@oxbow/core/content';
import { textSchema } from '@oxbow/core/kinds/text';
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep, Transform } from 'prosemirror-transform';
import { HeadMoved } from '../store/log.js';
import { TestServer } from '../testing/server.js';
import { Trouble } from '../trouble/trouble.js';
import type { Wanted } from './batch.js';
import type { Room } from './room.js';
import { FutureBase } from './room.js';

describe('a room', () => {
  let server: TestServer;
  let room: Room;

  beforeEach(async () => {
    server = await TestServer.start();
    const { key } = await server.app.documents.create(server.people.ines, 'Room', null);
    room = await server.app.rooms.get(key);
  });
  afterEach(() => server.stop());

  const typed = (counter: number, text: string, at = 1, extra: Partial<Wanted> = {}): Wanted => ({
    counter,
    steps: new Transform(room.head.doc).insert(at, textSchema.text(text)).steps,
    sources: [],
    writtenAt: Date.now(),
    cause: { kind: 'writing' },
    ...extra,
  });
  const submit = (base: number, ...edits: Wanted[]) =>
    room.submit({ author: server.people.ines.key, client: 'window', base, edits });
  const stored = async (): Promise<string> =>
    plainText(await server.app.rooms.moments.open(room.document, room.head.seq));

  it('goes back to what is stored when a commit fails, and takes the next edit', async () => {
    await submit(0, typed(1, 'kept'));
    const { log } = server.app.rooms.moments;
    const run = log.run.bind(log);
    spyOn(log, 'run').and.callFake(async (...args) => {
      if (args[0].flat().some((edit) => edit.counter === 2)) throw new Error('The disk is full');
      return run(...args);
    });
    await expectAsync(submit(1, typed(2, 'lost '))).toBeRejectedWithError('The disk is full');
    expect(room.head.seq).toBe(1);
    await submit(1, typed(3, 'next '));
    expect(await stored()).toBe('next kept');
  });

  it('takes a batch that is sent twice at once as one, and orders nothing anew for it', async () => {
    const run = spyOn(server.app.rooms.moments.log, 'run').and.callThrough();
    const edits = [typed(1, 'ebb '), typed(2, 'flood ')];
    const answers = await Promise.all([submit(0, ...edits), submit(0, ...edits)]);
    expect(answers[1]).toEqual(answers[0] ?? []);
    expect(room.head.seq).toBe(2);
    expect(await stored()).toBe('flood ebb ');
    expect(run.calls.allArgs().flat(3).length).toBe(2);
  });

  it('acknowledges an edit whose checkpoint cannot be kept', async () => {
    spyOn(server.app.rooms.moments, 'keep').and.rejectWith(new Error('The disk is full'));
    for (let i = 1; i <= 230; i++) await submit(i - 1, typed(i, 'x'));
    await room.settled();
    expect((await stored()).length).toBe(230);
  });

  it('orders again when another process was first', async () => {
    const { log } = server.app.rooms.moments;
    const run = log.run.bind(log);
    let first = true;
    spyOn(log, 'run').and.callFake(async (...args) => {
      if (first) {
        first = false;
        throw new HeadMoved(room.document);
      }
      return run(...args);
    });
    const results = await submit(0, typed(1, 'tide'));
    expect(results.map((result) => result.seq)).toEqual([1]);
    expect(await stored()).toBe('tide');
  });

  it('announces edits once each, in order, and only when they are durable', async () => {
    const heard: number[] = [];
    room.onAccepted((edits) => heard.push(...edits.map((edit) => edit.seq)));
    await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        room.submit({ author: server.people.jun.key, client: `w${i}`, base: 0, edits: [typed(1, `${i} `)] }),
      ),
    );
    expect(heard).toEqual(Array.from({ length: 20 }, (_, i) => i + 1));
    expect((await stored()).split(' ').filter(Boolean).length).toBe(20);
  });

  it('answers a batch that is sent again in part as it did before', async () => {
    await submit(0, typed(1, 'a'));
    const again = await submit(0, typed(1, 'a'), typed(2, 'b'));
    expect(again.map((result) => result.seq)).toEqual([1, 2]);
    expect(
      (await submit(0, typed(1, 'a'), typed(2, 'b'), typed(3, 'c'))).map((result) => result.seq),
    ).toEqual([1, 2, 3]);
    expect([...(await stored())].sort().join('')).toBe('abc');
  });

  it('takes an edit from a base of long ago', async () => {
    for (let i = 1; i <= 600; i++) await submit(i - 1, typed(i, 'x'));
    const late = {
      ...typed(1, 'late', 1),
      steps: new Transform(textSchema.node('doc', null, [textSchema.node('paragraph')])).insert(
        1,
        textSchema.text('late'),
      ).steps,
    };
    await room.submit({ author: server.people.tobias.key, client: 'other', base: 0, edits: [late] });
    expect(await stored()).toContain('late');
  });

  it('puts a stale edit where it belongs while hundreds are ordered and not one of them is stored', async () => {
    await submit(0, typed(1, 'ab'));
    const { log } = server.app.rooms.moments;
    const run = log.run.bind(log);
    let release: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (release = resolve));
    spyOn(log, 'run').and.callFake(async (...args) => {
      await held;
      return run(...args);
    });
    const waiting = Array.from({ length: 8 }, (_, part) =>
      submit(1, ...Array.from({ length: 100 }, (_, i) => typed(2 + part * 100 + i, 'x'))),
    );
    while (room.head.seq < 801) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(room.durable).toBe(1);
    const late = room.submit({
      author: server.people.tobias.key,
      client: 'other',
      base: 1,
      edits: [
        typed(1, '!', 2, {
          steps: [new ReplaceStep(2, 2, new Slice(Fragment.from(textSchema.text('!')), 0, 0))],
        }),
      ],
    });
    const again = submit(1, typed(2, 'x'));
    while (room.head.seq < 802) await new Promise((resolve) => setTimeout(resolve, 5));
    release();
    await Promise.all([...waiting, late]);
    expect((await again).map(({ seq }) => seq)).toEqual([2]);
    expect(await stored()).toBe(`${'x'.repeat(800)}a!b`);
  });

  it('shows nobody as stored what is only ordered, though an empty batch came after it', async () => {
    const { log } = server.app.rooms.moments;
    const run = log.run.bind(log);
    let release: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (release = resolve));
    spyOn(log, 'run').and.callFake(async (...args) => {
      await held;
      return run(...args);
    });
    const first = submit(0, typed(1, 'tide'));
    while (room.head.seq < 1) await new Promise((resolve) => setTimeout(resolve, 5));
    await room.submit({ author: server.people.jun.key, client: 'empty', base: 1, edits: [] });
    let isStored = false;
    const head = room.storedHead().then(({ seq }) => {
      isStored = true;
      return seq;
    });
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(isStored).toBeFalse();
    release();
    await first;
    expect(await head).toBe(1);
  });

  it('orders nothing for somebody who may not write any more when it is their turn', async () => {
    const refused = room.submit({
      author: server.people.jun.key,
      client: 'window',
      base: 0,
      edits: [typed(1, 'tide')],
      authorize: () => Promise.reject(new Trouble(404, 'There is no such document')),
    });
    await expectAsync(refused).toBeRejectedWithError('There is no such document');
    expect(room.head.seq).toBe(0);
  });

  it('refuses a base that has not been yet, and says what the document has', async () => {
    await expectAsync(submit(5, typed(1, 'x'))).toBeRejectedWithError(FutureBase, /0 edits/);
  });

  it('leads a source back through a place in a moment and an own counter', async () => {
    await submit(0, typed(1, 'tide'));
    await submit(1, typed(2, '-', 1, { steps: [new ReplaceStep(1, 5, Slice.empty)] }));
    const back = (counter: number, ref: Wanted['sources'][number]) =>
      typed(counter, 'tide ', 1, { sources: [ref], cause: { kind: 'undo', of: [2] } });
    await submit(2, back(3, { step: 0, at: 0, length: 4, moment: 1, position: 1 }));
    await submit(3, back(4, { step: 0, at: 0, length: 4, counter: 1, offset: 0 }));
    const origins = room.head.provenance.runs
      .between(1, room.head.doc.content.size - 1)
      .map((run) => [run.seq, run.origin.seq, run.origin.offset]);
    expect(origins).toEqual([
      [4, 1, 0],
      [4, 4, 4],
      [3, 1, 0],
      [3, 3, 4],
    ]);
  });

  it('says what each edit began and ended in words', async () => {
    await submit(0, typed(1, 'two words'));
    await submit(1, typed(2, '-', 1, { steps: [new ReplaceStep(1, 5, Slice.empty)] }));
    const rows = await server.app.rooms.moments.log.between(room.document, 0, 2);
    expect(rows.map((row) => [row.wordsIn, row.wordsOut])).toEqual([
      [2, 0],
      [0, 1],
    ]);
  });
});
