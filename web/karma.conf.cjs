const { existsSync } = require('node:fs');

process.env.CHROME_BIN ??= ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync);

// Not the time of most machines that run this: a day that is taken for that of another place shows.
process.env.TZ = 'America/St_Johns';

/** Runs the specs in Debian's Chromium. The randomised core suites need longer than Karma's usual patience. */
module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    client: { jasmine: { random: false, timeoutInterval: 180000 } },
    reporters: ['dots'],
    browsers: ['Headless'],
    customLaunchers: {
      Headless: {
        base: 'ChromeHeadless',
        flags: [
          // The locale in which the specs expect times to be written.
          '--accept-lang=en-GB',
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    browserNoActivityTimeout: 300000,
    browserDisconnectTimeout: 20000,
    // A randomised suite keeps the page busy for seconds; its connection is not to be given up for that.
    pingTimeout: 300000,
    captureTimeout: 120000,
    restartOnFileChange: false,
  });
