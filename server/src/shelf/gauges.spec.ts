import { textSchema } from '@oxbow/core/kinds/text';
import { sittings } from '@oxbow/core/history';
import { Random } from '@oxbow/core/testing';
import { Transform } from 'prosemirror-transform';
import { TestServer } from '../testing/server.js';
import { Gauges } from './gauges.js';

const MINUTE = 60_000;

describe('the small tideline', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await TestServer.start();
  });
  afterAll(() => server.stop());

  it('kept in step with the log is what the whole log gives, also after a restart', async () => {
    const { app, people } = server;
    const random = new Random(11);
    const document = await app.documents.create(people.ines, 'Guide', null, 0);
    const room = await app.rooms.get(document.key);
    const log = app.rooms.moments.log;
    const fresh = (): Gauges => new Gauges(app.database, log, fail);
    const kept = fresh();
    app.rooms.onAccepted((of, edits) => kept.wrote(of, edits));
    let at = Date.UTC(2026, 3, 14);
    for (let batch = 1; batch <= 40; batch++) {
      const author = random.pick([people.ines, people.tobias, people.jun]);
      await room.compose(({ doc, seq }) => ({
        author: author.key,
        client: `window-${author.id}`,
        base: seq,
        edits: Array.from({ length: random.between(1, 40) }, (_, i) => ({
          counter: batch * 100 + i,
          steps: new Transform(doc).insert(1, textSchema.text('ebb ')).steps,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' } as const,
          at: (at += random.pick([1000, 1000, 1000, 11 * MINUTE, 13 * 60 * MINUTE])),
        })),
      }));
      const seq = room.head.seq;
      const traces = await log.traces(document.key, (key) => app.people.id(key));
      const looked = random.between(0, seq);
      const others = traces.filter((trace) => trace.seq > looked && trace.author !== 'tobias');
      const sum = (side: 'wordsIn' | 'wordsOut'): number =>
        others.reduce((all, trace) => all + trace[side], 0);
      for (const gauges of batch % 8 === 0 ? [kept, fresh()] : [kept]) {
        const view = { ...document, seq };
        const bars = await gauges.bars(view, (key) => app.people.id(key));
        expect(bars).toEqual(
          sittings(traces, 12 * 60 * MINUTE)
            .slice(-60)
            .map(({ to, shares }) => ({
              at: to,
              shares: shares.map(({ author: who, wordsIn, wordsOut }) => [who, wordsIn, wordsOut]),
            })),
        );
        const told = await gauges.fresh({ ...view, person: people.tobias.key }, looked);
        expect([told.wordsIn, told.wordsOut]).toEqual([sum('wordsIn'), sum('wordsOut')]);
        expect(told.people.map((key) => app.people.id(key)).sort()).toEqual(
          [...new Set(others.map(({ author: who }) => who))].sort(),
        );
        expect(await gauges.lastOf({ ...view, person: people.jun.key })).toBe(
          traces.findLast((trace) => trace.author === 'jun')?.seq ?? 0,
        );
      }
    }
    expect(room.head.seq).toBeGreaterThan(500);
    expect(await app.database.models.gauges.findByPk(document.key)).not.toBeNull();
  });
});
