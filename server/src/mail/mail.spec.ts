import { mkdir, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { compare } from '@oxbow/core/compare';
import { readDocx, writeDocx, writeDocxRedline } from '@oxbow/core/formats';
import { Random, build, document, revised } from '@oxbow/core/testing';
import PostalMime from 'postal-mime';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

const { doc, h, p } = build;
const about = {
  title: 'Guide',
  author: 'Wilmot Strake',
  at: '2026-11-20T10:00:00.000Z',
  picture: () => null,
};

describe('mail', () => {
  let server: TestServer;
  let ines: Caller;
  let tobias: Caller;

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, tobias] = await Promise.all([server.as('ines'), server.as('tobias')]);
  });
  afterAll(() => server.stop());
  afterEach(() => rm(join(server.folder, 'mail'), { recursive: true, force: true }));

  const box = (name: 'inbox' | 'outbox'): string => join(server.folder, 'mail', name);
  const put = async (name: string, content: string): Promise<void> => {
    await mkdir(box('inbox'), { recursive: true });
    await writeFile(join(box('inbox'), name), content.replace(/\n/g, '\r\n'));
  };
  /** A message after RFC 5322, 3.6, with one attachment after RFC 2183. */
  const message = (to: string, subject: string, file: string, bytes: Uint8Array): string =>
    `From: "Strake, Wilmot" <wilmot@slipway.example>\nTo: ${to}\nSubject: ${subject}\nDate: Fri, 20 Nov 2026 09:12:00 +0100\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=b\n\n--b\nContent-Type: text/plain; charset=utf-8\n\nMy remarks.\n--b\nContent-Type: application/octet-stream\nContent-Disposition: attachment; filename="${file}"\nContent-Transfer-Encoding: base64\n\n${Buffer.from(bytes).toString('base64')}\n--b--\n`;
  const imported = async (one: ReturnType<typeof doc>, name = 'guide.docx'): Promise<string> => {
    const form = new FormData();
    form.set('file', new Blob([Buffer.from(writeDocx(one, about))]), name);
    return (await ines.post('/api/documents/import', form)).body.id as string;
  };

  it('that came with a file is listed to whom it was sent, and filed with its sender as the author', async () => {
    const random = new Random(3);
    const earlier = document(random, 12);
    const later = revised(random, earlier, 3);
    const redline = writeDocxRedline(
      compare(earlier, later),
      (_change, _side, from, to) => [{ author: 'Wilmot Strake', at: '2026-11-20T08:00:00.000Z', from, to }],
      about,
    );
    const id = await imported(earlier);
    await imported(doc(h(1, 'Another'), p('about something else altogether')), 'another.docx');
    await put(
      'one.eml',
      message('Ines <INES@withy.example>', 'Re: =?utf-8?q?guide_=E2=80=93?=', 'guide 2.docx', redline),
    );
    await put('broken.eml', 'no message at all');

    const { body: letters } = await ines.get('/api/arrivals');
    expect(letters.length).toBe(1);
    const [{ id: letter, from, subject, at, text, files }] = letters;
    expect(from).toEqual({ name: 'Strake, Wilmot', address: 'wilmot@slipway.example', person: null });
    expect([subject, at, text]).toEqual(['Re: guide –', '2026-11-20T08:12:00.000Z', 'My remarks.']);
    expect(files).toEqual([{ name: 'guide 2.docx', bytes: redline.length, readable: true, filed: null }]);
    expect((await tobias.get('/api/arrivals')).body).toEqual([]);
    expect((await tobias.get(`/api/arrivals/${letter}/files/0`)).status).toBe(404);
    expect((await ines.get(`/api/arrivals/${letter}/files/7`)).status).toBe(404);

    const { body: like } = await ines.get(`/api/arrivals/${letter}/files/0/like`);
    expect(like.map(({ document }: { document: string }) => document)).toEqual([id]);
    expect(like[0].likeness).toBeGreaterThan(0.3);

    const path = `/api/arrivals/${letter}/files/0/filing`;
    const { status, body } = await ines.post(path, {
      document: id,
      comment: 'Read by the harbour',
      tracked: 'both',
    });
    expect([status, body.document]).toEqual([201, id]);
    const { items } = (await ines.get(`/api/documents/${id}/versions`)).body;
    const people = (await ines.get('/api/people')).body as { id: string; name: string; initials: string }[];
    const sender = people.find(({ name }) => name === 'Strake, Wilmot, as claimed');
    expect(sender?.initials).toBe('SW');
    expect([items[0].comment, items[0].authors]).toEqual(['Read by the harbour', [sender?.id]]);
    const { events } = (await ines.get(`/api/documents/${id}/history`)).body;
    expect(events.at(-1).cause).toEqual({ kind: 'filing', file: 'guide 2.docx', format: 'docx', by: 'ines' });
    expect((await ines.get('/api/arrivals')).body[0].files[0].filed.document).toBe(id);
    const listed = (await ines.get('/api/session/people')).body as { name: string }[];
    expect(listed.some(({ name }) => name.startsWith('Strake, Wilmot'))).toBe(false);

    expect((await ines.call('DELETE', `/api/arrivals/${letter}`)).status).toBe(204);
    expect((await ines.get('/api/arrivals')).body).toEqual([]);
  });

  it('that only says it is from somebody here is told as claimed, until an owner vouches for them', async () => {
    const words = writeDocx(doc(p('The weir is to be opened at once.')), about);
    const forged = message('Ines <ines@withy.example>', 'Urgent', 'order.docx', words);
    await put('forged.eml', forged.replace(/^From: .*$/m, 'From: Tobias Quill <tobias@withy.example>'));
    const [letter] = (await ines.get('/api/arrivals')).body;
    expect(letter.from.person).toBe('tobias');
    const filed = await ines.post(`/api/arrivals/${letter.id}/files/0/filing`, { title: 'Order' });
    const path = `/api/documents/${filed.body.document}`;
    const nameOf = async (): Promise<string> => {
      const [who] = (await ines.get(`${path}/versions`)).body.items[0].authors;
      const people = (await ines.get('/api/people')).body as { id: string; name: string }[];
      return `${people.find(({ id }) => id === who)?.name} (${who === 'tobias' ? 'himself' : 'another'})`;
    };
    expect(await nameOf()).toBe('tobias, as claimed (another)');
    expect((await ines.get(`${path}/contributors?after=0&upTo=1`)).body.people[0].person).not.toBe('tobias');
    const { items, mayVouch } = (await ines.get(`${path}/claims`)).body;
    const [claim] = items;
    expect(mayVouch).toBe(true);
    expect(claim).toEqual({
      person: jasmine.any(String),
      name: 'tobias',
      address: 'tobias@withy.example',
      like: 'tobias',
      vouched: null,
    });
    await ines.call('PUT', `${path}/shares/tobias`, { role: 'editor' });
    const vouching = `${path}/claims/${claim.person}`;
    expect((await tobias.call('PUT', vouching)).status).toBe(403);
    expect((await ines.call('PUT', `${path}/claims/ines`)).status).toBe(404);
    expect((await ines.call('PUT', `${path}/shares/${claim.person}`, { role: 'viewer' })).status).toBe(404);
    expect((await ines.call('PUT', vouching)).status).toBe(204);
    expect(await nameOf()).toBe('tobias (himself)');
    expect((await ines.get(`${path}/contributors?after=0&upTo=1`)).body.people[0].person).toBe('tobias');
    expect((await ines.get(`${path}/claims`)).body.items[0].vouched.by).toBe('ines');
    expect((await ines.call('PUT', vouching)).status).toBe(409);
    await ines.call('DELETE', `/api/arrivals/${letter.id}`);
  });

  it('is sent with a version or a redline into the outbox, and comes in to whoever is here', async () => {
    const id = await imported(doc(h(1, 'Rope'), p('Two coils of hemp.')), 'rope.docx');
    const form = new FormData();
    form.set(
      'file',
      new Blob([Buffer.from(writeDocx(doc(h(1, 'Rope'), p('Three coils of hemp.')), about))]),
      'r.docx',
    );
    await ines.post(`/api/documents/${id}/files`, form);
    const { status, body } = await ines.post(`/api/documents/${id}/post`, {
      to: ['tobias@withy.example', 'wilmot@slipway.example'],
      subject: 'The rope list',
      text: 'As agreed.',
      earlier: '2',
      later: '3',
      format: 'docx',
    });
    expect([status, body.files[0].name]).toEqual([201, 'Rope version 2 to version 3.docx']);
    const [name] = (await readdir(box('outbox'))).slice(-1);
    const mail = await PostalMime.parse(await readFile(join(box('outbox'), name ?? '')));
    expect([mail.from?.address, mail.subject, mail.to?.length]).toEqual([
      'ines@withy.example',
      'The rope list',
      2,
    ]);
    const reading = readDocx(new Uint8Array(mail.attachments[0]?.content as ArrayBuffer));
    expect(reading.tracked.map(({ kind, text }) => `${kind} ${text}`)).toEqual([
      'deletion Two',
      'insertion Three',
    ]);
    const [letter] = (await tobias.get('/api/arrivals')).body;
    expect([letter.subject, letter.from.person]).toEqual(['The rope list', 'ines']);
    const filed = await tobias.post(`/api/arrivals/${letter.id}/files/0/filing`, { title: 'Rope list' });
    expect(filed.body.version.authors).toEqual(['ines']);

    for (const [input, path] of [
      [{ to: ['nobody'] }, 'to/0'],
      [{ earlier: '99' }, 'earlier'],
      [{ earlier: '2', format: 'markdown' }, 'format'],
    ] as const) {
      const base = { to: ['tobias@withy.example'], subject: 'x', text: '', later: '3', format: 'docx' };
      const whole = Object.assign(base, input);
      const wrong = await ines.post(`/api/documents/${id}/post`, whole);
      expect(wrong.status).toBeGreaterThanOrEqual(400);
      expect(wrong.body.errors[0].path).toBe(path);
    }
    expect((await tobias.post(`/api/documents/${id}/post`, { to: [], subject: 'x' })).status).toBeGreaterThan(
      399,
    );
  });

  it('tells whoever a document is shared with', async () => {
    const id = await imported(doc(p('Shared.')), 'shared.docx');
    await ines.call('PUT', `/api/documents/${id}/shares/tobias`, { role: 'viewer' });
    const names = await readdir(box('outbox'));
    const mails = await Promise.all(
      names.map(async (name) => PostalMime.parse(await readFile(join(box('outbox'), name)))),
    );
    const told = mails.find(({ subject }) => subject === '“Shared” is shared with you');
    expect(told?.text).toContain(`/documents/${id}`);
    expect(told?.to?.[0]?.address).toBe('tobias@withy.example');
  });
});
