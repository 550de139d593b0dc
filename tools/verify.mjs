import { join } from 'node:path';
import { buildWhenNeeded, installWhenNeeded, root } from './steps.mjs';

// `npm run verify [-- PATH]`: checks an archive, or a data folder whose server is stopped; `data/` without a path.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { verify } = await import('@oxbow/server');
const path = process.argv[2] ?? process.env.OXBOW_DATA ?? join(root, 'data');
let wrong = 0;
try {
  for await (const { what, faults } of verify(path)) {
    console.log(`${faults.length === 0 ? 'whole' : 'WRONG'}  ${what}`);
    for (const fault of faults) console.log(`       ${fault}`);
    wrong += faults.length;
  }
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
process.exit(wrong > 0 ? 1 : 0);
