import { QueryTypes } from 'sequelize';
import type { QueryInterface } from 'sequelize';

/** Finds where copies came from in the causes of their first edits, which counted from the beginning so far. */
export async function originsInLogs(tables: QueryInterface): Promise<void> {
  const { sequelize } = tables;
  const rows = <T extends object>(sql: string): Promise<T[]> =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT });
  const documents = await rows<{ key: number; id: string }>('SELECT key, id FROM documents');
  const keys = new Map(documents.map(({ key, id }) => [id, key]));
  const begun = await rows<{ document: number; cause: string }>(
    'SELECT document, cause FROM edits WHERE seq = 1 AND cause IS NOT NULL',
  );
  for (const { document, cause } of begun) {
    const { kind, document: id, moment, later } = JSON.parse(cause) as Record<string, string | number>;
    const other = keys.get(String(id));
    const seq = kind === 'copy' ? moment : kind === 'assembly' ? later : undefined;
    if (other !== undefined && other !== document && typeof seq === 'number')
      await tables.bulkInsert('origins', [{ document, other, seq }]);
  }
}
