import { resolve } from 'node:path';
import { buildWhenNeeded, installWhenNeeded, root } from './steps.mjs';

// `npm run backup -- PATH`: copies the data into a new folder, also while the server runs.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { backUp, settingsOf } = await import('@oxbow/server');
const settings = settingsOf(process.env, root);
const [to] = process.argv.slice(2);
try {
  if (!to) throw new RangeError('Say where to: npm run backup -- PATH');
  if (settings.OXBOW_DATABASE)
    throw new RangeError('The data is in PostgreSQL: back it up with pg_dump, and copy the data folder.');
  await backUp(resolve(settings.OXBOW_DATA), resolve(to));
  console.log(`The data is copied to ${resolve(to)}`);
} catch (error) {
  console.error([error.message, error.detail].filter(Boolean).join('. '));
  process.exitCode = 1;
}
