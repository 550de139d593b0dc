import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations.js';

describe('data of before groups and collections of one’s own', () => {
  let sequelize: Sequelize;
  let umzug: Umzug<ReturnType<Sequelize['getQueryInterface']>>;
  const rows = async <T extends object>(sql: string): Promise<T[]> => (await sequelize.query(sql))[0] as T[];

  beforeEach(async () => {
    sequelize = new Sequelize({
      dialect: 'sqlite',
      storage: ':memory:',
      dialectModule: sqlite3,
      logging: false,
      pool: { max: 1 },
    });
    umzug = new Umzug({
      migrations,
      context: sequelize.getQueryInterface(),
      storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
      logger: undefined,
    });
    await umzug.up({ to: '014-sharing' });
    const sql = [
      ...['ines', 'tobias', 'jun'].map(
        (
          name,
          i,
        ) => `INSERT INTO people (key, id, name, email, initials, colour, about, password, admin, guest, disabled)
          VALUES (${i + 1}, '${name}', '${name}', '${name}@withy.example', '${name[0]}', 0, '', 'x', ${i === 0 ? 1 : 0}, 0, 0)`,
      ),
      `INSERT INTO collections VALUES ('mixed', 'Visitors', 0), ('empty', 'Empty', 1)`,
      ...[
        [1, 'mixed'],
        [2, 'mixed'],
      ].map(
        ([
          key,
          board,
        ]) => `INSERT INTO documents (key, id, kind, title, collection, seq, "createdAt", "changedAt", "changedBy")
          VALUES (${key}, 'd${key}', 'text', 'D', '${board}', 9, 1, 1, 1)`,
      ),
      `INSERT INTO shares (document, person, role, history, first, since, until) VALUES
        (1, 1, 'owner', 'all', 0, 0, 0), (1, 3, 'viewer', 'since', 4, 77, 0),
        (2, 2, 'owner', 'all', 0, 0, 0)`,
      `INSERT INTO "pendingShares" VALUES ('noor@else.example', 1, 'editor', 'since', 5, 88, 0, 99)`,
      `INSERT INTO "shareEvents" (key, document, at, by, kind, person, email, told) VALUES (1, 1, 77, 1, 'shared', 3, '', 'null')`,
    ];
    for (const one of sql) await sequelize.query(one);
    await umzug.up();
  });
  afterEach(() => sequelize.close());

  it('keeps who has what, from where on, and who is invited', async () => {
    expect(
      await rows(
        'SELECT document, person, role, history, first, since FROM standings ORDER BY document, person',
      ),
    ).toEqual([
      { document: 1, person: 1, role: 'owner', history: 'all', first: 0, since: 0 },
      { document: 1, person: 3, role: 'viewer', history: 'since', first: 4, since: 77 },
      { document: 2, person: 2, role: 'owner', history: 'all', first: 0, since: 0 },
    ]);
    expect(
      await rows(
        `SELECT email, role, sent, first FROM shares JOIN reaches ON share = shares.key WHERE email <> ''`,
      ),
    ).toEqual([{ email: 'noor@else.example', role: 'editor', sent: 99, first: 5 }]);
    expect(await rows('SELECT document, collection, person, kind FROM "shareEvents"')).toEqual([
      { document: 1, collection: '', person: 3, kind: 'shared' },
    ]);
  });

  it('gives a collection to the owners of what is in it, a part to each, and an empty one to the administrator', async () => {
    const boards = await rows<{ name: string; person: number; documents: string | null }>(
      `SELECT collections.name, shares.person, (SELECT GROUP_CONCAT(key) FROM documents WHERE collection = collections.id) AS documents
       FROM collections JOIN shares ON shares.collection = collections.id AND shares.role = 'owner' ORDER BY name, person`,
    );
    expect(boards).toEqual([
      { name: 'Empty', person: 1, documents: null },
      { name: 'Visitors', person: 1, documents: '1' },
      { name: 'Visitors', person: 2, documents: '2' },
    ]);
  });
});
