import { textSchema } from '@oxbow/core/kinds/text';
import { Transform } from 'prosemirror-transform';
import { TestServer } from '../testing/server.js';
import { Cutting } from './cutting.js';

const MINUTE = 60_000;

describe('cutting versions by the clock', () => {
  let server: TestServer;
  let said: string[];
  let cutting: Cutting;
  const log = { error: (_about: object, text: string) => void said.push(text) };

  beforeEach(async () => {
    server = await TestServer.start();
    said = [];
    const { database, versions } = server.app;
    cutting = new Cutting(database, versions, log as never);
  });
  afterEach(() => server.stop());

  /** A document in which something was written an hour ago, and its number. */
  const written = async (title: string): Promise<number> => {
    const { key } = await server.app.documents.create(server.people.ines, title, null, 1);
    const room = await server.app.rooms.get(key);
    await room.compose(({ doc, seq }) => ({
      author: server.people.ines.key,
      client: 'ines',
      base: seq,
      edits: [
        {
          counter: 1,
          steps: new Transform(doc).insert(1, textSchema.text('The gate.')).steps,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' },
          at: Date.now() - 60 * MINUTE,
        },
      ],
    }));
    await room.settled();
    return key;
  };
  const causes = async (key: number): Promise<string[]> =>
    (await server.app.versions.list(key, 2 ** 30, 10)).map(({ cause }) => cause);

  it('finds the documents in which somebody paused, and no others', async () => {
    const [one, other] = [await written('Minutes'), await written('Rota')];
    const blank = (await server.app.documents.create(server.people.ines, 'Blank', null)).key;
    await cutting.cutDue(Date.now());
    expect(said).toEqual([]);
    expect(await Promise.all([one, other, blank].map(causes))).toEqual([
      ['pause', 'beginning'],
      ['pause', 'beginning'],
      ['beginning'],
    ]);
  });

  it('goes on after one that fails, and says so', async () => {
    const [one, other] = [await written('Minutes'), await written('Rota')];
    const cutDue = server.app.versions.cutDue.bind(server.app.versions);
    spyOn(server.app.versions, 'cutDue').and.callFake((document, now) =>
      document === one ? Promise.reject(new Error('no')) : cutDue(document, now),
    );
    await cutting.cutDue(Date.now());
    expect(said).toEqual(['cutting versions of a document failed']);
    expect(await Promise.all([one, other].map(causes))).toEqual([['beginning'], ['pause', 'beginning']]);
  });
});
