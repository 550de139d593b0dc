import type { Database } from '../store/database.js';
import type { Reach } from './view.js';

/** How often something was erased in a document since its history begins for somebody. */
export async function erasedIn({ rows }: Database, { key, first }: Reach): Promise<number> {
  const [row] = await rows<{ times: number | string }>(
    'SELECT COUNT(*) AS times FROM "erasedIn" WHERE document = :key AND seq > :first',
    { key, first },
  );
  return Number(row?.times ?? 0);
}
