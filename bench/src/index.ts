import { benchAppend } from './append.js';
import { benchBytes } from './bytes.js';
import { benchCompare } from './compare.js';
import { benchCrowd } from './crowd.js';
import { writeLarge } from './document.js';
import type { Large } from './document.js';
import { benchFiles } from './files.js';
import { benchHostile } from './hostile.js';
import { benchOpen } from './open.js';
import { benchPast } from './past.js';
import { benchProvenance } from './provenance.js';
import { benchScale } from './scale.js';
import { benchThrong } from './throng.js';
import { benchTideline } from './tideline.js';

const EDITS = Number(process.env['BENCH_EDITS'] ?? 100_000);

/** Benchmarks that need the large document, and those that do not. */
const onLarge: Record<string, (large: Large) => Promise<string[]>> = {
  open: benchOpen,
  bytes: benchBytes,
  provenance: benchProvenance,
  past: benchPast,
};
const alone: Record<string, () => Promise<string[]>> = {
  compare: benchCompare,
  append: benchAppend,
  crowd: benchCrowd,
  files: benchFiles,
  tideline: benchTideline,
  scale: benchScale,
  hostile: benchHostile,
  throng: benchThrong,
};

const asked = process.argv.slice(2);
const wanted = (name: string): boolean => asked.length === 0 || asked.includes(name);
const unknown = asked.filter((name) => !(name in onLarge) && !(name in alone));
if (unknown.length > 0) {
  console.error(
    `There is no benchmark ${unknown.join(', ')}. There are: ${[...Object.keys(onLarge), ...Object.keys(alone)].join(', ')}.`,
  );
  process.exit(2);
}

async function show(name: string, run: () => Promise<string[]>): Promise<void> {
  console.log(`\n${name}`);
  for (const line of await run()) console.log(`  ${line}`);
}

for (const [name, run] of Object.entries(alone)) if (wanted(name)) await show(name, run);
if (Object.keys(onLarge).some(wanted)) {
  console.log(`\nwriting a document of ${EDITS} edits …`);
  const large = await writeLarge(EDITS);
  for (const [name, run] of Object.entries(onLarge)) if (wanted(name)) await show(name, () => run(large));
  await large.end();
}
