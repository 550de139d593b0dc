import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { EditsMessage, WireEdit } from '@oxbow/contract';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { Store } from '@ngrx/store';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { LiveChannel } from './channel';
import { Drafts, wordsOf } from './drafts';
import { Holding } from '../session/holding';
import type { Kept } from './kept';
import { Outbox } from './outbox';
import { rebased } from './rebasing';

const insert = (at: number, text: string) => ({
  stepType: 'replace',
  from: at,
  to: at,
  slice: { content: [{ type: 'text', text }] },
});
const message = (document: string, ...steps: object[]): EditsMessage => ({
  document,
  client: 'gone-window',
  base: 2,
  edits: steps.map((step, i) => ({
    counter: i + 1,
    steps: [step] as EditsMessage['edits'][number]['steps'],
    sources: [],
    writtenAt: 1,
    cause: { kind: 'writing' },
  })),
});
const draft = (standing: Kept['standing'], at: number): Kept => ({
  client: `${standing}-window`,
  person: 'ines',
  message: message('guide', insert(5, ' table')),
  standing,
  title: 'Guide',
  at,
});

describe('work that did not reach the server', () => {
  let boxes: Kept[];
  let claimed: string[];
  let sent: EditsMessage[];
  let drafts: Drafts;
  const texts: Record<number, string> = { 2: '<p>tide</p>', 3: '<p>The tide</p>' };

  beforeEach(() => {
    boxes = [];
    claimed = [];
    sent = [];
    const edit = { seq: 3, client: 'other', counter: 1, steps: [insert(1, 'The ')], sources: [] };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        {
          provide: Api,
          useValue: {
            moment: (_id: string, seq: number) =>
              of({ seq, content: readHtml(texts[seq] ?? '', NO_IMAGES).toJSON() as unknown }),
            edits: () => of([edit as unknown as WireEdit]),
            copyMoment: (...given: unknown[]) => of({ id: 'copy', seq: 1, title: given[2] }),
          },
        },
        { provide: LiveChannel, useValue: { send: async (given: EditsMessage) => sent.push(given) } },
        {
          provide: Outbox,
          useValue: {
            stranded: async () => boxes,
            claim: async (client: string) => (claimed.push(client) > 0 ? () => undefined : null),
            clear: async (client: string) => void (boxes = boxes.filter((box) => box.client !== client)),
            keep: async (kept: Kept) => void boxes.push(kept),
          },
        },
      ],
    });
    drafts = TestBed.inject(Drafts);
  });

  it('goes on by itself when it was just being sent, held back here, or checked out; else it is asked about', async () => {
    const goesOn = async (standing: Kept['standing'], age: number, holding: boolean): Promise<boolean> => {
      boxes = [draft(standing, Date.now() - age)];
      return (await drafts.own('ines', 'guide', holding)) !== null;
    };
    expect(await goesOn('sending', 1000, false)).toBe(true);
    expect(await goesOn('away', 3600_000, false)).toBe(false);
    expect(await goesOn('held', 3600_000, true)).toBe(true);
    expect(await goesOn('held', 1000, false)).toBe(false);
    expect(await goesOn('out', 3600_000, false)).toBe(true);
    expect(await goesOn('ended', 1000, true)).toBe(false);
    expect(claimed).toEqual(['sending-window', 'held-window', 'out-window']);
  });

  it('is carried over what was written since', async () => {
    const { seq, now, drafted, edits } = await rebased(TestBed.inject(Api), draft('away', 1), 3);
    expect([seq, now.textContent, drafted.textContent]).toEqual([3, 'The tide', 'The tide table']);
    expect(edits.length).toBe(1);
  });

  it('becomes a document of its own from where it was written, or is discarded and brought back', async () => {
    const one = draft('away', 1);
    boxes = [one];
    expect((await drafts.aside(one, 'Guide, a draft')).title).toBe('Guide, a draft');
    expect(sent[0]).toEqual(jasmine.objectContaining({ document: 'copy', base: 1 }));
    expect(boxes).toEqual([]);
    await drafts.bringBack(one);
    await drafts.discard(one);
    expect(boxes).toEqual([]);
  });

  it('says how much it is', () => {
    const size = wordsOf({
      message: message('guide', insert(1, 'two words'), { stepType: 'replace', from: 1, to: 4 }),
    });
    expect(size).toEqual({ brings: 'two words', removes: 3 });
    const paragraph = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
    const blocks = {
      stepType: 'replace',
      from: 0,
      to: 0,
      slice: { content: [paragraph('one'), paragraph('two')] },
    };
    expect(wordsOf({ message: message('guide', insert(1, 'zero'), blocks) }).brings).toBe('zero\none\ntwo');
  });
});

describe('holding back', () => {
  afterEach(() => localStorage.clear());

  it('is remembered for a document and a person, and for documents made from now on', () => {
    const person = signal({ id: 'ines' });
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Store, useValue: { selectSignal: () => person } },
      ],
    });
    const holding = TestBed.inject(Holding);
    expect(holding.in('guide')).toBe(false);
    holding.choose('guide', true);
    holding.chooseForNewOnes(true);
    expect([holding.in('guide'), holding.in('rota'), holding.inNewOnes()]).toEqual([true, false, true]);
    expect([holding.in('rota', Date.now() + 10), holding.in('rota', 1)]).toEqual([true, false]);
    holding.choose('guide', false);
    expect(holding.in('guide', Date.now() + 10)).toBe(false);
    person.set({ id: 'tobias' });
    expect(holding.inNewOnes()).toBe(false);
  });
});
