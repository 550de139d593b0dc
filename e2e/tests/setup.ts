import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Oxbow } from './oxbow';

/** Makes the demo once before all tests, for workers start anew after each failure, and removes it after them. */
export default async function setup(): Promise<() => Promise<void>> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-made-'));
  const oxbow = new Oxbow(folder);
  await oxbow.start();
  await oxbow.stop();
  process.env['OXBOW_MADE_DEMO'] = folder;
  return () => rm(folder, { recursive: true, force: true });
}
