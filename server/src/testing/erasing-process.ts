import { createApp } from '../app.js';

// A server process that a test kills: it opens a folder, says so, and goes on with the erasures that were begun there.
const [folder = ''] = process.argv.slice(2);
process.send?.('begun');
const app = await createApp({ folder, clock: false });
await app.close();
process.send?.('done');
process.disconnect();
