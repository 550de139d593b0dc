import { join } from 'node:path';
import { buildWhenNeeded, installWhenNeeded, root, run } from './steps.mjs';

// `npm run bench [name …]`: prints ratios, each from one run on this machine; figures and goals are in docs/performance.md.
installWhenNeeded();
const asked = process.argv.slice(2);
buildWhenNeeded({ web: asked.length === 0 || ['tideline', 'kinds'].some((name) => asked.includes(name)) });
run(process.execPath, ['--expose-gc', join(root, 'bench/dist/index.js'), ...asked], {
  env: { UV_THREADPOOL_SIZE: '8' },
});
