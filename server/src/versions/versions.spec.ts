import { textSchema } from '@oxbow/core/kinds/text';
import { Transform } from 'prosemirror-transform';
import { ownView } from '../access/view.js';
import { TestServer } from '../testing/server.js';

const MINUTE = 60_000;

describe('versions', () => {
  let server: TestServer;
  let key: number;
  const start = Date.UTC(2026, 3, 14, 9);

  beforeEach(async () => {
    server = await TestServer.start();
    key = (await server.app.documents.create(server.people.ines, 'Minutes', null, start)).key;
  });
  afterEach(() => server.stop());

  async function write(who: 'ines' | 'tobias', minute: number, text: string): Promise<void> {
    const room = await server.app.rooms.get(key);
    await room.compose(({ doc, seq }) => ({
      author: server.people[who].key,
      client: who,
      base: seq,
      edits: [
        {
          counter: minute,
          steps: new Transform(doc).insert(doc.content.size - 1, textSchema.text(text)).steps,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' },
          at: start + minute * MINUTE,
        },
      ],
    }));
  }

  it('are cut at pauses, once, with who, what and how much', async () => {
    await write('ines', 1, 'The gate ');
    await write('tobias', 3, 'is rebuilt.');
    await write('ines', 40, ' Thanks.');
    const { versions } = server.app;
    const cut = () => versions.cutDue(key, start + 41 * MINUTE);
    await Promise.all([cut(), cut(), cut()]);
    const [newest, first] = (await versions.list(key, 2 ** 30, 10)).map((row) => versions.shape(row));
    expect(first).toEqual(jasmine.objectContaining({ number: 1, cause: 'beginning' }));
    expect(newest).toEqual(
      jasmine.objectContaining({
        number: 2,
        label: '0.1',
        seq: 2,
        cause: 'pause',
        authors: ['ines', 'tobias'],
        wordsAdded: 4,
        wordsRemoved: 0,
        size: 4,
      }),
    );
    expect(newest?.gist).toBe('Added “The gate is rebuilt.”');
    expect(newest?.at).toBe(new Date(start + 3 * MINUTE).toISOString());
    await versions.cutDue(key, start + 60 * MINUTE);
    expect((await versions.last(key))?.number).toBe(3);
  });

  it('hold what was there before something is put on top', async () => {
    await write('ines', 1, 'first');
    const row = await server.app.database.models.documents.findByPk(key, { raw: true });
    if (!row) throw new Error('gone');
    const document = ownView(row, server.people.ines.key);
    const { documents, becoming, rooms, versions } = server.app;
    const kept = await documents.keep(document, server.people.ines, {
      comment: 'so far',
      at: start + 2 * MINUTE,
    });
    await write('ines', 3, ' second');
    const { version } = await becoming.become(
      document,
      server.people.tobias,
      { kind: 'restore', moment: kept.seq, number: kept.number },
      async () => ({ target: await rooms.moments.open(key, kept.seq) }),
      { at: start + 4 * MINUTE },
    );
    expect(version).toEqual(
      jasmine.objectContaining({
        number: 4,
        cause: 'restore',
        authors: ['tobias'],
        gist: 'Removed “second”',
      }),
    );
    expect((await rooms.moments.open(key, (await versions.byNumber(key, 3))?.seq ?? 0)).textContent).toBe(
      'first second',
    );
  });

  it('are told to those who have the document open', async () => {
    const told: number[] = [];
    server.app.versions.onCut((_document, version) => told.push(version.number));
    await write('ines', 1, 'a');
    await server.app.versions.cutDue(key, start + 30 * MINUTE);
    expect(told).toEqual([2]);
  });
});
