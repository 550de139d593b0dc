import type { StoredDocument } from '../store/models.js';
import { Trouble } from '../trouble/trouble.js';
import type { Ways } from './ways.js';

/** A document's row as it is now, after something was done to it. */
export async function freshDocument({ database }: Ways, document: StoredDocument): Promise<StoredDocument> {
  const row = await database.models.documents.findByPk(document.key, { raw: true });
  if (!row) throw new Trouble(404, 'There is no such document');
  return row;
}
