import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { archiveSchema } from '@oxbow/contract';
import { chainOf, digestOf, writeDocx } from '@oxbow/core/formats';
import type { SealedEdit } from '@oxbow/core/formats';
import { PICTURES, build } from '@oxbow/core/testing';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { TestServer, edit, send, typing } from '../testing/server.js';
import type { Caller } from '../testing/server.js';
import { verify } from './verify.js';
import type { Verified } from './verify.js';

const { doc, h, p } = build;
const [picture] = PICTURES;

describe('the archive of a history', () => {
  let server: TestServer;
  let ines: Caller;
  let id: string;

  beforeAll(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
    const image = schema.node('image', { hash: picture?.hash, alt: 'wheel', width: null });
    const about = {
      title: '',
      author: 'Wilmot',
      at: '2026-11-20T10:00:00.000Z',
      picture: () => picture ?? null,
    };
    const form = new FormData();
    form.set(
      'file',
      new Blob([Buffer.from(writeDocx(doc(h(1, 'Mill'), p('It turns. ', image)), about))]),
      'mill.docx',
    );
    id = (await ines.post('/api/documents/import', form)).body.id as string;
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'editor' });
    const tobias = await server.as('tobias');
    const socket = await tobias.live();
    await send(socket, 'join', { document: id });
    const edits = Array.from({ length: 40 }, (_, i) => edit(i + 1, typing(1, String(i % 10))));
    const sent = await send(socket, 'edits', { document: id, client: 'client-tobias', base: 1, edits });
    expect(sent.ok).withContext(JSON.stringify(sent)).toBe(true);
    socket.disconnect();
    await ines.post(`/api/documents/${id}/versions`, { comment: 'Kept' });
    await ines.call('PATCH', `/api/documents/${id}/versions/3`, { comment: 'Kept, and said better' });
    await ines.post(`/api/documents/${id}/landmarks`, { number: 3, name: 'As agreed', note: 'On the wall' });
  });
  afterAll(() => server.stop());

  const bytesOf = async (document: string): Promise<Uint8Array> => {
    const response = await fetch(`http://127.0.0.1:${server.port}/api/documents/${document}/archive`, {
      headers: { Cookie: ines.cookie },
    });
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/zip']);
    return new Uint8Array(await response.arrayBuffer());
  };
  const fileOf = (text: string): FormData => {
    const form = new FormData();
    form.set('file', new Blob([text]), 'mill.md');
    return form;
  };
  const bringIn = (bytes: Uint8Array) => {
    const form = new FormData();
    form.set('file', new Blob([Buffer.from(bytes)]), 'mill history.zip');
    return ines.post('/api/documents/archives', form);
  };

  it('comes back as a document with the same history, its log bit by bit', async () => {
    const first = await bytesOf(id);
    const { status, body } = await bringIn(first);
    expect([status, body.seq, body.version, body.title]).toEqual([201, 41, 3, 'Mill']);
    const second = await bytesOf(body.id as string);
    const [one, other] = [unzipSync(first), unzipSync(second)];
    expect(Object.keys(other).sort()).toEqual(Object.keys(one).sort());
    expect(other['log.jsonl']).toEqual(one['log.jsonl'] ?? new Uint8Array());
    for (const name of ['versions/1.json', 'versions/3.md', `images/${picture?.hash ?? ''}.png`])
      expect(other[name]).toEqual(one[name] ?? new Uint8Array());
    const about = JSON.parse(strFromU8(other['archive.json'] ?? new Uint8Array()));
    expect(about.versions[2].comments.map(({ comment }: { comment: string }) => comment)).toEqual([
      'Kept',
      'Kept, and said better',
    ]);
    expect([about.landmarks[0].name, about.filings[0].told.author]).toEqual(['As agreed', 'Wilmot']);
    const told = async (document: string, path: string): Promise<unknown> =>
      (await ines.get(`/api/documents/${document}${path}`)).body as unknown;
    const paths = ['/versions/@20?format=text', '/contributors?after=0&upTo=41', '/history', '/ledger'];
    const names = (await ines.get('/api/people')).body as { id: string; name: string }[];
    const { items: claims } = (await told(body.id as string, '/claims')) as {
      items: { person: string; like: string; vouched: unknown }[];
    };
    expect(claims.map(({ like, vouched }) => [like, vouched])).toEqual([
      ['ines', null],
      ['tobias', null],
    ]);
    for (const { person, like } of claims)
      expect(names.find((one) => one.id === person)?.name).toBe(`${like}, as claimed`);
    expect(JSON.stringify(await told(body.id, '/history'))).not.toContain('"tobias"');
    for (const { person } of claims)
      expect((await ines.call('PUT', `/api/documents/${body.id}/claims/${person}`)).status).toBe(204);
    for (const path of paths) expect(await told(body.id as string, path)).toEqual(await told(id, path));
    expect(unzipSync(await bytesOf(body.id as string))['log.jsonl']).toEqual(
      one['log.jsonl'] ?? new Uint8Array(),
    );
  });

  it('that was made up leaves nothing behind, stops no clock and credits nobody', async () => {
    const parts = unzipSync(await bytesOf(id));
    const lines = strFromU8(parts['log.jsonl'] ?? new Uint8Array())
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as SealedEdit);
    const about = JSON.parse(strFromU8(parts['archive.json'] ?? new Uint8Array()));
    const sealed = (change: (edit: SealedEdit) => object, more: object = {}, seal = true): Uint8Array => {
      const log = lines.map((edit): SealedEdit => {
        const { salt, digest, ...logged } = { ...edit, ...change(edit) };
        return { ...logged, salt, digest: seal && salt !== null ? digestOf(salt, logged) : digest };
      });
      const chain = chainOf(log.map(({ digest }) => digest));
      return zipSync({
        ...parts,
        'log.jsonl': strToU8(log.map((edit) => `${JSON.stringify(edit)}\n`).join('')),
        'archive.json': strToU8(JSON.stringify({ ...about, chain, ...more })),
      });
    };
    const far = Date.UTC(9999, 0);
    const only = (seq: number, more: object) => (edit: SealedEdit) => (edit.seq === seq ? more : {});
    const count = async (): Promise<number> => server.app.database.models.documents.count();
    const before = await count();
    for (const [bytes, why] of [
      [sealed(only(41, { acceptedAt: far })), /times that have not been yet/],
      [sealed(only(41, { acceptedAt: 9e15 })), /acceptedAt/],
      [sealed(only(7, { writtenAt: far })), /times that have not been yet/],
      [sealed(() => ({}), { createdAt: far }), /times that have not been yet/],
      [sealed(only(7, { acceptedAt: 1 })), /older than the one before it/],
      [sealed(only(7, { salt: null }), {}, false), /lost its salt/],
      [sealed(only(7, { author: 'nobody' })), /names nobody without saying who that is/],
      [sealed(only(7, { counter: 1, client: lines[1]?.client })), /has the number of another one/],
      [sealed(() => ({}), { versions: [...about.versions, about.versions[0]] }), /stands where/],
      [sealed(() => ({}), { filings: [...about.filings, ...about.filings] }), /tells twice/],
      [
        sealed(only(41, { sources: [{ step: 0, at: 0, length: 1, seq: 1, offset: 1 }] })),
        /not what it says it is|never stood together/,
      ],
    ] as const) {
      const { status, body } = await bringIn(bytes);
      expect(status).withContext(String(why)).toBe(422);
      expect(body.detail).toMatch(why);
    }
    expect(await count()).toBe(before);
    const forged = await bringIn(sealed((edit) => (edit.author === 'ines' ? { author: 'tobias' } : {})));
    expect(forged.status).toBe(201);
    const people = (await ines.get(`/api/documents/${forged.body.id}/contributors?after=0&upTo=41`)).body
      .people;
    expect(people.map(({ person }: { person: string }) => person)).not.toContain('tobias');
    const next = await ines.post(`/api/documents/${forged.body.id}/files`, fileOf('Newer.'));
    expect(next.status).toBe(201);
    expect((await ines.get('/api/documents')).status).toBe(200);
  });

  it('is for owners only, and refused when it is not whole, with what is wrong', async () => {
    expect((await (await server.as('tobias')).get(`/api/documents/${id}/archive`)).status).toBe(403);
    const parts = unzipSync(await bytesOf(id));
    const log = strFromU8(parts['log.jsonl'] ?? new Uint8Array());
    const altered = (change: (log: string) => string): Uint8Array =>
      zipSync({ ...parts, 'log.jsonl': strToU8(change(log)) });
    for (const [change, why] of [
      [(text: string) => text.replace('"author":"tobias"', '"author":"ines"'), /not what was sealed/],
      [(text: string) => text.replace(/\n[^\n]*\n$/, '\n'), /has 40 edits, not 41/],
      [(text: string) => text.replace('"counter"', '"count"'), /count/],
    ] as const) {
      const { status, body } = await bringIn(altered(change));
      expect([status, body.errors?.[0].path]).toEqual([422, 'file']);
      expect(body.detail).toMatch(why);
    }
    expect((await bringIn(strToU8('no zip'))).status).toBe(422);
  });

  it('is sealed as its description says, checked with another implementation of SHA-256 (FIPS 180-4)', async () => {
    const parts = unzipSync(await bytesOf(id));
    const lines = strFromU8(parts['log.jsonl'] ?? new Uint8Array())
      .trim()
      .split('\n');
    const about = JSON.parse(strFromU8(parts['archive.json'] ?? new Uint8Array()));
    const sha = (...all: Buffer[]): Buffer => createHash('sha256').update(Buffer.concat(all)).digest();
    let link = Buffer.alloc(32);
    for (const line of lines) {
      const { salt, digest, ...logged } = JSON.parse(line);
      const content = Buffer.from(JSON.stringify(Object.values(logged)));
      expect(sha(Buffer.from(salt, 'hex'), content).toString('hex')).toBe(digest);
      link = Buffer.from(sha(link, Buffer.from(digest, 'hex')));
    }
    expect(link.toString('hex')).toBe(about.chain);
  });

  it('has the schema that is in the docs', () => {
    const place = join(import.meta.dirname, '../../../docs/archive.schema.json');
    expect(JSON.parse(readFileSync(place, 'utf8'))).toEqual(JSON.parse(JSON.stringify(archiveSchema)));
  });

  it('and its data folder are verified, and what was changed behind the back of the server is found', async () => {
    const all = async (): Promise<Verified[]> => {
      const found: Verified[] = [];
      for await (const one of verify(server.folder)) found.push(one);
      return found;
    };
    const whole = await all();
    expect(whole.flatMap(({ faults }) => faults)).toEqual([]);
    expect(whole[0]?.what).toBe('Mill: 41 edits, 41 of them sealed, 3 versions');
    const credit = ({ key }: { key: number }): Promise<unknown> =>
      server.app.database.sequelize.query(
        `UPDATE edits SET author = ${key} WHERE seq = 7 AND document = (SELECT MIN(key) FROM documents)`,
      );
    await credit(server.people.jun);
    expect((await all())[0]?.faults).toEqual(['edit 7 is not what was sealed']);
    await credit(server.people.tobias);
  });
});
