import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { EditorState, TextSelection } from 'prosemirror-state';
import { CellSelection } from 'prosemirror-tables';
import { EditorView } from 'prosemirror-view';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { pastClip, presentClip, sourcesOf } from '../document/clip';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import { pickedOf } from './past-page';
import { placeKey, placePlugin } from './place-mark';
import { PutBack } from './put-back';

const read = (html: string) => readHtml(html, NO_IMAGES);

describe('what is taken to be put elsewhere', () => {
  it('names the past it comes from, or the instances that fill it now', () => {
    const doc = read('<p>the old wheel</p>');
    const put = EditorState.create({ doc: read('<p>x</p>') }).tr.insertText('old', 1);
    expect(sourcesOf(put.steps, pastClip(doc, 7, [{ from: 5, to: 8 }]))).toEqual([
      { step: 0, at: 0, length: 3, moment: 7, position: 5 },
    ]);
    const instances = [
      { seq: 3, offset: 2, length: 1, from: 5 },
      { seq: 4, offset: 0, length: 2, from: 6 },
    ];
    expect(sourcesOf(put.steps, presentClip(doc, 5, 8, instances, 0))).toEqual([
      { step: 0, at: 0, length: 1, seq: 3, offset: 2 },
      { step: 0, at: 1, length: 2, seq: 4, offset: 0 },
    ]);
  });

  it('names nothing when something else was put in', () => {
    const put = EditorState.create({ doc: read('<p>x</p>') }).tr.insertText('new', 1);
    expect(sourcesOf(put.steps, pastClip(read('<p>the old wheel</p>'), 7, [{ from: 5, to: 8 }]))).toEqual([]);
  });
});

describe('what is picked on a past page', () => {
  const doc = read('<table><tr><td>a</td><td>b</td></tr><tr><td>c</td><td>d</td></tr></table><p>end</p>');
  const cellAt = (text: string): number => {
    let at = -1;
    doc.descendants((node, position) => {
      if (node.type.name === 'table_cell' && node.textContent === text) at = position;
    });
    return at;
  };

  it('is rows whole, a cell by what is in it, other cells one by one, and text as it is', () => {
    const row = CellSelection.create(doc, cellAt('c'), cellAt('d'));
    expect(pickedOf(row)).toEqual([{ from: cellAt('c') - 1, to: cellAt('d') + 6 }]);
    const one = CellSelection.create(doc, cellAt('c'), cellAt('c'));
    expect(pickedOf(one)).toEqual([{ from: cellAt('c') + 1, to: cellAt('c') + 4 }]);
    const column = CellSelection.create(doc, cellAt('a'), cellAt('c'));
    expect(pickedOf(column).map(({ from }) => from)).toEqual([cellAt('a'), cellAt('c')]);
    const end = doc.content.size;
    expect(pickedOf(TextSelection.create(doc, end - 4, end - 1)).map(({ from, to }) => [from, to])).toEqual([
      [end - 4, end - 1],
    ]);
    expect(pickedOf(TextSelection.create(doc, end - 1))).toEqual([]);
  });
});

describe('the mark where something would go', () => {
  it('stands between letters, between blocks, and as a row of a table, and goes again', () => {
    const doc = read('<p>one</p><table><tr><td>a</td><td>b</td></tr></table>');
    const view = new EditorView(document.createElement('div'), {
      state: EditorState.create({ doc, plugins: [placePlugin()] }),
    });
    const show = (mark: unknown): HTMLElement | null => {
      view.dispatch(view.state.tr.setMeta(placeKey, mark));
      return view.dom.querySelector<HTMLElement>('.place-mark');
    };
    expect(show({ from: 2, to: 2, says: 'here: two' })?.tagName).toBe('SPAN');
    expect(show({ from: 0, to: 0, says: 'here: two' })?.tagName).toBe('DIV');
    const row = show({ from: 6, to: 6, says: 'here: two' });
    expect([row?.tagName, row?.textContent, row?.querySelector('td')?.colSpan]).toEqual([
      'TR',
      'here: two',
      2,
    ]);
    expect(show({ from: 1, to: 3, says: '' })).toBeNull();
    expect(view.dom.querySelector('.stands-here')?.textContent).toBe('on');
    expect(show(null)).toBeNull();
    view.destroy();
  });
});

describe('putting a removed passage back', () => {
  const content = read('<p>the heron stands</p>').toJSON() as unknown;
  let said: { text: string; run?: () => void }[];
  let carried: unknown[][];
  let takes: (() => void) | null;

  function back(api: Record<string, unknown>): PutBack {
    said = [];
    carried = [];
    const live = {
      here: (at: number) => at + 1,
      acts: {
        carry: (...given: unknown[]) => {
          carried.push(given);
          return takes;
        },
      },
    };
    const words = { say: (text: string, act?: { run: () => void }) => said.push({ text, run: act?.run }) };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        PutBack,
        { provide: Api, useValue: api },
        { provide: LiveDocument, useValue: live },
        { provide: Words, useValue: words },
      ],
    });
    return TestBed.inject(PutBack);
  }
  const api = {
    moment: () => of({ content }),
    whereabouts: () => of({ seq: 9, kind: 'gone', from: 4, to: 4 }),
  };

  it('carries it to where the page has its place now, and offers to take it out again', async () => {
    let undone = 0;
    takes = () => void undone++;
    expect(await back(api).passage('guide', 7, 1, 5)).toBe(true);
    const [past, place] = carried[0] ?? [];
    expect(past).toEqual(jasmine.objectContaining({ moment: 7, what: [{ from: 1, to: 5 }] }));
    expect(place).toEqual({ from: 5, to: 5 });
    said[0]?.run?.();
    expect(undone).toBe(1);
  });

  it('says so when nothing can stand there, or the server is away', async () => {
    takes = null;
    expect(await back(api).passage('guide', 7, 1, 5)).toBe(false);
    expect(said[0]?.text).toContain('Nothing can stand');
    TestBed.resetTestingModule();
    const away = { ...api, moment: () => throwError(() => new Error('The server is away')) };
    expect(await back(away).passage('guide', 7, 1, 5)).toBe(false);
    expect(said[0]?.text).toBe('The server is away');
  });
});
