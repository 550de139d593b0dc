import { resolve } from 'node:path';
import { buildWhenNeeded, installWhenNeeded, root } from './steps.mjs';

// `npm run restore -- PATH`: puts a backup in place of the data; what was erased since is erased again. The server is stopped.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { restore, settingsOf } = await import('@oxbow/server');
const settings = settingsOf(process.env, root);
const [from] = process.argv.slice(2);
try {
  if (!from) throw new RangeError('Say from where: npm run restore -- PATH');
  const { aside, again, revoked } = await restore(resolve(from), resolve(settings.OXBOW_DATA));
  if (aside)
    console.log(
      `What was there lies in ${aside}. It may hold what was erased: delete it when it is not needed.`,
    );
  console.log(
    revoked
      ? 'What ended since stays ended: shares, accounts, passwords, links, documents deleted for good.'
      : 'Nothing is known of what ended since this backup was made: look through shares, accounts and links.',
  );
  console.log(
    again === 0
      ? 'The backup is in place.'
      : 'The backup is in place, and what was erased since is erased in it too.',
  );
} catch (error) {
  console.error([error.message, error.detail].filter(Boolean).join('. '));
  process.exitCode = 1;
}
