import { buildWhenNeeded, installWhenNeeded, root } from './steps.mjs';

// `npm run people -- list|invite|reset|disable|enable|admin [ADDRESS]`: lets people in and out without a browser.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { PEOPLE_USAGE, peopleCommand, settingsOf } = await import('@oxbow/server');
const settings = settingsOf(process.env, root);
try {
  const lines = await peopleCommand(process.argv.slice(2), {
    folder: settings.OXBOW_DATA,
    url: settings.OXBOW_DATABASE,
    site: settings.OXBOW_URL ?? `http://localhost:${settings.PORT}`,
    mailing: { smtp: settings.OXBOW_SMTP, from: settings.OXBOW_FROM },
  });
  for (const line of lines) console.log(line);
} catch (error) {
  console.error(error.message);
  if (error instanceof RangeError) console.error(PEOPLE_USAGE);
  process.exitCode = 1;
}
