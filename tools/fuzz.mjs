import { buildWhenNeeded, installWhenNeeded, bin, run } from './steps.mjs';

// `npm run fuzz [times]`: the randomised suites with many more cases than `npm test` tries.
installWhenNeeded();
buildWhenNeeded({ web: false });
run(bin('jasmine'), ['--config=jasmine.json', 'core/dist/**/*.spec.js', 'server/dist/formats/fuzz.spec.js'], {
  env: { OXBOW_FUZZ: process.argv[2] ?? '20', JASMINE_TIMEOUT: '3600000' },
});
