import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

describe('landmarks and comments', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;
  let jun: Caller;
  let path: string;

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias, jun] = await Promise.all([server.as('ines'), server.as('tobias'), server.as('jun')]);
  });
  afterAll(() => server.stop());
  beforeEach(async () => {
    const form = new FormData();
    form.set('comment', 'from the shelf');
    form.set('file', new Blob(['# Guide\n\nThe mill stands by the creek.\n']), 'guide.md');
    const { body } = await ines.post('/api/documents/import', form);
    path = `/api/documents/${body.id}`;
  });

  it('name any moment, are found by name, by a name they gave up, and as the latest', async () => {
    const first = await ines.post(`${path}/landmarks`, { seq: 0, name: ' Blank  page ', note: 'for luck' });
    expect(first.status).toBe(201);
    expect(first.body).toEqual(
      jasmine.objectContaining({ name: 'Blank page', note: 'for luck', version: 1 }),
    );
    const second = await ines.post(`${path}/landmarks`, { number: 2, name: 'As agreed' });
    expect((await ines.get(`${path}/landmarks/latest`)).body.id).toBe(second.body.id);
    const renamed = await ines.call('PATCH', `${path}/landmarks/${second.body.id}`, { name: 'As printed' });
    expect(renamed.body).toEqual(
      jasmine.objectContaining({ id: second.body.id, name: 'As printed', seq: 1 }),
    );
    for (const name of ['as printed', 'As agreed', second.body.id as string])
      expect((await ines.get(`${path}/landmarks/${encodeURIComponent(name)}`)).body.seq).toBe(1);
    const versions = (await ines.get(`${path}/versions`)).body.items;
    expect(versions.map(({ landmark }: { landmark: { name: string } }) => landmark.name)).toEqual([
      'As printed',
      'Blank page',
    ]);
    expect((await ines.call('DELETE', `${path}/landmarks/${first.body.id}`)).status).toBe(204);
    expect((await ines.get(`${path}/landmarks/Blank page`)).status).toBe(404);
    expect((await ines.get(`${path}/landmarks`)).body.length).toBe(1);
    expect((await ines.get(`${path}/versions/1`)).body.seq).toBe(0);
  });

  it('refuse a name that is taken, a second name for a moment, and a moment that is not there', async () => {
    await ines.post(`${path}/landmarks`, { seq: 0, name: 'Blank page' });
    const taken = await ines.post(`${path}/landmarks`, { seq: 1, name: 'blank PAGE' });
    expect([taken.status, taken.body.errors[0].path]).toEqual([409, 'name']);
    expect((await ines.post(`${path}/landmarks`, { seq: 0, name: 'Another' })).status).toBe(409);
    expect((await ines.post(`${path}/landmarks`, { seq: 1, name: 'latest' })).status).toBe(409);
    expect((await ines.post(`${path}/landmarks`, { seq: 9, name: 'Too far' })).status).toBe(404);
    expect((await ines.post(`${path}/landmarks`, { seq: 1, name: '  ' })).status).toBe(400);
    expect((await ines.post(`${path}/landmarks`, { name: 'Nowhere' })).status).toBe(404);
  });

  it('are searched over all documents one may see, and kept from others', async () => {
    await ines.post(`${path}/landmarks`, { seq: 1, name: 'For the printer', note: 'spring tide issue' });
    const found = (await ines.get('/api/landmarks?q=printer spring')).body;
    expect(found[0]).toEqual(jasmine.objectContaining({ name: 'For the printer', title: 'Guide' }));
    expect((await ines.get('/api/landmarks?q=autumn')).body).toEqual([]);
    expect((await tobias.get('/api/landmarks?q=printer')).body).toEqual([]);
    expect((await tobias.get(`${path}/landmarks`)).status).toBe(404);
    await ines.call('PUT', `${path}/shares/jun`, { role: 'viewer' });
    expect((await jun.get(`${path}/landmarks`)).body.length).toBe(1);
    expect((await jun.post(`${path}/landmarks`, { seq: 0, name: 'Mine' })).status).toBe(403);
    expect((await jun.call('PATCH', `${path}/versions/2`, { comment: 'Mine' })).status).toBe(403);
  });

  it('keep what a comment said before it was written anew', async () => {
    await ines.call('PUT', `${path}/shares/tobias`, { role: 'editor' });
    const changed = await tobias.call('PATCH', `${path}/versions/2`, { comment: 'Read by the millwright' });
    expect(changed.body.comment).toBe('Read by the millwright');
    await tobias.call('PATCH', `${path}/versions/2`, { comment: 'Read by the millwright' });
    const said = (await ines.get(`${path}/versions/2/comments`)).body;
    expect(said.map(({ by, comment }: { by: string; comment: string }) => [by, comment])).toEqual([
      ['ines', 'from the shelf'],
      ['tobias', 'Read by the millwright'],
    ]);
    expect((await ines.call('PATCH', `${path}/versions/77`, { comment: 'x' })).status).toBe(404);
  });
});
