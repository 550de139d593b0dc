import { join } from 'node:path';
import { bin, buildWhenNeeded, installWhenNeeded, root, start } from './steps.mjs';

// `npm run dev`: compiler, server and web app, each reloading when its sources change. Open http://localhost:4200.
installWhenNeeded();
buildWhenNeeded({ web: false });
const children = [
  start(bin('tsc'), ['-b', '--watch', '--preserveWatchOutput']),
  start(process.execPath, ['--watch', '--watch-preserve-output', join(root, 'server/dist/main.js')], {
    env: { PORT: '4620' },
  }),
  start(bin('ng'), ['serve'], { cwd: join(root, 'web'), env: { NG_CLI_ANALYTICS: 'false' } }),
];
const stop = () => {
  for (const child of children) child.kill('SIGTERM');
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
for (const child of children) child.on('exit', stop);
