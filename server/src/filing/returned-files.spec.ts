import type { Returned } from '@oxbow/contract';
import { readDocx } from '@oxbow/core/formats';
import ExcelJS from 'exceljs';
import { TestServer } from '../testing/server.js';
import type { Caller } from '../testing/server.js';

describe('files that came back from readers', () => {
  let server: TestServer;
  let ines: Caller;
  let jun: Caller;
  let document: string;

  beforeAll(async () => {
    server = await TestServer.start();
    [ines, jun] = await Promise.all([server.as('ines'), server.as('jun')]);
  });
  afterAll(() => server.stop());

  const BASE = ['The gate is shut at noon.', 'Bring boots.', 'Dogs stay out.'];
  const put = (form: FormData, lines: readonly string[], name: string): void =>
    form.append('file', new Blob([lines.join('\n\n')]), name);
  const back = (fields: Record<string, string>, ...readers: (readonly string[])[]): FormData => {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.set(name, value);
    readers.forEach((lines, i) => put(form, lines, `${['ada', 'ben', 'cy'][i] ?? 'x'}.md`));
    return form;
  };
  const ADA = ['The gate is shut at ten.', 'Bring boots.', 'Dogs stay out.'];
  const BEN = ['The gate is shut at nine.', 'Bring warm boots.', 'Dogs stay out.'];
  const CY = ['The gate is shut at ten.', 'Bring warm boots.'];
  const now = async (): Promise<string> => {
    const { seq } = (await ines.get(document)).body;
    return ((await ines.get(`${document}/versions/@${seq}?format=text`)).body as string).trim();
  };

  beforeEach(async () => {
    const form = new FormData();
    put(form, BASE, 'guide.md');
    document = `/api/documents/${(await ines.post('/api/documents/import', form)).body.id}`;
  });

  it('are told passage by passage, the same change once with all who made it', async () => {
    const { status, body } = await ines.post(`${document}/returned`, back({ base: '@1' }, ADA, BEN, CY));
    expect(status).toBe(200);
    expect(body.readers.map(({ name }: { name: string }) => name)).toEqual(['ada', 'ben', 'cy']);
    expect(body.passages).toEqual([
      {
        id: 0,
        kind: 'text',
        base: 'noon',
        forms: [
          { text: 'ten', by: [0, 2] },
          { text: 'nine', by: [1] },
        ],
      },
      { id: 1, kind: 'text', base: '', forms: [{ text: 'warm ', by: [1, 2] }] },
      { id: 2, kind: 'blocks', base: 'Dogs stay out.', forms: [{ text: '', by: [2] }] },
    ]);
    expect(body.lines[0].pieces).toEqual([{ text: 'The gate is shut at ' }, { passage: 0 }, { text: '.' }]);
  });

  it('go on top as they were decided, and what was written since stays', async () => {
    const form = new FormData();
    put(form, ['A note first.', ...BASE], 'guide.md');
    await ines.post(`${document}/files`, form);
    const open = await ines.post(
      `${document}/returned/outcome`,
      back({ base: '@1', takes: '[]' }, ADA, BEN, CY),
    );
    expect(open.status).toBe(422);
    expect(open.body.errors[0].path).toBe('takes/0');
    const takes = JSON.stringify([
      [0, 1],
      [2, 'base'],
    ]);
    const outcome = await ines.post(
      `${document}/returned/outcome`,
      back({ base: '@1', takes, comment: 'What came back' }, ADA, BEN, CY),
    );
    expect(outcome.status).toBe(201);
    expect(outcome.body.version.comment).toBe('What came back');
    expect(await now()).toBe('A note first.\nThe gate is shut at nine.\nBring warm boots.\nDogs stay out.');
    const { events } = (await ines.get(`${document}/history`)).body;
    expect(events.at(-1).cause).toEqual({
      kind: 'filing',
      file: 'ada.md, ben.md, cy.md',
      format: 'markdown',
    });
  });

  it('go out as a redline in which each change names who proposed it', async () => {
    const takes = JSON.stringify([[0, 0]]);
    const response = await fetch(`http://127.0.0.1:${server.port}${document}/returned/file`, {
      method: 'POST',
      headers: { Cookie: ines.cookie },
      body: back({ base: '@1', takes, format: 'docx' }, ADA, BEN, CY),
    });
    expect(response.status).toBe(200);
    const { tracked } = readDocx(new Uint8Array(await response.arrayBuffer()));
    expect(tracked.map(({ kind, text, author }) => `${kind} ${text}: ${author}`)).toEqual([
      'deletion noon: ada, cy',
      'insertion ten: ada, cy',
      'insertion warm : ben, cy',
      'deletion Dogs stay out.: cy',
    ]);
  });

  it('are two at least and nine at most, name what cannot be read, and are nobody’s without rights', async () => {
    const one = await ines.post(`${document}/returned`, back({ base: '@1' }, ADA));
    expect([one.status, one.body.errors[0].message]).toEqual([422, 'needs 2 at least']);
    const many = back({ base: '@1' }, ...Array.from({ length: 10 }, () => ADA));
    expect((await ines.post(`${document}/returned`, many)).body.detail).toContain('Too many files');
    const broken = back({ base: '@1' }, ADA);
    put(broken, ['no archive'], 'broken.docx');
    const { status, body } = await ines.post(`${document}/returned`, broken);
    expect(status).toBe(422);
    expect(JSON.stringify(body)).toContain('broken.docx');
    const wrong = await ines.post(`${document}/returned/outcome`, back({ base: '@1', takes: '{' }, ADA, BEN));
    expect(wrong.status).toBe(400);
    expect((await ines.post(`${document}/returned`, back({ base: '@7' }, ADA, BEN))).status).toBe(404);
    expect((await jun.post(`${document}/returned`, back({ base: '@1' }, ADA, BEN))).status).toBe(404);
  });

  it('of sheets are told cell by cell, and go on top with rows and columns where each put them', async () => {
    const form = new FormData();
    form.append('file', new Blob(['Post,Spring\nRope,120\nPaint,60\nBoats,400']), 'budget.csv');
    document = `/api/documents/${(await ines.post('/api/documents/import', form)).body.id}`;
    const sent = await fetch(`http://127.0.0.1:${server.port}${document}/versions/@1?format=xlsx`, {
      headers: { Cookie: ines.cookie },
    });
    const bytes = await sent.arrayBuffer();
    const returned = async (fields: Record<string, string>): Promise<FormData> => {
      const form = new FormData();
      for (const [name, value] of Object.entries(fields)) form.set(name, value);
      const change = async (name: string, act: (sheet: ExcelJS.Worksheet) => void): Promise<void> => {
        const book = new ExcelJS.Workbook();
        await book.xlsx.load(bytes);
        act(book.worksheets[0] as ExcelJS.Worksheet);
        form.append('file', new Blob([await book.xlsx.writeBuffer()]), name);
      };
      await change('ada.xlsx', (sheet) => {
        sheet.getCell('B2').value = 150;
        sheet.spliceRows(3, 0, ['Sails', 90]);
      });
      await change('ben.xlsx', (sheet) => {
        sheet.getCell('B2').value = 160;
        sheet.getCell('B4').value = 410;
        sheet.getCell('C4').value = { formula: 'B4*2' };
      });
      return form;
    };
    const { status, body } = await ines.post(`${document}/returned`, await returned({ base: '@1' }));
    expect(status).toBe(200);
    const told = (body as Returned).lines.map(({ pieces }) => body.passages[pieces[0]?.passage ?? -1]);
    expect(
      told.map(({ where, base, forms }) => [where, base, ...forms.map(({ text }: { text: string }) => text)]),
    ).toEqual([
      ['B2 · Rope', '120', '150', '160'],
      ['Row 3 · Sails', '', 'Sails · 90'],
      ['B4 · Boats', '400', '410'],
      ['C4 · Boats', '', '=B4*2'],
    ]);
    const takes = JSON.stringify([[told[0]?.id, 1]]);
    const redline = await fetch(`http://127.0.0.1:${server.port}${document}/returned/file`, {
      method: 'POST',
      headers: { Cookie: ines.cookie },
      body: await returned({ base: '@1', takes, format: 'html' }),
    });
    const page = await redline.text();
    expect([redline.status, page.includes('160'), page.includes('ben')]).toEqual([200, true, true]);
    expect(
      (await ines.post(`${document}/returned/outcome`, await returned({ base: '@1', takes }))).status,
    ).toBe(201);
    const { seq } = (await ines.get(document)).body;
    expect(
      ((await ines.get(`${document}/versions/@${seq}?format=csv`)).body as string).trim().split(/\r?\n/),
    ).toEqual(['Post,Spring,', 'Rope,160,', 'Sails,90,', 'Paint,60,', 'Boats,410,820']);
    const mixed = await returned({ base: '@1' });
    put(mixed, ADA, 'ada.md');
    const refused = await ines.post(`${document}/returned`, mixed);
    expect([refused.status, refused.body.detail]).toEqual([
      422,
      'ada.md: This file holds text, and the document sheets.',
    ]);
  });
});
