import { join } from 'node:path';
import { buildWhenNeeded, installWhenNeeded, root, start } from './steps.mjs';

// `npm start`: installs and builds what is missing, then serves the app until Ctrl-C.
installWhenNeeded();
buildWhenNeeded();
const server = start(process.execPath, [join(root, 'server/dist/main.js')], {
  env: { UV_THREADPOOL_SIZE: process.env.UV_THREADPOOL_SIZE ?? '8' },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
