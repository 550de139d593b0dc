import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILLER, plainText } from '@oxbow/core/content';
import { Calculation } from '@oxbow/core/calculate';
import { readBook } from '@oxbow/core/kinds/sheet';
import type { SheetView } from '@oxbow/core/kinds/sheet';
import { picturesIn } from '@oxbow/core/content';
import { slidesOf } from '@oxbow/core/kinds/deck';
import { createApp, ownView } from '@oxbow/server';
import type { App } from '@oxbow/server';
import { PEOPLE, makeDemo } from './index.js';
import { GUIDE } from './texts/guide.js';

const now = Date.UTC(2026, 10, 24, 12);

describe('the demo', () => {
  let apps: { app: App; folder: string }[] = [];

  async function make(): Promise<App> {
    const folder = await mkdtemp(join(tmpdir(), 'oxbow-demo-'));
    const app = await createApp({ folder });
    apps.push({ app, folder });
    expect(await makeDemo(app, now, 0.05)).toBe(true);
    return app;
  }
  afterEach(async () => {
    for (const { app, folder } of apps) {
      await app.close();
      await rm(folder, { recursive: true, force: true });
    }
    apps = [];
  });

  async function texts(app: App): Promise<string[]> {
    const rows = await app.database.models.documents.findAll({ order: [['key', 'ASC']], raw: true });
    return Promise.all(
      rows.map(async ({ key, title }) => `${title}\n${plainText((await app.rooms.get(key)).head.doc)}`),
    );
  }

  it('is the same every time, and not made twice', async () => {
    const [one, other] = [await make(), await make()];
    expect(await texts(one)).toEqual(await texts(other));
    expect(await makeDemo(one, now, 0.05)).toBe(false);
  });

  it('is a year of true editing: it replays from the log, in order of time, by several people', async () => {
    const app = await make();
    expect(app.people.all.length).toBe(PEOPLE.length);
    const rows = await app.database.models.documents.findAll({ raw: true });
    expect(rows.length).toBe(7);
    for (const { key, seq } of rows) {
      const edits = await app.rooms.moments.log.between(key, 0, seq);
      const times = edits.map((edit) => Number(edit.acceptedAt));
      expect(times).toEqual([...times].sort((a, b) => a - b));
      const isErased = edits.some(({ cause }) => cause?.includes('"erasure"'));
      expect(times.at(-1)).toBeLessThanOrEqual(isErased ? Date.now() : now);
      const { doc, provenance } = await app.rooms.moments.load(key, seq);
      expect(doc.eq((await app.rooms.get(key)).head.doc)).toBe(true);
      expect(provenance.runs.alive).toBe(doc.content.size);
    }
    const guide = rows.find((row) => row.title === 'Walking the Withy tide mill');
    const edits = await app.rooms.moments.log.between(guide?.key ?? 0, 0, guide?.seq ?? 0);
    expect(now - Number(edits[0]?.acceptedAt)).toBeGreaterThan(365 * 24 * 3600_000);
    const causes = edits.flatMap((edit) =>
      edit.cause ? [(JSON.parse(edit.cause) as { kind: string }).kind] : [],
    );
    expect(causes).toContain('restore');
    expect(causes).toContain('title');
  });

  it('reads like what people write: sentences stand in their sections, and what was lost can be found', async () => {
    const app = await make();
    const rows = await app.database.models.documents.findAll({ raw: true });
    const key = rows.find(({ title }) => title === 'Walking the Withy tide mill')?.key ?? 0;
    const { doc, seq } = (await app.rooms.get(key)).head;
    let section = '';
    const strayed: string[] = [];
    doc.forEach((block) => {
      if (block.type.name === 'heading') section = block.textContent;
      const own = GUIDE.sections.find(({ paragraphs }) =>
        paragraphs.some(([first = '']) => block.textContent.startsWith(first.slice(0, 13))),
      );
      if (block.type.name === 'paragraph' && own && own.title !== section) strayed.push(block.textContent);
    });
    expect(strayed).toEqual([]);
    expect(plainText(doc)).toContain('The mill stands where the creek meets the marsh.');
    expect(plainText(doc)).not.toContain('spaniel');
    const versions = await app.versions.list(key, seq, 1000);
    const texts = await Promise.all(
      versions.map(async (version) => plainText(await app.rooms.moments.open(key, version.seq))),
    );
    expect(texts.some((one) => one.includes('spaniel'))).toBe(true);
  });

  it('has a book of sheets whose spendings vanished and were put back, and whose sums are right', async () => {
    const app = await make();
    const rows = await app.database.models.documents.findAll({ raw: true });
    const rota = rows.find(({ kind }) => kind === 'sheet');
    const { doc } = (await app.rooms.get(rota?.key ?? 0)).head;
    const view = readBook(doc);
    expect(view.sheets.map(({ name }) => name)).toEqual(['Rota', 'Budget']);
    const calculation = new Calculation(view);
    const budget = view.sheets[1] as SheetView;
    const column = (index: number): unknown[] =>
      budget.rows.map((_, row) => calculation.at(budget.id, row, index));
    const total = budget.rows.findIndex(({ node }) => node.firstChild?.textContent === 'Total');
    const spent = column(2)
      .slice(1, total)
      .filter((value) => typeof value === 'number');
    expect(spent.length).toBeGreaterThan(0);
    expect(column(2)[total]).toBeCloseTo(
      spent.reduce((sum, value) => sum + value, 0),
      6,
    );
    expect(column(3)[total + 1]).toBeGreaterThan(0);
    const edits = await app.rooms.moments.log.between(rota?.key ?? 0, 0, rota?.seq ?? 0);
    expect(edits.some(({ cause }) => cause?.includes('"restore"'))).toBe(true);
    const landmarks = await app.landmarks.list(ownView(rota as never, 1));
    expect(landmarks.map(({ name }) => name)).toContain('Budget as agreed');
  });

  it('has a deck in three named variants, the first of which was put on top again, with the pictures it shows', async () => {
    const app = await make();
    const rows = await app.database.models.documents.findAll({ raw: true });
    const deck = rows.find(({ kind }) => kind === 'deck');
    const key = deck?.key ?? 0;
    const landmarks = await app.landmarks.list(ownView(deck as never, 1));
    expect(landmarks.map(({ name }) => name).sort()).toEqual([
      'For schools',
      'For the crew',
      'For the harbour office',
    ]);
    const titles = await Promise.all(
      landmarks.map(async ({ seq }) =>
        slidesOf(await app.rooms.moments.open(key, seq)).map(({ title }) => title),
      ),
    );
    expect(new Set(titles.map((all) => all.join())).size).toBe(3);
    const edits = await app.rooms.moments.log.between(key, 0, deck?.seq ?? 0);
    expect(edits.some(({ cause }) => cause?.includes('"restore"'))).toBe(true);
    const pictures = picturesIn((await app.rooms.get(key)).head.doc);
    expect(pictures.size).toBe(2);
    for (const hash of pictures) expect((await app.images.read(key, hash))?.type).toBe('image/png');
  });

  it('has a version that was kept by mistake, and an account number that was erased', async () => {
    const app = await make();
    const rows = await app.database.models.documents.findAll({ raw: true });
    const rota = rows.find(({ title }) => title === 'Volunteer rota and budget');
    const { doc } = (await app.rooms.get(rota?.key ?? 0)).head;
    expect(doc.textContent).toContain(
      `goes to Hanneke, ${FILLER.repeat('GB82 WEST 1234 5698 7654 32'.length)}`,
    );
    const versions = await app.database.models.versions.findAll({
      where: { document: rota?.key ?? 0 },
      raw: true,
    });
    expect(versions.filter(({ discarded }) => Number(discarded) > 0).length).toBe(1);
  });
});
