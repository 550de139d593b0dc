/* global jasmine */
// Units that start servers or make the demo take long on a loaded machine; how long is nobody's business here.
jasmine.DEFAULT_TIMEOUT_INTERVAL = Number(process.env['JASMINE_TIMEOUT'] ?? 180_000);

/** How long a process that ran tests may go on after the last of them, in milliseconds. */
const LINGERING = 20_000;
// What a test left open would keep its process, and whoever waits for it, for ever.
process.once('disconnect', () => {
  setTimeout(() => {
    console.error(`Left open by tests: ${process.getActiveResourcesInfo().join(', ')}`);
    process.exit(1);
  }, LINGERING).unref();
});
