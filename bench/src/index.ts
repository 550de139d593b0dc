import { benchAppend } from './append.js';
import { benchBytes } from './bytes.js';
import { benchCompare } from './compare.js';
import { benchCrowd } from './crowd.js';
import { openLarge } from './document.js';
import type { Large } from './document.js';
import { inWords, isMet } from './figures.js';
import type { Figure } from './figures.js';
import { benchDesk } from './desk.js';
import { benchFiles } from './files.js';
import { benchHostile } from './hostile.js';
import { benchKeep } from './keep.js';
import { benchKinds } from './kinds.js';
import { benchMarks } from './marks.js';
import { benchOpen } from './open.js';
import { benchPast } from './past.js';
import { benchProvenance } from './provenance.js';
import { Remembered } from './remembered.js';
import { benchScale } from './scale.js';
import { benchThrong } from './throng.js';
import { benchTideline } from './tideline.js';

const EDITS = Number(process.env['BENCH_EDITS'] ?? 100_000);

/** Benchmarks that need the large document, each on a copy of its own, and those that do not. */
const onLarge: Record<string, (large: Large) => Promise<Figure[]>> = {
  open: benchOpen,
  bytes: benchBytes,
  provenance: benchProvenance,
  past: benchPast,
};
const alone: Record<string, () => Promise<Figure[]>> = {
  compare: benchCompare,
  marks: benchMarks,
  append: benchAppend,
  crowd: benchCrowd,
  files: benchFiles,
  tideline: benchTideline,
  desk: benchDesk,
  scale: benchScale,
  hostile: benchHostile,
  throng: benchThrong,
  keep: benchKeep,
  kinds: benchKinds,
};

const [recording, asked] = [
  process.argv.includes('--record'),
  process.argv.slice(2).filter((word) => word !== '--record'),
];
const names = [...Object.keys(alone), ...Object.keys(onLarge)];
const unknown = asked.filter((name) => !names.includes(name));
if (unknown.length > 0) {
  console.error(`There is no benchmark ${unknown.join(', ')}. There are: ${names.join(', ')}.`);
  process.exit(2);
}

const remembered = await Remembered.read();
const missed: string[] = [];
const fallen: string[] = [];

async function run(name: string): Promise<Figure[]> {
  const onIts = onLarge[name];
  if (!onIts) return (await alone[name]?.()) ?? [];
  const large = await openLarge(EDITS);
  try {
    return await onIts(large);
  } finally {
    await large.end();
  }
}

for (const name of names.filter((one) => asked.length === 0 || asked.includes(one))) {
  console.log(`\n${name}`);
  const figures = await run(name);
  for (const figure of figures) {
    const fall = remembered.fall(name, figure);
    if (!isMet(figure)) missed.push(`${name}: ${figure.name}`);
    if (fall) fallen.push(`${name}: ${figure.name}`);
    console.log(`  ${inWords(figure)}${fall ? `; ${fall}` : ''}`);
  }
  if (recording) remembered.note(name, figures);
}
if (recording) await remembered.write();
const told = (what: string, list: readonly string[]): void => {
  if (list.length > 0) console.log(`\n${what}:\n${list.map((line) => `  ${line}`).join('\n')}`);
};
told('Goals missed', missed);
told('Worse by more than a fifth than what was last written down', fallen);
