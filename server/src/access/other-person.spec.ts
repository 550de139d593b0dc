import { TestServer } from '../testing/server.js';

describe('calls of a browser in which somebody else signed in meanwhile', () => {
  it('are refused before anything is done, when they say as whom they are made', async () => {
    const server = await TestServer.start();
    const ines = await server.as('ines');
    const make = (as: string) =>
      ines.call('POST', '/api/documents', { title: 'Guide', kind: 'text' }, { 'Oxbow-Person': as });
    expect((await make('tobias')).status).toBe(421);
    expect((await ines.get('/api/documents')).body.items).toEqual([]);
    expect((await make('ines')).status).toBe(201);
    await server.stop();
  });
});
