import { finished, plainText } from '@oxbow/core/content';
import { readAnyDocument } from '@oxbow/core/kinds';
import { HANDS, Random, writeHistory } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';
import { verify } from '../archive/verify.js';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

const EDITS = 24;

for (const hand of HANDS)
  describe(`a document of the kind ${hand.kind.name}`, () => {
    let server: TestServer;
    let ines: Caller;
    let id: string;
    let key: number;
    let docs: readonly Node[];

    beforeAll(async () => {
      server = await TestServer.start();
      ines = await server.as('ines');
      const { app, people } = server;
      const view = await app.documents.create(
        people.ines,
        'Kept',
        null,
        Date.now(),
        hand.kind.name as 'text',
      );
      ({ id, key } = view);
      const history = writeHistory(new Random(11), EDITS, { hand, undo: false, stale: false });
      docs = history.docs;
      const room = await app.rooms.get(key);
      for (const { steps, seq } of history.edits)
        await room.submit({
          author: (seq % 2 === 0 ? people.ines : people.tobias).key,
          client: `window-${seq % 2}`,
          base: seq - 1,
          edits: [{ counter: seq, steps, sources: [], writtenAt: Date.now(), cause: { kind: 'writing' } }],
        });
    });
    afterAll(() => server.stop());

    const contentAt = async (seq: number): Promise<Node> => {
      const { status, body } = await ines.get(`/api/documents/${id}/versions/@${seq}?format=json`);
      expect(status).toBe(200);
      return finished(readAnyDocument(JSON.stringify(body.content)));
    };

    it('is known by its kind, and every moment of it can be opened', async () => {
      expect((await ines.get(`/api/documents/${id}`)).body.kind).toBe(hand.kind.name);
      for (const seq of [0, 1, EDITS / 2, EDITS])
        expect((await contentAt(seq)).eq(docs[seq] as Node)).toBeTrue();
      const { provenance, doc } = await server.app.rooms.moments.load(key, EDITS);
      expect(doc.eq(docs.at(-1) as Node)).toBeTrue();
      expect(provenance.runs.alive).toBe(doc.content.size);
    });

    it('is compared, with who changed what', async () => {
      const { status, body } = await ines.get(`/api/documents/${id}/compare?earlier=@5&later=@${EDITS}`);
      expect(status).toBe(200);
      expect(body.changes.length).toBeGreaterThan(0);
      const authors = new Set(body.shares.map(({ person }: { person: string }) => person));
      expect(authors.size).toBeGreaterThan(0);
      for (const author of authors) expect(['ines', 'tobias']).toContain(author as string);
    });

    it('is found in time, and what was removed from it is listed', async () => {
      const letters = (docs.at(-1) as Node).textContent;
      const found = await ines.get(`/api/documents/${id}/find?q=${encodeURIComponent(letters.slice(0, 1))}`);
      expect(found.status).toBe(200);
      expect((await ines.get(`/api/documents/${id}/removed`)).status).toBe(200);
      expect((await ines.get(`/api/documents/${id}/contributors`)).status).toBe(200);
    });

    it('takes no file and no comparison of another kind, and says so', async () => {
      const other =
        hand.kind.name === 'text' ? ['costs.csv', 'Item,Euro\r\nOak,40\r\n'] : ['guide.md', '# Guide\n'];
      const form = new FormData();
      form.set('file', new Blob([other[1] ?? '']), other[0]);
      const filed = await ines.post(`/api/documents/${id}/files`, form);
      expect([filed.status, filed.body.errors?.[0]?.path]).toEqual([422, 'file']);
      const made = new FormData();
      made.set('file', new Blob([other[1] ?? '']), other[0]);
      const { body } = await ines.post('/api/documents/import', made);
      expect(body.kind).not.toBe(hand.kind.name);
      const { status, body: told } = await ines.get(
        `/api/documents/${id}/compare?earlier=@1&later=@${EDITS}&with=${body.id}`,
      );
      expect([status, told.title]).toEqual([422, 'These are documents of different kinds']);
    });

    if (hand.kind.name !== 'deck')
      it('leaves whole as an archive, and comes back as what it was', async () => {
        const response = await fetch(`http://127.0.0.1:${server.port}/api/documents/${id}/archive`, {
          headers: { Cookie: ines.cookie },
        });
        const form = new FormData();
        form.set('file', new Blob([await response.arrayBuffer()]), 'history.zip');
        const { status, body } = await ines.post('/api/documents/archives', form);
        expect([status, body.kind]).toEqual([201, hand.kind.name]);
        const again = await ines.get(`/api/documents/${body.id}/versions/@${EDITS}?format=json`);
        const came = finished(readAnyDocument(JSON.stringify(again.body.content)));
        expect(came.eq(docs.at(-1) as Node)).toBeTrue();
      });

    it('is restored on top and copied, and its history is whole', async () => {
      const restored = await ines.post(`/api/documents/${id}/restore`, { seq: 10 });
      expect(restored.status).toBe(201);
      const { seq } = (await ines.get(`/api/documents/${id}`)).body;
      expect((await contentAt(seq)).eq(docs[10] as Node)).toBeTrue();
      expect(plainText(await contentAt(EDITS))).toBe(plainText(docs.at(-1) as Node));
      const copy = await ines.post(`/api/documents/${id}/copies`, { seq: 10, title: 'Copied' });
      expect([copy.status, copy.body.kind]).toEqual([201, hand.kind.name]);
      const view = await server.app.database.models.documents.findOne({
        where: { id: copy.body.id },
        raw: true,
      });
      const made = await server.app.rooms.moments.open(view?.key ?? 0, copy.body.seq);
      expect(made.eq(docs[10] as Node)).toBeTrue();
      for await (const { what, faults } of verify(server.folder))
        expect(faults).withContext(what).toEqual([]);
    });
  });
