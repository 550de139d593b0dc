import { buildWhenNeeded, installWhenNeeded, bin, run } from './steps.mjs';

// `npm run fuzz [times]`: the randomised suites with many more cases than `npm test` tries.
installWhenNeeded();
buildWhenNeeded({ web: false });
const suites = [
  'core/dist/**',
  'server/dist/formats/fuzz',
  'server/dist/histories/non-interference',
  'server/dist/erasing/same-bytes',
  'server/dist/backup/backup',
];
run(
  bin('jasmine'),
  ['--config=jasmine.json', ...suites.map((suite) => `${suite.replace(/\*\*$/, '**/*')}.spec.js`)],
  {
    env: { OXBOW_FUZZ: process.argv[2] ?? '20', JASMINE_TIMEOUT: '3600000' },
  },
);
