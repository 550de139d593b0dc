import type { FoundInTime, FoundPage } from '@oxbow/contract';
import { textSchema } from '@oxbow/core/kinds/text';
import { Random } from '@oxbow/core/testing';
import { Transform } from 'prosemirror-transform';
import { TestPostgres } from '../testing/postgres.js';
import { TestServer } from '../testing/server.js';
import { CHUNK, WordIndex } from './words.js';

const WORDS = ['mill', 'tide', "miller's", 'half-tide', 'élan', '3.5', 'c:\\mill', 'wheel'];

/** PostgreSQL's own full text is the index of words here. */
describe('looking back over PostgreSQL', () => {
  let postgres: TestPostgres;
  let servers: TestServer[] = [];

  beforeAll(async () => {
    postgres = await TestPostgres.start();
    servers = [await TestServer.start(), await TestServer.start(undefined, postgres.url)];
  });
  afterAll(async () => {
    for (const server of servers) await server.stop();
    await postgres.stop();
  });

  /** Writes the same history on a server, and indexes its words. */
  async function write(server: TestServer): Promise<string> {
    const start = Date.UTC(2026, 3, 14);
    const document = await server.app.documents.create(server.people.ines, 'Guide', null, start);
    const random = new Random(3);
    const room = await server.app.rooms.get(document.key);
    await room.compose(({ doc, seq }) => {
      let now = doc;
      const edits = Array.from({ length: CHUNK + 150 }, (_, i) => {
        const tr = new Transform(now);
        const size = now.content.size - 2;
        if (size > 200 || (size > 30 && random.chance(0.4))) {
          const from = random.between(1, size - 8);
          tr.delete(from, from + random.between(1, 8));
        } else tr.insert(random.between(1, size + 1), textSchema.text(`${random.pick(WORDS)} `));
        now = tr.doc;
        const at = start + i * 1000;
        return {
          counter: i,
          steps: tr.steps,
          sources: [],
          writtenAt: at,
          cause: { kind: 'writing' as const },
          at,
        };
      });
      return { author: server.people.ines.key, client: 'ines', base: seq, edits };
    });
    await server.app.chronicles.index(document.key);
    return document.id;
  }

  it('finds the same words at the same moments as over SQLite, in one document and in all', async () => {
    const answers = await Promise.all(
      servers.map(async (server) => {
        const id = await write(server);
        const ines = await server.as('ines');
        const found: unknown[] = [];
        for (const query of ['tide', "miller's", '"half-tide wheel"', 'élan 3.5', '"c:\\mill"', 'nowhere']) {
          const one = (await ines.get(`/api/documents/${id}/find?q=${encodeURIComponent(query)}`))
            .body as FoundInTime;
          const all = (await ines.get(`/api/find?q=${encodeURIComponent(query)}`)).body as FoundPage;
          found.push([
            query,
            one.moments,
            one.terms,
            all.items.map(({ title, moments }) => [title, moments]),
          ]);
        }
        const row = await server.app.database.models.documents.findOne({ where: { id }, raw: true });
        const chunks = await new WordIndex(server.app.database).find("miller's", row?.key ?? 0);
        return { found, chunks: chunks.sort() };
      }),
    );
    expect(answers[1]).toEqual(answers[0]);
    expect(answers[1]?.chunks).toEqual([0, 1]);
  });
});
