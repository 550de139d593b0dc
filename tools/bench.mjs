import { join } from 'node:path';
import { buildWhenNeeded, installWhenNeeded, root, run } from './steps.mjs';

// `npm run bench [name …]`: prints ratios, each from one run on this machine; figures and goals are in docs/performance.md.
installWhenNeeded();
buildWhenNeeded({ web: false });
run(process.execPath, ['--expose-gc', join(root, 'bench/dist/index.js'), ...process.argv.slice(2)], {
  env: { UV_THREADPOOL_SIZE: '8' },
});
