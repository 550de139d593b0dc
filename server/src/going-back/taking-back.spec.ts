import { textSchema } from '@oxbow/core/kinds/text';
import { Transform, findWrapping } from 'prosemirror-transform';
import type { StoredDocument } from '../store/models.js';
import { TestServer, edit, send, typing } from '../testing/server.js';
import type { Caller } from '../testing/server.js';
import { Window } from '../testing/window.js';

describe('taking edits back', () => {
  let server: TestServer;
  let ines: Caller;
  let document: StoredDocument;
  let path: string;
  let counter = 1;

  beforeAll(async () => {
    server = await TestServer.start();
    ines = await server.as('ines');
  });
  afterAll(() => server.stop());
  beforeEach(async () => {
    document = await server.app.documents.create(server.people.ines, 'Guide', null);
    path = `/api/documents/${document.id}`;
    await write('ines', (tr) => tr.insert(1, textSchema.text('The gate is open.')));
    await write('tobias', (tr) => tr.replaceWith(13, 17, textSchema.text('shut')));
    await write('ines', (tr) => tr.insert(18, textSchema.text(' Bring boots.')));
    await write('tobias', (tr) => tr.insert(1, textSchema.text('Note: ')));
  });

  async function write(who: 'ines' | 'tobias', change: (tr: Transform) => Transform): Promise<number> {
    const room = await server.app.rooms.get(document.key);
    const [result] = await room.compose(({ doc, seq }) => {
      const edit = {
        counter: counter++,
        steps: change(new Transform(doc)).steps,
        sources: [],
        writtenAt: 0,
        cause: { kind: 'writing' as const },
      };
      return { author: server.people[who].key, client: who, base: seq, edits: [edit] };
    });
    return result?.seq ?? 0;
  }
  const now = async (): Promise<string> =>
    (
      (await ines.get(`${path}/versions/@${(await ines.get(path)).body.seq}?format=text`)).body as string
    ).trim();

  it('says first what it would do, for one edit, and keeps what came after it', async () => {
    const { status, body } = await ines.post(`${path}/take-back/preview`, { seq: 2 });
    expect(status).toBe(200);
    expect(body).toEqual(
      jasmine.objectContaining({ edits: 1, people: ['tobias'], changes: 1, conflict: null }),
    );
    expect(body.gist).toContain('“shut” became “open”');
    expect(await now()).toBe('Note: The gate is shut. Bring boots.');
    const taken = await ines.post(`${path}/take-back`, { seq: 2, comment: 'It stays open.' });
    expect(taken.body.version.comment).toBe('It stays open.');
    expect(await now()).toBe('Note: The gate is open. Bring boots.');
  });

  it('takes back all that one person did in a range', async () => {
    const input = { after: 0, upTo: 4, person: 'tobias' };
    expect((await ines.post(`${path}/take-back/preview`, input)).body.edits).toBe(2);
    const taken = await ines.post(`${path}/take-back`, input);
    expect(await now()).toBe('The gate is open. Bring boots.');
    expect((await ines.post(`${path}/take-back`, input)).status).toBe(409);
    await ines.post(`${path}/take-back`, { seq: taken.body.seq });
    expect(await now()).toBe('Note: The gate is shut. Bring boots.');
    expect((await ines.post(`${path}/take-back`, input)).status).toBe(201);
    expect(await now()).toBe('The gate is open. Bring boots.');
  });

  it('takes an edit back whole, with what came back of it by an undo, and nobody can pass it off as undone', async () => {
    const tobias = await server.as('tobias');
    await ines.call('PUT', `${path}/shares/tobias`, { role: 'editor' });
    const window = await Window.open(tobias, document.id, 'tobias-window');
    window.act(new Transform(window.view).insert(1, textSchema.text('Beware of the dog. ')).steps);
    await window.sync();
    await new Promise((pass) => setTimeout(pass, 900));
    window.act(new Transform(window.view).delete(4, 10).steps);
    await window.sync();
    window.undo('undo');
    await window.sync();
    expect(await now()).toBe('Beware of the dog. Note: The gate is shut. Bring boots.');
    await ines.post(`${path}/take-back`, { seq: 5 });
    expect(await now()).toBe('Note: The gate is shut. Bring boots.');
    window.close();
    const live = await tobias.live();
    const claim = { ...edit(1, typing(1, 'x')), cause: { kind: 'undo', of: [1] } };
    const sent = await send(live, 'edits', {
      document: document.id,
      client: 'tobias-2',
      base: 8,
      edits: [claim],
    });
    expect(JSON.stringify(sent)).toContain('edits/0/cause/of');
    live.disconnect();
  });

  it('leaves a list round what somebody else wrote in it', async () => {
    const made = await write('tobias', (tr) =>
      tr.insert(
        tr.doc.content.size,
        textSchema.node('bullet_list', null, [
          textSchema.node('list_item', null, [textSchema.node('paragraph', null, [textSchema.text('oars')])]),
        ]),
      ),
    );
    await write('ines', (tr) => tr.insert(tr.doc.content.size - 3, textSchema.text(' and rope')));
    const { body } = await ines.post(`${path}/take-back/preview`, { seq: made });
    expect(body.conflict).toBeNull();
    const taken = await ines.post(`${path}/take-back`, { seq: made });
    expect(taken.status).toBe(201);
    expect(await now()).toBe('Note: The gate is shut. Bring boots.\n and rope');
    const { content } = (await ines.get(`${path}/versions/@${taken.body.seq}`)).body;
    expect(content.content.at(-1).type).toBe('bullet_list');
    await ines.post(`${path}/take-back`, { seq: taken.body.seq });
    expect(await now()).toContain('oars and rope');
  });

  it('shows a conflict with its three texts, and changes nothing', async () => {
    const made = await write('tobias', (tr) =>
      tr.insert(tr.doc.content.size, textSchema.node('paragraph', null, [textSchema.text('bailer')])),
    );
    await write('ines', (tr) => {
      const range = tr.doc.resolve(tr.doc.content.size - 1).blockRange();
      const wrapping = range && findWrapping(range, textSchema.nodes.bullet_list);
      return range && wrapping ? tr.wrap(range, wrapping) : tr;
    });
    const { body } = await ines.post(`${path}/take-back/preview`, { seq: made });
    expect(body.conflict.now).toContain('bailer');
    expect(body.conflict.before).not.toContain('bailer');
    expect(body.conflict.after).not.toContain('bailer');
    const before = await now();
    expect((await ines.post(`${path}/take-back`, { seq: made })).status).toBe(409);
    expect(await now()).toBe(before);
  });

  it('takes one change back and leaves alone what was written in the same edit, and inside it since', async () => {
    const { seq: earlier } = (await ines.get(path)).body;
    await write('tobias', (tr) =>
      tr.insert(1, textSchema.text('First. ')).insert(tr.doc.content.size - 1, textSchema.text(' Last.')),
    );
    const { seq: later } = (await ines.get(path)).body;
    await write('ines', (tr) => tr.insert(3, textSchema.text('XX')));
    const { changes } = (await ines.get(`${path}/compare?earlier=@${earlier}&later=@${later}`)).body;
    const change = {
      earlier,
      later,
      id: changes.find((one: { later: string }) => /First/.test(one.later)).id,
    };
    const { body } = await ines.post(`${path}/take-back/preview`, { change });
    expect([body.conflict, body.people, body.edits]).toEqual([null, ['tobias'], 1]);
    const taken = await ines.post(`${path}/take-back`, { change });
    expect(taken.status).toBe(201);
    expect(await now()).toMatch(/^XXNote: .* Last\.$/s);
    expect((await ines.post(`${path}/take-back`, { change })).status).toBe(409);
    expect((await ines.post(`${path}/take-back`, { seq: taken.body.seq })).status).toBe(201);
    expect(await now()).toMatch(/^FiXXrst\. Note: .* Last\.$/s);
  });

  it('takes a rename back as one, and leaves alone what was written round it since', async () => {
    await write('ines', (tr) =>
      tr.insert(tr.doc.content.size - 1, textSchema.text(' Oil the gate. Paint the gate.')),
    );
    const { seq: earlier } = (await ines.get(path)).body;
    const text = (doc: Transform['doc']): string => doc.textBetween(0, doc.content.size);
    for (let i = 0; i < 3; i++)
      await write('tobias', (tr) => {
        const at = text(tr.doc).indexOf('gate') + 1;
        return tr.replaceWith(at, at + 4, textSchema.text('lock'));
      });
    const { seq: later } = (await ines.get(path)).body;
    await write('ines', (tr) => tr.insert(1, textSchema.text('Today: ')));
    const { changes, gist } = (await ines.get(`${path}/compare?earlier=@${earlier}&later=@${later}`)).body;
    expect(changes.map(({ group }: { group: string }) => group)).toEqual(Array(3).fill('gate > lock'));
    expect(gist).toBe('Renamed gate to lock in 3 places');
    const change = { earlier, later, id: 1, group: true };
    const { body } = await ines.post(`${path}/take-back/preview`, { change });
    expect([body.conflict, body.edits, body.changes]).toEqual([null, 3, 3]);
    expect((await ines.post(`${path}/take-back`, { change })).status).toBe(201);
    expect(await now()).toBe('Today: Note: The gate is shut. Bring boots. Oil the gate. Paint the gate.');
  });

  it('brings back what one change removed, once, where it stood', async () => {
    const before = await now();
    const { seq: earlier } = (await ines.get(path)).body;
    await write('tobias', (tr) => tr.delete(3, 5));
    const change = { earlier, later: earlier + 1, id: 0 };
    expect((await ines.post(`${path}/take-back`, { change })).status).toBe(201);
    expect(await now()).toBe(before);
    expect((await ines.post(`${path}/take-back`, { change })).status).toBe(409);
    expect(await now()).toBe(before);
    const wrong = { ...change, id: 99 };
    expect((await ines.post(`${path}/take-back/preview`, { change: wrong })).status).toBe(422);
  });

  it('refuses what is no edit of the document, and those who may not', async () => {
    expect((await ines.post(`${path}/take-back`, { seq: 99 })).status).toBe(422);
    expect((await ines.post(`${path}/take-back/preview`, { after: 0, upTo: 4, person: 'jun' })).status).toBe(
      422,
    );
    await ines.call('PUT', `${path}/shares/jun`, { role: 'viewer' });
    expect((await (await server.as('jun')).post(`${path}/take-back/preview`, { seq: 1 })).status).toBe(403);
  });
});
