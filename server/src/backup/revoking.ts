import sqlite3 from 'sqlite3';

/** A table of shares that a person, a group or an address is named in by the outside's ids, of the database `db`. */
const named = (
  db: string,
): string => `SELECT shares.key, COALESCE(documents.id, '') AS document, shares.collection,
    COALESCE(people.id, '') AS person, COALESCE(groups.id, '') AS grp, shares.email, shares.role, shares.history, shares.until
  FROM ${db}.shares LEFT JOIN ${db}.documents ON documents.key = shares.document
  LEFT JOIN ${db}.people ON people.key = shares.person LEFT JOIN ${db}.groups ON groups.key = shares."groupKey"`;

const SAME = `now.document = was.document AND now.collection = was.collection AND now.person = was.person
  AND now.grp = was.grp AND now.email = was.email`;

/** How much a role gives: more is less. */
const rank = (column: string): string =>
  `CASE ${column} WHEN 'owner' THEN 0 WHEN 'editor' THEN 1 WHEN 'commenter' THEN 2 ELSE 3 END`;

/**
 * What takes back in `main`, an older state of some data, what ended in `now`, its newer state. People, documents, groups, collections and
 * links are the same by the ids that the outside knows, since numbers may have been given anew.
 */
const REVOKE: readonly string[] = [
  // Whoever was disabled stays so; a password that was changed does not open again; rights that were taken do not come back.
  `UPDATE people SET disabled = (SELECT MAX(now.disabled, people.disabled) FROM now.people AS now WHERE now.id = people.id),
     password = (SELECT now.password FROM now.people AS now WHERE now.id = people.id),
     admin = (SELECT MIN(now.admin, people.admin) FROM now.people AS now WHERE now.id = people.id),
     guest = (SELECT MAX(now.guest, people.guest) FROM now.people AS now WHERE now.id = people.id)
   WHERE EXISTS (SELECT 1 FROM now.people AS now WHERE now.id = people.id)`,
  // Documents that were deleted for good, or put in the bin.
  `UPDATE documents SET binned = -2 WHERE NOT EXISTS (SELECT 1 FROM now.documents AS now WHERE now.id = documents.id)`,
  `UPDATE documents SET binned = (SELECT now.binned FROM now.documents AS now WHERE now.id = documents.id)
   WHERE binned >= 0 AND EXISTS (SELECT 1 FROM now.documents AS now WHERE now.id = documents.id AND now.binned <> 0)`,
  // Collections that a document left, and whoever had it through them.
  `UPDATE documents SET collection = NULL WHERE collection IS NOT NULL AND NOT EXISTS
     (SELECT 1 FROM now.documents AS now WHERE now.id = documents.id AND now.collection = documents.collection)`,
  `DELETE FROM "groupMembers" WHERE NOT EXISTS (SELECT 1 FROM now."groupMembers" AS member
     JOIN now.groups AS crew ON crew.key = member."groupKey" JOIN now.people AS one ON one.key = member.person
     WHERE crew.id = (SELECT id FROM groups WHERE groups.key = "groupMembers"."groupKey")
       AND one.id = (SELECT id FROM people WHERE people.key = "groupMembers".person))`,
  `CREATE TEMP TABLE was AS ${named('main')}`,
  `CREATE TEMP TABLE still AS ${named('now')}`,
  `DELETE FROM reaches WHERE share IN (SELECT was.key FROM was WHERE NOT EXISTS (SELECT 1 FROM still AS now WHERE ${SAME}))`,
  `DELETE FROM shares WHERE key IN (SELECT was.key FROM was WHERE NOT EXISTS (SELECT 1 FROM still AS now WHERE ${SAME}))`,
  // Shares that give less now, or end sooner.
  `UPDATE shares SET role = COALESCE((SELECT now.role FROM was JOIN still AS now ON ${SAME} WHERE was.key = shares.key
       AND ${rank('now.role')} > ${rank('was.role')}), role),
     until = COALESCE((SELECT now.until FROM was JOIN still AS now ON ${SAME} WHERE was.key = shares.key
       AND now.until > 0 AND (was.until = 0 OR now.until < was.until)), until)`,
  // A history that was told less of begins where this data ends: all that it has was before.
  `INSERT OR REPLACE INTO reaches (share, document, first, since)
     SELECT was.key, documents.key, documents.seq, CAST(strftime('%s', 'now') AS INTEGER) * 1000 FROM was
     JOIN still AS now ON ${SAME} JOIN shares ON shares.key = was.key
     JOIN documents ON documents.key = shares.document OR (shares.document = 0 AND documents.collection = shares.collection)
     WHERE now.history <> 'all' AND (was.history = 'all' OR (now.history = 'none' AND was.history = 'since'))`,
  `UPDATE shares SET history = (SELECT now.history FROM was JOIN still AS now ON ${SAME} WHERE was.key = shares.key)
   WHERE key IN (SELECT was.key FROM was JOIN still AS now ON ${SAME}
     WHERE now.history <> 'all' AND (was.history = 'all' OR (now.history = 'none' AND was.history = 'since')))`,
  // Links that ended, and those that are not known.
  `UPDATE "readingLinks" SET ended = CAST(strftime('%s', 'now') AS INTEGER) * 1000 WHERE ended = 0 AND NOT EXISTS
     (SELECT 1 FROM now."readingLinks" AS now WHERE now.id = "readingLinks".id AND now.ended = 0)`,
  // What the organisation has decided since.
  `INSERT OR REPLACE INTO facts (name, value) SELECT name, value FROM now.facts AS now WHERE now.name NOT IN ('demo', 'clock')`,
  // Versions that were discarded.
  `UPDATE versions SET discarded = 1, "discardedBy" = 0 WHERE discarded = 0 AND EXISTS (SELECT 1 FROM now.versions AS now
     JOIN now.documents AS own ON own.key = now.document WHERE own.id = (SELECT id FROM documents WHERE documents.key = versions.document)
       AND now.number = versions.number AND now.discarded > 0)`,
];

/** What ends whatever is known of the newer state: nobody is signed in, and no link that was sent holds. */
const ALWAYS: readonly string[] = [
  'DELETE FROM sessions',
  'DELETE FROM browsers',
  'DELETE FROM invitations WHERE used = 0',
  'UPDATE "checkOuts" SET person = NULL, since = 0, seq = 0',
];

/**
 * Sees to it that an older state of some data re-opens nothing that ended since: sessions and links that were sent, and, where the newer state
 * is there and is of the same data, ended shares, disabled people, changed passwords, documents in the bin or deleted for good. All of it or
 * none. Both files have the tables of today. Returns whether the newer state was taken account of.
 */
export async function revoke(older: string, newer: string | null): Promise<boolean> {
  const database = await opened(older);
  const run = (sql: string, values: readonly unknown[] = []): Promise<void> =>
    new Promise((resolve, reject) => {
      database.run(sql, values, (error: Error | null) => (error ? reject(error) : resolve()));
    });
  try {
    if (newer !== null) await run('ATTACH DATABASE ? AS now', [newer]);
    const isKnown = newer !== null && (await isSameData(database));
    await run('BEGIN IMMEDIATE');
    for (const sql of [...ALWAYS, ...(isKnown ? REVOKE : [])]) await run(sql);
    await run('COMMIT');
    return isKnown;
  } finally {
    await new Promise<void>((resolve) => database.close(() => resolve()));
  }
}

/** Whether two states are of the same data: whether any of their people are the same. */
function isSameData(database: sqlite3.Database): Promise<boolean> {
  return new Promise((resolve, reject) => {
    database.get(
      `SELECT 1 FROM main.documents AS was JOIN now.documents AS now ON now.id = was.id
       UNION SELECT 1 WHERE EXISTS (SELECT 1 FROM main.people AS was JOIN now.people AS now ON now.id = was.id AND now.password = was.password)`,
      (error, row) => (error ? reject(error) : resolve(row !== undefined)),
    );
  });
}

function opened(file: string): Promise<sqlite3.Database> {
  return new Promise((resolve, reject) => {
    const database: sqlite3.Database = new sqlite3.Database(file, sqlite3.OPEN_READWRITE, (error) =>
      error ? reject(error) : resolve(database),
    );
  });
}
