import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);

/** A text of a package as two consecutive releases have it. */
export interface Release {
  readonly name: string;
  readonly earlier: string;
  readonly later: string;
}

/** Packages with a text that is worth comparing, and releases of theirs in a row. */
const SERIES: readonly (readonly [name: string, file: string, ...versions: string[]])[] = [
  ['commander', 'Readme.md', '6.2.1', '7.2.0', '8.3.0', '9.5.0', '10.0.1', '11.1.0', '12.1.0', '13.1.0'],
  ['lru-cache', 'README.md', '5.1.1', '6.0.0', '7.18.3', '8.0.5', '9.1.2', '10.4.3', '11.0.2'],
  ['express', 'History.md', '4.15.5', '4.16.4', '4.17.3', '4.18.3', '4.19.2', '4.20.0', '4.21.2'],
  ['fast-check', 'CHANGELOG.md', '3.13.2', '3.15.1'],
  ['glob', 'README.md', '7.2.3', '8.1.0', '9.3.5', '10.4.5'],
  ['minimatch', 'README.md', '3.1.2', '5.1.6', '6.2.0', '7.4.6', '9.0.5'],
  ['semver', 'README.md', '5.7.2', '6.3.1', '7.6.3'],
  ['rimraf', 'README.md', '3.0.2', '4.4.1', '5.0.10'],
];

/** Fetches the texts from the package registry into a folder of its own, and removes it. Empty when it cannot be reached. */
export async function releases(): Promise<Release[]> {
  const folder = await mkdtemp(join(tmpdir(), 'oxbow-releases-'));
  const out: Release[] = [];
  try {
    for (const [name, file, ...versions] of SERIES) {
      const texts: string[] = [];
      for (const version of versions) texts.push(await textOf(folder, `${name}@${version}`, file));
      versions.slice(1).forEach((version, i) => {
        const [earlier, later] = [texts[i] ?? '', texts[i + 1] ?? ''];
        if (earlier && later)
          out.push({ name: `${name} ${file} ${versions[i] ?? ''} to ${version}`, earlier, later });
      });
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return out;
}

async function textOf(folder: string, spec: string, file: string): Promise<string> {
  try {
    const { stdout } = await run('npm', ['pack', spec, '--silent', '--pack-destination', folder], {
      cwd: folder,
    });
    await run('tar', ['-xzf', join(folder, stdout.trim().split('\n').at(-1) ?? '')], { cwd: folder });
    return await readFile(join(folder, 'package', file), 'utf8');
  } catch (error) {
    console.error(
      `  ${spec} could not be fetched: ${error instanceof Error ? (error.message.split('\n')[0] ?? '') : ''}`,
    );
    return '';
  } finally {
    await rm(join(folder, 'package'), { recursive: true, force: true });
  }
}
