import { operations } from '@oxbow/contract';
import type { Operation } from '@oxbow/contract';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

function file(name: string, text: string, fields: Record<string, string> = {}): FormData {
  const form = new FormData();
  for (const [key, value] of Object.entries(fields)) form.set(key, value);
  form.set('file', new Blob([text]), name);
  return form;
}

describe('the API', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
  });
  afterAll(() => server.stop());

  async function guide(
    text = '# Guide\n\nThe mill stands where the creek meets the marsh.\n',
  ): Promise<string> {
    const { status, body } = await ines.post('/api/documents/import', file('guide.md', text));
    expect(status).toBe(201);
    return body.id as string;
  }
  const textOf = async (id: string, moment: string | number): Promise<string> =>
    (await ines.get(`/api/documents/${id}/versions/${moment}?format=text`)).body as string;

  it('asks for signing in, and says nothing more than that to a wrong password', async () => {
    const stranger = new (ines.constructor as typeof Caller)(server.port, '');
    expect((await stranger.get('/api/documents')).status).toBe(401);
    const wrong = await stranger.post('/api/session', { email: 'ines@withy.example', password: 'no' });
    expect(wrong.status).toBe(401);
    expect(wrong.body.title).toBe(
      (await stranger.post('/api/session', { email: 'nobody@withy.example', password: 'no' })).body.title,
    );
    expect((await stranger.get('/api/health')).body.ready).toBe(true);
    expect((await stranger.get('/api/session/people')).body.length).toBe(3);
  });

  it('makes a private document of its own from any moment, which knows where it came from', async () => {
    const id = await guide();
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'viewer' });
    const { status, body } = await tobias.post(`/api/documents/${id}/copies`, {
      seq: 1,
      title: 'My own guide',
    });
    expect([status, body.title, body.role]).toEqual([201, 'My own guide', 'owner']);
    expect(await textOf(id, 2)).toBe(
      (await tobias.get(`/api/documents/${body.id}/versions/2?format=text`)).body,
    );
    const { events } = (await tobias.get(`/api/documents/${body.id}/history`)).body;
    expect(events[0].cause).toEqual({ kind: 'copy', document: id, title: 'Guide', moment: 1 });
    expect((await ines.get(`/api/documents/${body.id}`)).status).toBe(404);
    const blank = await tobias.post(`/api/documents/${id}/copies`, { number: 1, title: 'Blank' });
    expect(blank.body.seq).toBe(0);
    expect((await tobias.post(`/api/documents/${id}/copies`, { seq: 99, title: 'Far' })).status).toBe(404);
    expect((await tobias.post(`/api/documents/${id}/copies`, { seq: 1, title: ' ' })).status).toBe(400);
  });

  it('makes a document whose version 1 is the blank beginning', async () => {
    const made = await ines.post('/api/documents', { title: 'Boat-day briefing', kind: 'text' });
    expect(made.status).toBe(201);
    const { body } = await ines.get(`/api/documents/${made.body.id}/versions`);
    expect(body.items).toEqual([
      jasmine.objectContaining({ number: 1, label: '0.0', cause: 'beginning', size: 0 }),
    ]);
  });

  it('reads a file, files another as the next version, compares and restores, and keeps all before it', async () => {
    const id = await guide();
    const filed = await ines.post(
      `/api/documents/${id}/files`,
      file(
        'guide.html',
        '<h1>Guide</h1><p>The mill stands where the river meets the marsh.</p><script>alert(1)</script>',
        { comment: 'from the printer', major: 'true' },
      ),
    );
    expect(filed.body.version).toEqual(
      jasmine.objectContaining({ number: 3, label: '1.0', cause: 'filing', comment: 'from the printer' }),
    );
    const compared = await ines.get(`/api/documents/${id}/compare?earlier=2&later=3`);
    expect(compared.body.changes).toEqual([
      jasmine.objectContaining({ kind: 'replaced', earlier: 'creek', later: 'river' }),
    ]);
    expect(
      compared.body.changes[0].credits.map((credit: { person: string; side: string }) => [
        credit.person,
        credit.side,
      ]),
    ).toEqual([
      ['ines', 'earlier'],
      ['ines', 'later'],
    ]);
    const restored = await ines.post(`/api/documents/${id}/restore`, {
      number: 2,
      comment: 'the creek is right',
    });
    expect(restored.body.version).toEqual(
      jasmine.objectContaining({ number: 4, cause: 'restore', comment: 'the creek is right' }),
    );
    expect(await textOf(id, 4)).toBe(await textOf(id, 2));
    expect(await textOf(id, 3)).toContain('river');
    const back = await ines.post(`/api/documents/${id}/take-back`, { seq: restored.body.seq });
    expect(back.status).toBe(201);
    expect(await textOf(id, 5)).toBe(await textOf(id, 3));
    expect((await ines.post(`/api/documents/${id}/restore`, { number: 3 })).status).toBe(409);
  });

  it('compares moments of two documents, tells shares and files, and gives a comparison as a page', async () => {
    const [one, two] = [await guide('The creek is deep.'), await guide('The river is deep.')];
    const { body } = await ines.get(`/api/documents/${two}/compare?earlier=2&later=2&with=${one}`);
    expect(body.changes).toEqual([
      jasmine.objectContaining({ kind: 'replaced', earlier: 'creek', later: 'river' }),
    ]);
    expect(body.changes[0].credits).toEqual([
      jasmine.objectContaining({ person: 'ines', side: 'later', file: 'guide.md' }),
    ]);
    expect(body.rows).toEqual([jasmine.objectContaining({ paired: true })]);
    const own = (await ines.get(`/api/documents/${two}/compare?earlier=1&later=2`)).body;
    expect(own.shares).toEqual([{ person: 'ines', wordsAdded: 4, wordsRemoved: 0 }]);
    const page = (await ines.get(`/api/documents/${two}/compare?earlier=2&later=2&with=${one}&format=html`))
      .body;
    expect(page).toContain('<del title="replaced: ines');
    expect((await tobias.get(`/api/documents/${two}/compare?earlier=2&later=2&with=${one}`)).status).toBe(
      404,
    );
    await ines.call('PUT', `/api/documents/${two}/shares/tobias`, { role: 'viewer' });
    expect((await tobias.get(`/api/documents/${two}/compare?earlier=2&later=2&with=${one}`)).status).toBe(
      404,
    );
  });

  it('gives every format, and answers any moment by @SEQ', async () => {
    const id = await guide(
      '# Rota\n\n- [x] rope\n- [ ] **oars**\n\n| day | who |\n| --- | --- |\n| Mon | Jun |\n',
    );
    expect((await ines.get(`/api/documents/${id}/versions/2?format=markdown`)).body).toContain('- [x] rope');
    expect((await ines.get(`/api/documents/${id}/versions/2?format=html`)).body).toContain(
      '<strong>oars</strong>',
    );
    expect((await ines.get(`/api/documents/${id}/versions/@1`)).body).toEqual(
      jasmine.objectContaining({ seq: 1, version: 2 }),
    );
    expect(await textOf(id, '@0')).toBe('\n');
  });

  it('shows a document only to those it is shared with, as their role allows', async () => {
    const id = await guide();
    expect((await tobias.get(`/api/documents/${id}`)).status).toBe(404);
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'viewer' });
    expect((await tobias.get(`/api/documents/${id}`)).body.role).toBe('viewer');
    expect((await tobias.post(`/api/documents/${id}/restore`, { number: 1 })).status).toBe(403);
    expect((await tobias.call('PUT', `/api/documents/${id}/shares/jun`, { role: 'owner' })).status).toBe(403);
    await ines.call('DELETE', `/api/documents/${id}/shares/tobias`);
    expect((await tobias.get(`/api/documents/${id}/versions/1`)).status).toBe(404);
    expect((await ines.call('DELETE', `/api/documents/${id}/shares/ines`)).status).toBe(409);
  });

  it('keeps a new title and collection as events of the history', async () => {
    const id = await guide();
    const { body: collection } = await ines.post('/api/collections', { name: 'Visitors' });
    await ines.call('PATCH', `/api/documents/${id}`, {
      title: 'Walking the mill',
      collection: collection.id,
    });
    const { body } = await ines.get(`/api/documents/${id}/history`);
    expect(body.events.map((event: { cause: { kind: string } }) => event.cause.kind)).toEqual([
      'filing',
      'title',
      'collection',
    ]);
    expect((await ines.get(`/api/documents/${id}`)).body.title).toBe('Walking the mill');
  });

  it('names the field that is wrong, changes nothing, and never answers 500', async () => {
    const id = await guide();
    const before = (await ines.get(`/api/documents/${id}/history`)).body;
    const wrong: [string, string, unknown, number, string][] = [
      ['POST', '/api/documents', { title: 3, kind: 'text' }, 400, 'title'],
      ['POST', '/api/documents', { title: 'x', kind: 'text', colour: 'red' }, 400, 'colour'],
      ['POST', '/api/documents', { title: 'x', kind: 'text', collection: 'nowhere' }, 422, 'collection'],
      ['POST', '/api/documents', '{"title": ', 400, ''],
      ['PATCH', `/api/documents/${id}`, {}, 400, ''],
      ['POST', `/api/documents/${id}/restore`, { number: 99 }, 404, 'number'],
      ['POST', `/api/documents/${id}/restore`, { number: 'two' }, 400, 'number'],
      ['GET', `/api/documents/${id}/versions/@999`, undefined, 404, 'moment'],
      ['GET', `/api/documents/${id}/versions/latest`, undefined, 400, 'moment'],
      ['GET', `/api/documents/${id}/versions/x/comments`, undefined, 400, 'number'],
      ['GET', '/api/documents/a%00b', undefined, 400, 'document'],
      ['GET', `/api/documents/${id}/removed?q=%00`, undefined, 400, '0/q'],
      ['GET', `/api/documents/${id}/versions/1?format=doc`, undefined, 400, 'format'],
      ['GET', `/api/documents/${id}/compare?earlier=1`, undefined, 400, 'later'],
      ['GET', `/api/documents/${id}/compare?earlier=1&later=77`, undefined, 404, 'later'],
      ['GET', '/api/documents?limit=lots', undefined, 400, 'limit'],
      ['GET', '/api/documents?cursor=%25%25', undefined, 422, 'cursor'],
      ['POST', `/api/documents/${id}/files`, file('photo.exe', 'MZ'), 422, 'file'],
      ['POST', `/api/documents/${id}/files`, file('binary.md', 'a\0b'), 422, 'file'],
      ['POST', `/api/documents/${id}/files`, file('deep.html', '<div>'.repeat(60_000)), 422, 'file'],
      ['POST', `/api/documents/${id}/images`, file('x.png', '<svg onload=alert(1)>'), 415, 'file'],
      ['POST', `/api/documents/${id}/versions`, { comment: 'x'.repeat(3000) }, 400, 'comment'],
      ['POST', `/api/documents/${id}/take-back`, { seq: 500 }, 422, 'seq'],
    ];
    for (const [method, path, body, status, field] of wrong) {
      const reply = await ines.call(method, path, body);
      expect([path, reply.status, reply.body.errors?.[0]?.path ?? '']).toEqual([path, status, field]);
    }
    expect((await ines.post('/api/documents', { title: 'x'.repeat(2_000_000), kind: 'text' })).status).toBe(
      413,
    );
    expect(
      (
        await ines.call(
          'POST',
          '/api/documents',
          { title: 'x', kind: 'text' },
          { Origin: 'https://elsewhere.example' },
        )
      ).status,
    ).toBe(403);
    expect((await ines.get(`/api/documents/${id}/history`)).body).toEqual(before);
  });

  it('answers no call with 500, whatever stands in its path and query', async () => {
    const id = await guide();
    const hostile = [
      '%00',
      'a%00b',
      '..',
      '%2e%2e%2f',
      'x'.repeat(3000),
      '-1',
      '9'.repeat(30),
      '%F0%9F%8C%8A',
      "' OR 1=1 --",
      '@-3',
      '1e3',
      '{}',
      '%ff',
    ];
    for (const { method, path, query, open } of Object.values<Operation>(operations)) {
      if (open || path === '/api/session') continue;
      const names = [...path.matchAll(/:(\w+)/g)].map(([, name = '']) => name);
      for (const sign of hostile) {
        for (const name of names) {
          const asked = path.replace(`:${name}`, sign).replace(':document', id).replace(/:\w+/g, '1');
          const { status } = await ines.call(method.toUpperCase(), asked);
          expect(status).withContext(`${method} ${asked}`).toBeLessThan(500);
        }
        for (const name of Object.keys(query?.properties ?? {})) {
          const asked = `${path.replace(':document', id).replace(/:\w+/g, '1')}?${name}=${sign}`;
          const { status } = await ines.call(method.toUpperCase(), asked);
          expect(status).withContext(`${method} ${asked}`).toBeLessThan(500);
        }
      }
    }
  });

  it('stores an image once and gives it only through a document that holds it', async () => {
    const [one, other] = [await guide(), await guide()];
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    const form = new FormData();
    form.set('file', new Blob([png]), 'dot.png');
    const { body } = await ines.post(`/api/documents/${one}/images`, form);
    expect(body.type).toBe('image/png');
    expect((await ines.get(`/api/documents/${one}/images/${body.hash}`)).status).toBe(200);
    expect((await ines.get(`/api/documents/${other}/images/${body.hash}`)).status).toBe(404);
  });

  it('stores the images that a file carries in itself, and loads none from elsewhere', async () => {
    const png =
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
    const id = await guide(
      `![the wheel](data:image/png;base64,${png}) ![a trap](https://elsewhere.example/a.png) ![no image](data:image/png;base64,AAAA)\n`,
    );
    const html = (await ines.get(`/api/documents/${id}/versions/2?format=html`)).body as string;
    expect(html).toContain(`src="data:image/png;base64,${png}"`);
    const { content } = (await ines.get(`/api/documents/${id}/versions/2`)).body;
    const hash = /"hash":"([^"]+)"/.exec(JSON.stringify(content))?.[1] ?? '';
    const address = `/api/documents/${id}/images/${hash}`;
    expect((await ines.get(address)).status).toBe(200);
    expect((await tobias.get(address)).status).toBe(404);
    expect(html).toContain('<a href="https://elsewhere.example/a.png"');
    expect(html.match(/<img/g)?.length).toBe(1);
  });

  it('pages lists by cursor, each item once', async () => {
    const id = await guide();
    for (const name of ['a', 'b', 'c']) {
      await ines.post(`/api/documents/${id}/files`, file(`${name}.txt`, `the text of ${name}`));
    }
    const numbers: number[] = [];
    let cursor = '';
    do {
      const { body } = await ines.get(
        `/api/documents/${id}/versions?limit=2${cursor ? `&cursor=${cursor}` : ''}`,
      );
      numbers.push(...body.items.map((version: { number: number }) => version.number));
      cursor = (body.next as string | null) ?? '';
    } while (cursor);
    expect(numbers).toEqual([5, 4, 3, 2, 1]);
    const seen = new Set<string>();
    for (let next = ''; ;) {
      const { body } = await ines.get(`/api/documents?limit=3${next ? `&cursor=${next}` : ''}`);
      for (const document of body.items as { id: string }[]) expect(seen.has(document.id)).toBe(false);
      for (const document of body.items as { id: string }[]) seen.add(document.id);
      if (!body.next) break;
      next = body.next as string;
    }
    expect(seen.has(id)).toBe(true);
  });

  it('describes itself', async () => {
    const { body } = await ines.get('/api/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    expect(body.paths['/api/documents/{document}/restore'].post.requestBody).toBeDefined();
  });
});
