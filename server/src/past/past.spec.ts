import { textSchema } from '@oxbow/core/kinds/text';
import { Random } from '@oxbow/core/testing';
import { foldedWords } from '@oxbow/core/past';
import type { Notice } from '@oxbow/contract';
import { Transform } from 'prosemirror-transform';
import type { StoredDocument } from '../store/models.js';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';
import { CHUNK } from './words.js';

type Who = 'ines' | 'tobias' | 'jun';
const MINUTE = 60_000;

describe('looking back', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let document: StoredDocument;
  let path: string;
  let counter = 1;
  let clock = 0;

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
  });
  afterAll(() => server.stop());
  beforeEach(async () => {
    clock = Date.now() - 60 * 24 * 60 * MINUTE;
    document = await server.app.documents.create(server.people.ines, 'Guide', null, clock);
    path = `/api/documents/${document.id}`;
    await ines.call('PUT', `${path}/shares/tobias`, { role: 'editor' });
  });

  /** One edit by somebody, some time after the last. */
  async function write(who: Who, change: (tr: Transform) => void, after = 1000): Promise<number> {
    clock += after;
    const room = await server.app.rooms.get(document.key);
    const [result] = await room.compose(({ doc, seq }) => {
      const tr = new Transform(doc);
      change(tr);
      const edit = {
        counter: counter++,
        steps: tr.steps,
        sources: [],
        writtenAt: clock,
        cause: { kind: 'writing' as const },
        at: clock,
      };
      return { author: server.people[who].key, client: who, base: seq, edits: [edit] };
    });
    return result?.seq ?? 0;
  }
  const add = (text: string) => (tr: Transform) =>
    void tr.insert(tr.doc.content.size - 1, textSchema.text(text));
  const paragraph = (text: string) => (tr: Transform) =>
    void tr.insert(tr.doc.content.size, textSchema.node('paragraph', null, [textSchema.text(text)]));
  const cut = (from: number, to: number) => (tr: Transform) => void tr.delete(from, to);

  it('lists what was removed, with who, when and where, and finds it together with present text', async () => {
    await write('ines', add('The mill stands by the creek and the heron.'));
    await write('tobias', paragraph('Bring boots for the marsh path.'));
    const gone = await write('tobias', cut(20, 43), 20 * MINUTE);
    const { body } = await ines.get(`${path}/removed`);
    expect(body.items.length).toBe(1);
    expect(body.items[0]).toEqual(
      jasmine.objectContaining({
        text: 'the creek and the heron',
        by: 'tobias',
        last: gone,
        writers: ['ines'],
        words: 5,
      }),
    );
    expect(body.items[0].moment).toBe(gone - 1);
    const found = (await ines.get(`${path}/removed?q=heron`)).body;
    expect([found.total, found.present.length]).toEqual([1, 0]);
    const both = (await ines.get(`${path}/removed?q=the`)).body;
    expect([both.total, both.present[1].text]).toEqual([1, 'Bring boots for the marsh path.']);
    const restored = await ines.post(`${path}/take-back`, { seqs: [gone] });
    expect(restored.status).toBe(201);
    expect((await ines.get(`${path}/removed`)).body.total).toBe(0);
  });

  it('tells the life of a passage from any moment of it', async () => {
    await write('ines', add('The gate is opened at high water.'));
    await write('tobias', (tr) => void tr.replaceWith(13, 19, textSchema.text('shut')), 30 * MINUTE);
    await write('ines', (tr) => void tr.replaceWith(13, 17, textSchema.text('opened')), 30 * MINUTE);
    const split = await write('tobias', (tr) => void tr.split(19), 30 * MINUTE);
    const { body } = await ines.get(`${path}/life?moment=@${split}&position=3`);
    expect(body.forms.map(({ turn, by }: { turn: string; by: string }) => [turn, by])).toEqual([
      ['written', 'ines'],
      ['changed', 'tobias'],
      ['changed', 'ines'],
      ['split', 'tobias'],
    ]);
    expect(body.forms[3].with).toEqual([' at high water.']);
    expect(body.contests[0]).toEqual(jasmine.objectContaining({ one: 'opened', other: 'shut' }));
    expect((await ines.get(`${path}/contested`)).body[0].turns.length).toBe(2);
    const early = (await ines.get(`${path}/life?moment=@1&position=0`)).body;
    expect(early.forms).toEqual(body.forms);
    expect((await ines.get(`${path}/life?moment=@0&position=0`)).status).toBe(422);
  });

  it('finds words in time over many chunks, as reading every state does, before and after indexing', async () => {
    const random = new Random(5);
    const words = ['mill', 'tide', 'half-tide', 'Wheel', 'élan', 'on 3.5 m'];
    const states: string[] = [''];
    const moments = CHUNK + 300;
    const room = await server.app.rooms.get(document.key);
    await room.compose(({ doc, seq }) => {
      let now = doc;
      const edits = Array.from({ length: moments }, () => {
        const tr = new Transform(now);
        const size = now.content.size - 2;
        if (size > 160 || (size > 20 && random.chance(0.4))) {
          const from = random.between(1, size - 5);
          tr.delete(from, Math.min(size, from + random.between(1, 30)));
        } else tr.insert(random.between(1, size + 1), textSchema.text(`${random.pick(words)} `));
        now = tr.doc;
        states.push(now.textContent);
        clock += 1000;
        return {
          counter: counter++,
          steps: tr.steps,
          sources: [],
          writtenAt: clock,
          cause: { kind: 'writing' as const },
          at: clock,
        };
      });
      return { author: server.people.ines.key, client: 'ines', base: seq, edits };
    });
    const holds = (text: string, phrase: string[]): boolean => {
      const said = foldedWords(text);
      return said.some((_word, at) => phrase.every((word, k) => said[at + k] === word));
    };
    const check = async (): Promise<void> => {
      for (const query of [
        'tide',
        'HALF-TIDE',
        '"mill tide"',
        'elan',
        '"on 3.5"',
        '"wheel wheel"',
        'nowhere',
      ]) {
        const { body } = await ines.get(`${path}/find?q=${encodeURIComponent(query)}`);
        const there = states.map((_text, seq) =>
          body.moments.some(([came, went]: [number, number]) => came <= seq && (went === 0 || went > seq)),
        );
        const phrase = foldedWords(query);
        expect(there)
          .withContext(query)
          .toEqual(states.map((text) => holds(text, phrase)));
      }
    };
    await check();
    await server.app.chronicles.index(document.key);
    expect(await server.app.chronicles.storedUpTo(document.key)).toBe(moments);
    await check();
    const everywhere = (await tobias.get('/api/find?q=half-tide wheel')).body;
    expect(everywhere.items.map((one: { title: string }) => one.title)).toEqual(['Guide']);
    expect((await (await server.as('jun')).get('/api/find?q=wheel')).body).toEqual({ items: [], next: null });
    expect((await ines.get(`${path}/find?q=...`)).status).toBe(422);
  });

  it('finds words in many documents a few at a time, each once, those last written in first', async () => {
    const titles: string[] = [];
    for (let i = 0; i < 14; i++) {
      const row = await server.app.documents.create(server.people.jun, `Logbook ${i}`, null, clock + i);
      const room = await server.app.rooms.get(row.key);
      const steps = new Transform(textSchema.node('doc', null, [textSchema.node('paragraph')])).insert(
        1,
        textSchema.text(i % 2 ? 'lantern oil' : 'rope'),
      ).steps;
      await room.submit({
        author: server.people.jun.key,
        client: 'client-jun',
        base: 0,
        edits: [{ counter: 1, steps, sources: [], writtenAt: 0, cause: { kind: 'writing' }, at: clock + i }],
      });
      if (i % 3) await server.app.chronicles.index(row.key);
      if (i % 2) titles.unshift(`Logbook ${i}`);
    }
    const jun = await server.as('jun');
    const found: string[] = [];
    for (let cursor = '', pages = 0; pages < 9; pages++) {
      const { body } = await jun.get(`/api/find?q=lantern${cursor}`);
      found.push(...body.items.map(({ title }: { title: string }) => title));
      if (body.next === null) break;
      // However many there were that only might have held the words, a page is full before there is another.
      expect(body.items.length).toBeGreaterThanOrEqual(6);
      cursor = `&cursor=${body.next}`;
    }
    expect(found).toEqual(titles);
    expect((await jun.get('/api/find?q=lantern&cursor=x')).status).toBe(422);
  });

  it('counts what each wrote, kept and removed, for a range, and as CSV', async () => {
    await write('ines', add('one two three '));
    await write('tobias', add('four five '));
    await write('tobias', cut(1, 5));
    const { body } = await ines.get(`${path}/contributors`);
    const plain = Object.fromEntries(
      body.people.map((one: { person: string; written: number; kept: number; removed: number }) => [
        one.person,
        [one.written, one.kept, one.removed],
      ]),
    );
    expect(plain).toEqual({ ines: [3, 2, 0], tobias: [2, 2, 1] });
    const range = (await ines.get(`${path}/contributors?after=1&upTo=2`)).body;
    expect(range.people.map((one: { person: string }) => one.person)).toEqual(['tobias']);
    const file = await ines.get(`${path}/contributors?format=csv`);
    expect((file.body as string).split('\r\n')[1]).toBe('ines,3,0,2,0,0,1,0.01,1');
    expect((await ines.get(`${path}/contributors?after=3&upTo=1`)).status).toBe(422);
  });

  it('tells who put each stretch of the page there, and sends edits for playing back', async () => {
    await write('ines', add('Nothing but the tide '));
    await write('tobias', add('drives it.'), 30 * MINUTE);
    const { body } = await ines.get(`${path}/ledger`);
    expect(
      body.entries.map((one: { from: number; to: number; by: string }) => [one.from, one.to, one.by]),
    ).toEqual([
      [1, 22, 'ines'],
      [22, 32, 'tobias'],
    ]);
    const edits = (await ines.get(`${path}/edits?after=1&upTo=99`)).body;
    expect(edits.length).toBe(1);
    expect(edits[0].steps[0].slice.content[0].text).toBe('drives it.');
  });

  it('remembers how far one has looked, which never goes back, and counts what others wrote since', async () => {
    await write('ines', add('Ours. '));
    await write('tobias', add('Theirs, '));
    await write('tobias', add('again.'), 20 * MINUTE);
    const fresh = async (who: Caller) => (await who.get(path)).body.fresh;
    expect(await fresh(ines)).toEqual({ sittings: 2, people: ['tobias'], wordsIn: 2, wordsOut: 0 });
    expect((await fresh(tobias)).sittings).toBe(0);
    expect((await ines.get(`${path}/look`)).body).toEqual({ seq: 1, at: null, upTo: 0, seen: [] });
    const walked = await ines.call('PUT', `${path}/look`, { seq: 1, upTo: 3, seen: [0] });
    expect(walked.body).toEqual(jasmine.objectContaining({ seq: 1, upTo: 3, seen: [0] }));
    await ines.call('PUT', `${path}/look`, { seq: 3 });
    await ines.call('PUT', `${path}/look`, { seq: 2 });
    expect((await ines.get(`${path}/look`)).body.seq).toBe(3);
    expect((await fresh(ines)).sittings).toBe(0);
  });

  it('tells watchers of a document and of a passage, once a sitting, and not of what they did themselves', async () => {
    await write('ines', add('The wheel turns.'));
    await write('ines', paragraph('The marsh is quiet.'));
    const whole = await tobias.post(`${path}/watches`, {});
    const passage = await ines.post(`${path}/watches`, { position: 3 });
    expect(passage.body.passage).toBe('The wheel turns.');
    expect((await ines.post(`${path}/watches`, { position: 3 })).body.id).toBe(passage.body.id);
    await write('ines', (tr) => void tr.insert(16, textSchema.text(' slowly')));
    await write('tobias', (tr) => void tr.insert(26, textSchema.text('There ')));
    await told(tobias, 'changed');
    expect(await notices(ines)).toEqual([]);
    await write('tobias', (tr) => void tr.insert(1, textSchema.text('At dawn ')));
    const [notice] = await told(ines, 'passage');
    expect(notice?.text).toBe('At dawn The wheel turns slowly.');
    expect(notice?.by).toEqual(['tobias']);
    expect((await ines.call('DELETE', `/api/notices/${notice?.id}`)).status).toBe(204);
    expect(await notices(ines)).toEqual([]);
    expect((await tobias.get(path)).body.watched).toBeTrue();
    await tobias.call('DELETE', `${path}/watches/${whole.body.id}`);
    expect((await tobias.get(`${path}/watches`)).body).toEqual([]);
    expect((await tobias.call('DELETE', `${path}/watches/${passage.body.id}`)).status).toBe(404);
  });

  it('tells a writer at once when much of what they wrote disappears, and unsays it when it is back', async () => {
    const long = Array.from({ length: 60 }, (_, i) => `word${i}`).join(' ');
    await write('ines', add(long));
    await write('tobias', cut(1, 200), 30 * MINUTE);
    await write('tobias', (tr) => void tr.delete(1, tr.doc.content.size - 1));
    const [notice] = await told(ines, 'lost');
    expect(notice).toEqual(jasmine.objectContaining({ by: ['tobias'], words: 60 }));
    const back = await ines.post(`${path}/take-back`, { seqs: notice?.undo });
    expect(back.status).toBe(201);
    expect((await ines.get(`${path}/versions/@${back.body.seq}?format=text`)).body).toBe(`${long}\n`);
    await until(async () => (await notices(ines)).length === 0);
  });

  const notices = async (who: Caller): Promise<Notice[]> =>
    ((await who.get('/api/notices')).body as Notice[]).filter((one) => one.document === document.id);
  async function told(who: Caller, kind: Notice['kind']): Promise<Notice[]> {
    await until(async () => (await notices(who)).some((one) => one.kind === kind));
    return (await notices(who)).filter((one) => one.kind === kind);
  }
  async function until(holds: () => Promise<boolean>): Promise<void> {
    for (let tries = 0; tries < 100; tries++) {
      if (await holds()) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('It did not come to that in ten seconds');
  }
});
