import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { durableConnections } from './connection.js';

describe('connections to SQLite', () => {
  it('open a file anew that could not be opened before', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'oxbow-'));
    const file = join(folder, 'oxbow.sqlite');
    const connections = durableConnections();
    const write = (): Promise<void> => connections.run(file, 'CREATE TABLE tides (high TEXT)', []);
    await expectAsync(write()).toBeRejectedWithError(/CANTOPEN/);
    await writeFile(file, '');
    await expectAsync(write()).toBeResolved();
    await connections.end();
    await rm(folder, { recursive: true });
  });
});
