import { statSync } from 'node:fs';
import { join } from 'node:path';
import type { Large } from './document.js';
import { less } from './figures.js';
import type { Figure } from './figures.js';

/** Bytes of the whole history on disk for each byte of the edits as JSON. */
export async function benchBytes({ app, folder, key, edits }: Large): Promise<Figure[]> {
  const rows = await app.rooms.moments.log.between(key, 0, edits);
  const json = rows.reduce((sum, row) => {
    const edit = {
      ...row,
      document: 'bench-document',
      author: 'bench',
      steps: JSON.parse(row.steps) as unknown,
      sources: row.sources ? (JSON.parse(row.sources) as unknown) : [],
      cause: { kind: 'writing' },
    };
    return sum + Buffer.byteLength(JSON.stringify(edit));
  }, 0);
  const room = await app.rooms.get(key);
  await app.rooms.moments.keepProvenance(key, room.head.provenance);
  await app.database.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
  const disk = statSync(join(folder, 'oxbow.sqlite')).size;
  return [
    less('bytes on disk / bytes of the edits as JSON', disk / json, {
      goal: 1.5,
      note: `${(disk / 1e6).toFixed(1)} MB / ${(json / 1e6).toFixed(1)} MB`,
    }),
  ];
}
