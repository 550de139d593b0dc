import { compare } from '@oxbow/core/compare';
import { FormatError, readDocx, readOdt, writeDocxRedline, writeOdtRedline } from '@oxbow/core/formats';
import { PICTURES, Random, anything, revised } from '@oxbow/core/testing';
import { unzipSync, zipSync } from 'fflate';
import { Files } from './files.js';

const TIMES = Number(process.env['OXBOW_FUZZ'] ?? 1);
const options = {
  title: 'Guide',
  author: 'Ines Okell',
  at: '2026-11-24T09:30:00.000Z',
  picture: (hash: string) => PICTURES.find((picture) => picture.hash === hash) ?? null,
};

/** Files of both kinds, to be broken. */
function whole(random: Random): { name: string; bytes: Uint8Array }[] {
  const earlier = anything(random, 5);
  const comparison = compare(earlier, revised(random, earlier, 3));
  const hands = (_change: number, _side: string, from: number, to: number) => [
    { author: 'Ines Okell', at: options.at, from, to },
  ];
  return [
    { name: 'a.docx', bytes: writeDocxRedline(comparison, hands, options) },
    { name: 'a.odt', bytes: writeOdtRedline(comparison, hands, options) },
  ];
}

/** Bytes with some of them changed, left out, doubled or exchanged. */
function mangled(random: Random, bytes: Uint8Array): Uint8Array {
  let out: Uint8Array = Uint8Array.from(bytes);
  for (let i = random.between(1, 6); i > 0; i--) {
    const at = random.between(0, Math.max(0, out.length - 1));
    const length = random.between(1, 40);
    const act = random.between(0, 3);
    if (act === 0) out.fill(random.between(0, 255), at, at + random.between(1, 3));
    else if (act === 1) out = Uint8Array.from([...out.subarray(0, at), ...out.subarray(at + length)]);
    else if (act === 2) out = Uint8Array.from([...out.subarray(0, at + length), ...out.subarray(at)]);
    else out.set(out.subarray(0, Math.min(length, out.length - at)), at);
  }
  return out;
}

/** A package of which one part is mangled: as bytes, or by an element taken out, doubled or renamed. */
function broken(random: Random, bytes: Uint8Array): Uint8Array {
  if (random.chance(0.2)) return mangled(random, bytes);
  const parts = unzipSync(bytes);
  const name = random.pick(Object.keys(parts));
  const data = parts[name] ?? new Uint8Array();
  if (random.chance(0.1)) Reflect.deleteProperty(parts, name);
  else if (random.chance(0.2)) parts[name] = Uint8Array.from(mangled(random, data));
  else {
    const tags = [
      ...Buffer.from(data)
        .toString()
        .matchAll(/<[^>]*>/g),
    ];
    if (tags.length > 0) {
      const tag = random.pick(tags);
      const text = Buffer.from(data).toString();
      const [before, after] = [text.slice(0, tag.index), text.slice(tag.index + tag[0].length)];
      const other = random.pick(tags)[0];
      parts[name] = Buffer.from(
        before + random.pick(['', tag[0] + tag[0], other, tag[0].replace(/\d+/, '-7')]) + after,
      );
    }
  }
  return zipSync(parts, { level: 0 });
}

describe('mangled word-processor files', () => {
  it('are read or refused in words, 2,000 of them, and what is read is a valid document', () => {
    const random = new Random(TIMES === 1 ? 20261125 : Date.now());
    let refused = 0;
    for (let i = 0; i < 1000 * TIMES; i++) {
      if (i % 10 === 0) files = whole(random);
      for (const { name, bytes } of files)
        try {
          const { doc, before } = (name.endsWith('.odt') ? readOdt : readDocx)(broken(random, bytes));
          doc.check();
          before?.check();
        } catch (error) {
          if (!(error instanceof FormatError)) throw error;
          refused++;
        }
    }
    expect(refused).toBeGreaterThan(100 * TIMES);
    expect(refused).toBeLessThan(1900 * TIMES);
  });
  let files: { name: string; bytes: Uint8Array }[] = [];

  it('leave the server up when they want more memory or time than there is, and reading can be broken off', async () => {
    const pool = new Files();
    const [file] = whole(new Random(5));
    const parts = unzipSync(file?.bytes ?? new Uint8Array());
    const deep = '<w:r><w:t>a</w:t></w:r>'.repeat(900_000);
    parts['word/document.xml'] = Buffer.from(
      `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body><w:p>${deep}</w:p></w:body></w:document>`,
    );
    await expectAsync(pool.read('big.docx', zipSync(parts, { level: 0 }))).toBeRejectedWithError(FormatError);
    const left = new AbortController();
    const reading = pool.read('a.docx', file?.bytes ?? new Uint8Array(), left.signal);
    left.abort();
    await expectAsync(reading).toBeRejected();
    expect((await pool.read('a.docx', file?.bytes ?? new Uint8Array())).doc.childCount).toBeGreaterThan(0);
    await pool.close();
  });
});
