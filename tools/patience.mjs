/* global jasmine */
// Units that start servers or make the demo take long on a loaded machine; how long is nobody's business here.
jasmine.DEFAULT_TIMEOUT_INTERVAL = Number(process.env['JASMINE_TIMEOUT'] ?? 180_000);
