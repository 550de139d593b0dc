import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { migrations } from './migrations.js';
import type { QueryInterface } from 'sequelize';
import { textSchema } from '@oxbow/core/kinds/text';
import { Transform } from 'prosemirror-transform';
import { People } from '../access/people.js';
import { Rooms } from '../ordering/rooms.js';
import { TestServer } from '../testing/server.js';
import { openDatabase } from './database.js';

describe('the store', () => {
  let server: TestServer;
  let key: number;

  beforeEach(async () => {
    server = await TestServer.start();
    key = (await server.app.documents.create(server.people.ines, 'Field notes', null)).key;
  });
  afterEach(() => server.stop());

  const write = async (rooms: Rooms, text: string, counter: number, client = 'one'): Promise<void> => {
    const room = await rooms.get(key);
    await room.compose(({ doc, seq }) => ({
      author: server.people.ines.key,
      client,
      base: seq,
      edits: [
        {
          counter,
          steps: new Transform(doc).insert(1, textSchema.text(text)).steps,
          sources: [],
          writtenAt: 0,
          cause: { kind: 'writing' },
        },
      ],
    }));
  };

  it('are brought up to date wholly or not at all', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'oxbow-'));
    const broken = {
      name: '999-broken',
      up: async ({ context: tables }: { context: QueryInterface }) => {
        await tables.createTable('half', { key: { type: 'INTEGER', primaryKey: true } });
        throw new Error('killed');
      },
    };
    await (await openDatabase({ folder })).close();
    migrations.push(broken);
    try {
      await expectAsync(openDatabase({ folder })).toBeRejectedWithError(/killed/);
    } finally {
      migrations.pop();
    }
    const database = await openDatabase({ folder });
    expect(await database.rows(`SELECT name FROM sqlite_master WHERE name = 'half'`, {})).toEqual([]);
    await database.close();
    await rm(folder, { recursive: true, force: true });
  });

  it('opens every moment, across checkpoints and a restart', async () => {
    const { rooms } = server.app;
    for (let i = 1; i <= 450; i++) await write(rooms, String.fromCharCode(0x4e00 + i), i);
    expect(await server.app.database.models.checkpoints.count({ where: { document: key } })).toBeGreaterThan(
      0,
    );
    await server.stop(true);
    server = await TestServer.start(server.folder);
    const again = server.app.rooms;
    const room = await again.get(key);
    expect(room.head.seq).toBe(450);
    expect(room.head.provenance.runs.alive).toBe(room.head.doc.content.size);
    for (const seq of [0, 1, 199, 200, 201, 333, 450]) {
      expect((await again.moments.open(key, seq)).textContent.length).toBe(seq);
      expect(room.head.provenance.runs.at(seq).size).toBe(seq + 2);
    }
  });

  it('lets two processes write into one document, each carrying over what the other did', async () => {
    const other = await openDatabase({ folder: server.folder });
    const [here, there] = [server.app.rooms, new Rooms(other, new People(other), fail)];
    await here.get(key);
    await there.get(key);
    for (let i = 1; i <= 15; i++)
      await Promise.all([write(here, 'a', i, 'one'), write(there, 'b', i, 'two')]);
    const edits = await here.moments.log.between(key, 0, 1000);
    expect(edits.map((edit) => edit.seq)).toEqual(Array.from({ length: 30 }, (_, i) => i + 1));
    expect((await here.moments.open(key, 30)).textContent.replace(/a/g, '')).toBe('b'.repeat(15));
    await other.close();
  });

  it('finds the last edit before a time by a few looks at the log', async () => {
    const { rooms, database } = server.app;
    const { log } = rooms.moments;
    for (let i = 1; i <= 100; i++) await write(rooms, 'e', i);
    const times = (await log.between(key, 0, 100)).map(({ acceptedAt }) => Number(acceptedAt));
    const rows = spyOn(database, 'rows').and.callThrough();
    for (const at of [0, ...times, (times[99] as number) + 1]) {
      rows.calls.reset();
      expect(await log.lastBefore(key, 100, at)).toBe(times.filter((time) => time <= at).length);
      expect(rows.calls.count()).toBeLessThanOrEqual(7);
    }
  });

  it('reads one row where one is asked for, also by a part of a key', async () => {
    const said: string[] = [];
    const { versions } = server.app.database.models;
    await versions.findOne({
      where: { document: key },
      order: [['number', 'DESC']],
      logging: (sql) => said.push(sql),
    });
    await versions.findByPk(1, { logging: (sql) => said.push(sql) });
    expect(said.map((sql) => / LIMIT 1;$/.test(sql))).toEqual([true, true]);
  });

  it('is durable on every connection that is opened', async () => {
    const [rows] = await server.app.database.writes.add((transaction) =>
      server.app.database.sequelize.query('PRAGMA synchronous', { transaction }),
    );
    expect(rows).toEqual([{ synchronous: 2 }]);
    const [mode] = await server.app.database.sequelize.query('PRAGMA journal_mode');
    expect(mode).toEqual([{ journal_mode: 'wal' }]);
  });

  it('commits the rest of a group when one piece of it fails', async () => {
    const { writes, models } = server.app.database;
    const add = (id: string) =>
      writes.add((transaction) => models.collections.create({ id, name: id, position: 0 }, { transaction }));
    const outcomes = await Promise.allSettled([add('x'), add('x'), add('y')]);
    expect(outcomes.map((outcome) => outcome.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
    expect(await models.collections.count()).toBe(2);
  });

  it('lets other writes have their turn while edits keep coming', async () => {
    const { writes, models } = server.app.database;
    const id = 'in-turn';
    let going = true;
    let turns = 0;
    const kind = { most: 10, weight: () => 1, run: () => new Promise<void>((done) => setImmediate(done)) };
    const keepOn = async (): Promise<void> => {
      while (going && ++turns < 5000) await writes.join(kind, turns);
    };
    const coming = [keepOn(), keepOn()];
    await writes.add((transaction) =>
      models.collections.create({ id, name: id, position: 0 }, { transaction }),
    );
    going = false;
    await Promise.all(coming);
    expect(turns).toBeLessThan(5000);
  });
});
