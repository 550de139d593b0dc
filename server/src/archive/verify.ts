import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { unvouchedIn } from '@oxbow/core/formats';
import { applySteps } from '@oxbow/core/history';
import { kindNamed } from '@oxbow/core/kinds';
import { People } from '../access/people.js';
import { wholeArchive } from '../formats/file-task.js';
import { openDatabase } from '../store/database.js';
import type { Database } from '../store/database.js';
import { parseSteps } from '../store/log.js';
import type { StoredDocument } from '../store/models.js';
import { Moments } from '../store/moments.js';
import type { LogNames } from './seals.js';
import { Seals, digestOf, loggedOf } from './seals.js';

/** What was verified, and what was found wrong with it; empty when it is whole. */
export interface Verified {
  readonly what: string;
  readonly faults: readonly string[];
}

/** Verifies an archive, or a data folder document by document. Throws `FormatError` for a file that is no archive. */
export async function* verify(path: string): AsyncGenerator<Verified> {
  if ((await stat(path)).isFile()) {
    const { about } = wholeArchive(new Uint8Array(await readFile(path)));
    yield {
      what: `${about.title}: ${about.edits} edits, ${about.versions.length} versions, chain ${about.chain}`,
      faults: [],
    };
    return;
  }
  const database = await openDatabase({ folder: path });
  try {
    const people = new People(database);
    await people.load();
    for (const document of await database.models.documents.findAll({ order: [['key', 'ASC']], raw: true }))
      yield await verifyDocument(database, document, people.logNames);
    yield await verifyImages(database);
  } finally {
    await database.close();
  }
}

async function verifyDocument(
  database: Database,
  document: StoredDocument,
  names: LogNames,
): Promise<Verified> {
  const moments = new Moments(database);
  const [rows, seals, versions] = await Promise.all([
    moments.log.between(document.key, 0, 2 ** 31 - 1),
    new Seals(database, moments.log, names).of(document.key),
    database.models.versions.findAll({ where: { document: document.key }, raw: true }),
  ]);
  const unvouched = unvouchedIn(
    rows.map((row, i) => ({ ...loggedOf(row, names), ...(seals[i] ?? { salt: '', digest: '' }) })),
  );
  const faults: string[] = [];
  if (rows.length !== document.seq) faults.push(`the log has ${rows.length} edits, not ${document.seq}`);
  const cut = new Map(versions.map(({ seq, number }) => [seq, number]));
  const { schema, blank } = kindNamed(document.kind);
  let doc = blank();
  for (const [i, row] of rows.entries()) {
    const seal = seals[i];
    if (row.seq !== i + 1) faults.push(`edit ${row.seq} stands where ${i + 1} should`);
    if (seal?.salt && digestOf(seal.salt, loggedOf(row, names)) !== seal.digest)
      faults.push(`edit ${row.seq} is not what was sealed`);
    if (unvouched.has(row.seq)) faults.push(`edit ${row.seq} was changed, and no erasure vouches for it`);
    try {
      doc = applySteps(doc, parseSteps(schema, row.steps));
    } catch (error) {
      faults.push(
        `edit ${row.seq} does not apply: ${error instanceof Error ? error.message : String(error)}`,
      );
      break;
    }
    const number = cut.get(row.seq);
    if (number !== undefined && !(await moments.open(document.key, row.seq)).eq(doc))
      faults.push(`version ${number} opens to something else than the log gives`);
    if (faults.length > 20) break;
  }
  for (const [seq, number] of cut)
    if (seq > document.seq) faults.push(`version ${number} is of an edit that is not there`);
  const what = `${document.title}: ${rows.length} edits, ${seals.length} of them sealed, ${versions.length} versions`;
  return { what, faults };
}

async function verifyImages(database: Database): Promise<Verified> {
  const images = await database.models.images.findAll({ raw: true });
  const faults = images
    .filter(({ hash, data }) => createHash('sha256').update(data).digest('hex') !== hash)
    .map(({ hash }) => `the image ${hash} is not what it is named after`);
  return { what: `${images.length} images`, faults };
}
