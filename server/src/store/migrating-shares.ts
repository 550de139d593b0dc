import { nanoid } from 'nanoid';
import type { QueryInterface } from 'sequelize';
import { DataTypes, QueryTypes } from 'sequelize';

const line = { type: DataTypes.STRING, allowNull: false };
const whole = { type: DataTypes.INTEGER, allowNull: false };
const moment = { type: DataTypes.BIGINT, allowNull: false };

/**
 * Shares that were of a document and a person, or an address, become shares of a document or a collection with a person, a group, everybody or an address;
 * and the views that tell how people have documents through them.
 */
export async function sharesOfAnything(tables: QueryInterface): Promise<void> {
  const run = (sql: string): Promise<unknown> => tables.sequelize.query(sql);
  await run('DROP VIEW standings');
  await tables.renameTable('shares', 'sharesBefore');
  await tables.createTable('shares', {
    key: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    document: whole,
    collection: line,
    person: whole,
    groupKey: whole,
    email: line,
    role: line,
    history: line,
    since: moment,
    until: moment,
    sent: moment,
  });
  await tables.createTable('reaches', {
    share: { ...whole, primaryKey: true, references: { model: 'shares', key: 'key' }, onDelete: 'CASCADE' },
    document: {
      ...whole,
      primaryKey: true,
      references: { model: 'documents', key: 'key' },
      onDelete: 'CASCADE',
    },
    first: whole,
    since: moment,
  });
  await tables.addIndex('reaches', ['document']);
  await run(`INSERT INTO shares (document, collection, person, "groupKey", email, role, history, since, until, sent)
    SELECT document, '', person, 0, '', role, history, since, until, 0 FROM "sharesBefore"`);
  await run(`INSERT INTO shares (document, collection, person, "groupKey", email, role, history, since, until, sent)
    SELECT document, '', 0, 0, email, role, history, since, until, sent FROM "pendingShares"`);
  await run(`INSERT INTO reaches (share, document, first, since)
    SELECT shares.key, shares.document, before.first, before.since FROM shares
    JOIN "sharesBefore" AS before ON before.document = shares.document AND before.person = shares.person
    WHERE shares.history <> 'all'`);
  await run(`INSERT INTO reaches (share, document, first, since)
    SELECT shares.key, shares.document, before.first, before.since FROM shares
    JOIN "pendingShares" AS before ON before.document = shares.document AND before.email = shares.email
    WHERE shares.history <> 'all' AND shares.email <> ''`);
  await tables.dropTable('sharesBefore');
  await tables.dropTable('pendingShares');
  await tables.addIndex('shares', ['document', 'collection', 'person', 'groupKey', 'email'], {
    unique: true,
    name: 'shares_once',
  });
  for (const fields of [['person', 'document'], ['groupKey', 'document'], ['collection'], ['email']])
    await tables.addIndex('shares', fields);
  for (const sql of viewsOf(tables.sequelize.getDialect(), false)) await run(sql);
}

/** Whom archives and messages name stay told as claimed when the document that they came with is gone. */
export async function claimsThatStay(tables: QueryInterface): Promise<void> {
  const person = { type: DataTypes.INTEGER, references: { model: 'people', key: 'key' } };
  await tables.renameTable('claims', 'claimsBefore');
  await tables.createTable('claims', {
    person: { ...person, primaryKey: true },
    document: whole,
    says: line,
    address: line,
    vouched: person,
    by: person,
    at: moment,
  });
  await tables.sequelize.query(
    `INSERT INTO claims (person, document, says, address, vouched, by, at)
     SELECT person, document, says, address, vouched, by, at FROM "claimsBefore"`,
  );
  await tables.dropTable('claimsBefore');
  await tables.addIndex('claims', ['document'], { name: 'claims_of_document' });
}

/** What happened to shares is of documents and collections, with people, groups, everybody or an address. */
export async function eventsOfAnything(tables: QueryInterface): Promise<void> {
  await tables.renameTable('shareEvents', 'shareEventsBefore');
  await tables.createTable('shareEvents', {
    key: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    document: whole,
    collection: line,
    at: moment,
    by: whole,
    kind: line,
    person: whole,
    groupKey: whole,
    email: line,
    named: line,
    told: { type: DataTypes.TEXT, allowNull: false },
  });
  await tables.sequelize.query(
    `INSERT INTO "shareEvents" (key, document, collection, at, by, kind, person, "groupKey", email, named, told)
     SELECT key, document, '', at, by, kind, COALESCE(person, 0), 0, email, '', told FROM "shareEventsBefore"`,
  );
  await tables.dropTable('shareEventsBefore');
  await tables.addIndex('shareEvents', ['document', 'collection', 'key'], { name: 'share_events_of' });
}

/** Collections that anybody could rename become their owners': one for each owner of documents in it, who alone had reason to see them together. */
export async function collectionsOfOwners(tables: QueryInterface): Promise<void> {
  const { sequelize } = tables;
  const rows = <T extends object>(sql: string): Promise<T[]> =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT });
  const owned = await rows<{ key: number; collection: string; person: number }>(
    `SELECT documents.key, documents.collection, MIN(shares.person) AS person FROM documents
     JOIN shares ON shares.document = documents.key AND shares.role = 'owner' AND shares.person > 0
     WHERE documents.collection IS NOT NULL GROUP BY documents.key, documents.collection ORDER BY documents.key`,
  );
  const [first] = await rows<{ key: number }>('SELECT key FROM people ORDER BY admin DESC, key LIMIT 1');
  for (const one of await rows<{ id: string; name: string; position: number }>('SELECT * FROM collections')) {
    const within = owned.filter(({ collection }) => collection === one.id);
    const owners = [...new Set(within.map(({ person }) => person))];
    for (const [i, person] of (owners.length > 0 ? owners : first ? [first.key] : []).entries()) {
      const id = i === 0 ? one.id : nanoid(10);
      if (i > 0) await tables.bulkInsert('collections', [{ ...one, id }]);
      await tables.bulkInsert('shares', [
        {
          document: 0,
          collection: id,
          person,
          groupKey: 0,
          email: '',
          role: 'owner',
          history: 'all',
          since: 0,
          until: 0,
          sent: 0,
        },
      ]);
      for (const { key, person: owner } of within)
        if (owner === person)
          await sequelize.query('UPDATE documents SET collection = ? WHERE key = ?', {
            replacements: [id, key],
          });
    }
  }
}

/**
 * `holdings` tells of each document and person the one share that counts: of the document itself before that of its collection,
 * by name before by group before everybody here, and of two that are equally near the one that gives more. `standings` is the
 * same without what is in the bin. With `byMember` the history that a group has begins for each member no earlier than they came to it.
 */
export function viewsOf(dialect: string, byMember: boolean): string[] {
  const now =
    dialect === 'sqlite'
      ? `CAST((julianday('now') - 2440587.5) * 86400000 AS INTEGER)`
      : 'CAST(EXTRACT(EPOCH FROM clock_timestamp()) * 1000 AS BIGINT)';
  const placed = [
    { document: 'shares.document', join: '', where: 'shares.document > 0', near: 0 },
    {
      document: 'documents.key',
      join: 'JOIN documents ON documents.collection = shares.collection',
      where: 'shares.document = 0',
      near: 3,
    },
  ];
  const held = [
    { person: 'shares.person', join: '', where: 'shares.person > 0', near: 0 },
    {
      person: '"groupMembers".person',
      join: 'JOIN "groupMembers" ON "groupMembers"."groupKey" = shares."groupKey"',
      late: byMember,
      where: 'shares."groupKey" > 0',
      near: 1,
    },
    {
      person: 'people.key',
      join: 'CROSS JOIN people',
      where: `shares.person = 0 AND shares."groupKey" = 0 AND shares.email = '' AND people.guest = 0
        AND NOT EXISTS (SELECT 1 FROM claims WHERE claims.person = people.key)`,
      near: 2,
    },
  ];
  const late = (place: (typeof placed)[number]): string =>
    `LEFT JOIN "memberReaches" ON "memberReaches"."groupKey" = shares."groupKey" AND shares.history <> 'all'
       AND "memberReaches".person = "groupMembers".person AND "memberReaches".document = ${place.document}`;
  const begun = (column: string, isLate: boolean): string =>
    isLate
      ? `CASE WHEN COALESCE("memberReaches".${column}, 0) > COALESCE(reaches.${column}, 0)
           THEN "memberReaches".${column} ELSE COALESCE(reaches.${column}, 0) END`
      : `COALESCE(reaches.${column}, 0)`;
  const ways = placed.flatMap((place) =>
    held.map(
      (
        holder: (typeof held)[number] & { late?: boolean },
      ) => `SELECT ${place.document} AS document, ${holder.person} AS person, shares.key AS share, shares.role,
          shares.history, ${begun('first', holder.late === true)} AS first, ${begun('since', holder.late === true)} AS since, ${place.near + holder.near} AS near
        FROM shares ${place.join} ${holder.join}
        LEFT JOIN reaches ON reaches.share = shares.key AND reaches.document = ${place.document}
        ${holder.late === true ? late(place) : ''}
        WHERE ${place.where} AND ${holder.where} AND (shares.history = 'all' OR reaches.share IS NOT NULL)
          AND (shares.until = 0 OR shares.until > ${now})`,
    ),
  );
  const most = `CASE role WHEN 'owner' THEN 0 WHEN 'editor' THEN 1 WHEN 'commenter' THEN 2 ELSE 3 END,
    CASE history WHEN 'all' THEN 0 WHEN 'since' THEN 1 ELSE 2 END, first, share`;
  return [
    `CREATE VIEW holdings AS SELECT document, person, share, role, history, first, since FROM (
      SELECT ways.*, ROW_NUMBER() OVER (PARTITION BY document, person ORDER BY near, ${most}) AS turn
      FROM (${ways.join(' UNION ALL ')}) AS ways) AS counted WHERE turn = 1`,
    `CREATE VIEW standings AS SELECT holdings.* FROM holdings
      JOIN documents ON documents.key = holdings.document WHERE documents.binned = 0`,
  ];
}
