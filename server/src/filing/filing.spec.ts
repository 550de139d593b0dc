import { compare } from '@oxbow/core/compare';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { readDocx, readOdt, writeDocx, writeDocxRedline } from '@oxbow/core/formats';
import type { Reading } from '@oxbow/core/formats';
import { PICTURES, build } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

const { doc, p } = build;
const about = {
  title: 'Walk guide',
  author: 'Tamsin Reve',
  at: '2026-11-20T10:00:00.000Z',
  picture: (hash: string) => PICTURES.find((picture) => picture.hash === hash) ?? null,
};

function form(name: string, bytes: Uint8Array | string, fields: Record<string, string> = {}): FormData {
  const data = new FormData();
  for (const [key, value] of Object.entries(fields)) data.set(key, value);
  data.set('file', new Blob([typeof bytes === 'string' ? bytes : Buffer.from(bytes)]), name);
  return data;
}

describe('word-processor files on the server', () => {
  let server: TestServer;
  let ines: Caller;

  beforeAll(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
  });
  afterAll(() => server.stop());

  const before = doc(p('Twenty years ago the creek was a ditch.'));
  const after = doc(p('Thirty years ago the creek was a ditch.'));
  const redline = (): Uint8Array =>
    writeDocxRedline(
      compare(before, after),
      (_change, _side, from, to) => [{ author: 'Tamsin Reve', at: '2026-11-20T10:00:00.000Z', from, to }],
      about,
    );
  const bytesOf = async (path: string): Promise<Uint8Array> => {
    const response = await fetch(`http://127.0.0.1:${server.port}${path}`, {
      headers: { Cookie: ines.cookie },
    });
    expect(response.status).toBe(200);
    return new Uint8Array(await response.arrayBuffer());
  };
  const imported = async (bytes: Uint8Array, fields: Record<string, string> = {}): Promise<string> => {
    const { status, body } = await ines.post('/api/documents/import', form('walk.docx', bytes, fields));
    expect(status).toBe(201);
    return body.id as string;
  };
  const json = (reading: Reading): unknown => reading.doc.toJSON();

  it('give a document, with the images they carry, and come out again as both kinds of file', async () => {
    const image = schema.node('image', { hash: PICTURES[0]?.hash, alt: 'the wheel', width: null });
    const shown: Node = doc(p('So it turns: ', image));
    const id = await imported(writeDocx(shown, about));
    for (const [format, read] of [
      ['docx', readDocx],
      ['odt', readOdt],
    ] as const) {
      const reading = read(await bytesOf(`/api/documents/${id}/versions/2?format=${format}`));
      expect(json(reading)).toEqual(shown.toJSON());
      expect(reading.pictures).toEqual(PICTURES.slice(0, 1));
      expect(reading.title).toBe('Walk');
    }
    expect((await ines.get(`/api/documents/${id}/versions/2?format=html`)).body).toContain(
      'src="data:image/png',
    );
  });

  it('give the accepted text, the rejected one, or both as two versions, and remember what came with it', async () => {
    const textOf = async (id: string, number: number): Promise<string> =>
      ((await ines.get(`/api/documents/${id}/versions/${number}?format=text`)).body as string).trim();
    expect(await textOf(await imported(redline()), 2)).toBe(after.textContent);
    expect(await textOf(await imported(redline(), { tracked: 'rejected' }), 2)).toBe(before.textContent);
    const both = await imported(redline(), { tracked: 'both', comment: 'From Tamsin' });
    expect([await textOf(both, 2), await textOf(both, 3)]).toEqual([before.textContent, after.textContent]);
    const { items } = (await ines.get(`/api/documents/${both}/versions`)).body;
    expect(items[0].comment).toBe('From Tamsin');
    const { body } = await ines.get(`/api/documents/${both}/versions/3/filing`);
    expect(body.author).toBe('Tamsin Reve');
    expect(body.tracked.map(({ kind, text }: { kind: string; text: string }) => `${kind} ${text}`)).toEqual([
      'deletion Twenty',
      'insertion Thirty',
    ]);
    expect((await ines.get(`/api/documents/${both}/versions/1/filing`)).status).toBe(404);
    expect((await (await server.as('jun')).get(`/api/documents/${both}/versions/3/filing`)).status).toBe(404);
  });

  it('file both texts only as far as they are new', async () => {
    const id = await imported(writeDocx(before, about));
    const { status, body } = await ines.post(
      `/api/documents/${id}/files`,
      form('walk.docx', redline(), { tracked: 'both', major: 'true' }),
    );
    expect([status, body.version.number, body.version.label]).toEqual([201, 3, '1.0']);
  });

  it('hold a comparison as tracked changes, each by whoever made it', async () => {
    const id = await imported(writeDocx(before, about));
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
    const tobias = await server.as('tobias');
    await tobias.post(`/api/documents/${id}/files`, form('walk.docx', writeDocx(after, about)));
    for (const [format, read] of [
      ['docx', readDocx],
      ['odt', readOdt],
    ] as const) {
      const reading = read(await bytesOf(`/api/documents/${id}/compare?earlier=2&later=3&format=${format}`));
      expect([json(reading), reading.before?.toJSON()]).toEqual([after.toJSON(), before.toJSON()]);
      expect(new Set(reading.tracked.map(({ author }) => author))).toEqual(new Set(['tobias']));
      expect(Date.parse(reading.tracked[0]?.at ?? '')).toBeGreaterThan(Date.now() - 60_000);
    }
  });

  it('are refused in words when they are broken, and the server goes on', async () => {
    const bytes = redline();
    for (const [name, broken] of [
      ['walk.docx', bytes.subarray(0, 500)],
      ['walk.odt', bytes],
      ['walk.docx', 'no zip at all'],
    ] as const) {
      const { status, body } = await ines.post('/api/documents/import', form(name, broken));
      expect([status, body.errors[0].path]).toEqual([422, 'file']);
    }
    expect((await ines.get('/api/health')).body.ready).toBe(true);
  });
});
