import type { Certificate, DocumentSummary, ErasurePreview, KeptBy, Me, RulePreview } from '@oxbow/contract';
import { KEEP_EVERYTHING } from '@oxbow/contract';
import { provideState } from '@ngrx/store';
import { shelf } from '../documents/shelf.store';
import { summaryOf } from '../documents/testing';
import { Room } from '../testing/room';
import { Keeping } from './keeping';
import { extentSaid, placesSaid, ruleSaid } from './words';

const me: Me = {
  id: 'ines',
  name: 'Ines Okell',
  initials: 'IO',
  colour: 0,
  admin: true,
  guest: false,
  preferences: {},
} as unknown as Me;
const nobodySaid: KeptBy = {
  rule: KEEP_EVERYTHING,
  from: 'nobody',
  by: null,
  at: null,
  maySet: true,
  waits: false,
  mayAgree: false,
};
const counts = {
  letters: 27,
  images: 0,
  edits: 3,
  versions: 2,
  numbers: [2, 3],
  now: true,
  asks: false,
} as const;
const preview: ErasurePreview = {
  id: 'found',
  texts: ['GB29 NWBK'],
  documents: [{ document: 'stores', title: 'Stores', by: 'origin', ...counts, numbers: [2, 3] }],
  places: [{ place: 'comment', times: 2 }],
  sent: 1,
  needsSecond: false,
};
const certificate: Certificate = {
  id: 'gone',
  state: 'done',
  by: 'ines',
  agreed: null,
  reason: 'Not ours',
  at: '2026-11-20T10:00:00.000Z',
  done: '2026-11-20T10:00:03.000Z',
  seq: 9,
  documents: preview.documents,
  places: preview.places,
  sent: 1,
  checked: { at: '2026-11-20T10:00:03.000Z', rows: 40, files: 2, found: 0, archives: true },
  mayAgree: false,
  texts: [],
  askedOf: [],
};

describe('the keeping room', () => {
  async function open(
    document: Partial<DocumentSummary>,
    erasures: Certificate[] = [],
    inputs = {},
  ): Promise<Room<Keeping>> {
    const room = await Room.open(
      Keeping,
      me,
      { id: 'stores', kind: 'documents', ...inputs },
      { providers: [provideState(shelf)] },
    );
    await room.answer('GET', '/api/documents/stores/rule', nobodySaid);
    await room.answer('GET', '/api/documents/stores', summaryOf('stores', { title: 'Stores', ...document }));
    await room.answer('GET', '/api/documents/stores/thinnings', []);
    await room.answer('GET', '/api/documents/stores/erasures', erasures);
    if ((document.role ?? 'owner') === 'owner')
      await room.answer('GET', '/api/documents/stores/discards', []);
    return room;
  }
  async function loadAgain(room: Room<Keeping>, erasures: Certificate[] = []): Promise<void> {
    await room.answer('GET', '/api/documents/stores/rule', nobodySaid);
    await room.answer('GET', '/api/documents/stores', summaryOf('stores'));
    await room.answer('GET', '/api/documents/stores/thinnings', []);
    await room.answer('GET', '/api/documents/stores/erasures', erasures);
    await room.answer('GET', '/api/documents/stores/discards', []);
  }

  it('tells everybody how it is kept and what was erased, and owners alone what they may do', async () => {
    const room = await open({ role: 'viewer' }, [certificate]);
    expect(room.text).toContain('Every version is kept; versions are made at pauses');
    expect(room.text).toContain('Ines Okell erased');
    expect(room.text).toContain('found nowhere');
    expect(room.text).toContain('keeps a log of its own writes');
    expect(room.text).toContain('1 message with it had gone out');
    expect(room.text).not.toContain('Discarded versions');
    expect(room.text).not.toContain('Erase something …');
  });

  it('shows everything that holds what is to be erased, and wants to know why', async () => {
    const room = await open({});
    await room.press('Erase something …');
    await room.press('See everything that holds it');
    expect(room.text).toContain('Please give at least 4 letters');
    await room.type('find', 'GB29 NWBK');
    await room.press('See everything that holds it');
    expect(await room.answer('POST', '/api/documents/stores/erasures/preview', preview)).toEqual({
      find: 'GB29 NWBK',
    });
    for (const said of [
      '27 letters, in versions 2, 3',
      '2 comments',
      '1 message with it went out',
      'What stays',
    ])
      expect(room.text).toContain(said);
    await room.press('Erase it for good');
    expect(room.text).toContain('Please say why, without saying what it was');
    const why = room.element.querySelector<HTMLInputElement>('.preview input') as HTMLInputElement;
    why.value = 'Not ours';
    why.dispatchEvent(new Event('input'));
    await room.press('Erase it for good');
    const sent = await room.answer('POST', '/api/documents/stores/erasures', certificate);
    expect(sent).toEqual({ preview: 'found', reason: 'Not ours' });
    await loadAgain(room, [certificate]);
    expect(room.text).toContain('It is being erased.');
  });

  it('begins with the passage, the version or the words that the address names', async () => {
    const room = await open({}, [], { passage: '7.3.12' });
    await room.fixture.whenStable();
    const asked = await room.answer('POST', '/api/documents/stores/erasures/preview', preview);
    expect(asked).toEqual({ passage: { moment: 7, from: 3, to: 12 } });
  });

  it('shows what would go under a rule before it is set, and what is wrong at the field', async () => {
    const room = await open({});
    await room.press('Change the rule …');
    room.element.querySelectorAll<HTMLInputElement>('input[type=radio]')[1]?.click();
    await room.fixture.whenStable();
    await room.type('last', '1');
    await room.press('See what would go');
    expect(room.text).toContain('Please give a whole number, 2 to 50000');
    await room.type('last', '5');
    await room.press('See what would go');
    const going: RulePreview = {
      documents: [
        {
          document: 'stores',
          title: 'Stores',
          versions: 9,
          go: [{ number: 2, label: '0.2', at: '2026-11-01T10:00:00.000Z', gist: 'Pay became paid' }],
          letters: 40,
        },
      ],
    };
    const rule = { ...KEEP_EVERYTHING, keep: 'last', last: 5 };
    expect(await room.answer('POST', '/api/documents/stores/rule/preview', going)).toEqual({ rule });
    expect(room.text).toContain('1 version would go');
    expect(room.text).toContain('Pay became paid');
    await room.press('Set this rule');
    expect(await room.answer('PUT', '/api/documents/stores/rule', { ...nobodySaid, rule })).toEqual({ rule });
    await loadAgain(room);
    expect(room.text).toContain('What goes by it goes within the hour.');
  });

  it('lets a second owner agree, or decline', async () => {
    const asked: Certificate = {
      ...certificate,
      state: 'asked',
      by: 'tobias',
      done: null,
      checked: null,
      mayAgree: true,
      texts: ['Gate code 4711'],
    };
    const room = await open({}, [asked]);
    expect(room.text).toContain('Gate code 4711');
    await room.press('Decline');
    expect(await room.answer('POST', '/api/documents/stores/erasures/gone/answer', asked)).toEqual({
      agree: false,
    });
    await loadAgain(room, [{ ...asked, state: 'declined', mayAgree: false }]);
    expect(room.text).toContain('You declined: nothing is erased.');
  });

  it('speaks plainly', () => {
    expect(
      ruleSaid({
        ...KEEP_EVERYTHING,
        keep: 'thinned',
        days: 30,
        each: 'week',
        cut: 'asked',
        numbers: 'major',
        checkOut: true,
      }),
    ).toBe(
      'All versions are kept for 30 days, then one a week; versions are made only when somebody asks; numbered 1, 2, 3; and it is checked out to be written in',
    );
    expect(ruleSaid({ ...KEEP_EVERYTHING, keep: 'last', last: 7 })).toContain('The last 7 versions are kept');
    expect(
      placesSaid([
        { place: 'title', times: 1 },
        { place: 'notice', times: 3 },
      ]),
    ).toBe('a title, 3 notices');
    const extent = {
      document: 'stores',
      title: '',
      asks: false,
      by: 'origin',
      edits: 1,
      now: false,
    } as const;
    expect(extentSaid({ ...extent, letters: 0, images: 1, versions: 1, numbers: [4] })).toBe(
      '1 image, in version 4',
    );
    expect(extentSaid({ ...extent, letters: 1, images: 0, versions: 0, numbers: [] })).toBe(
      '1 letter, in moments between versions only',
    );
    expect(
      extentSaid({
        ...extent,
        letters: 9,
        images: 2,
        versions: 40,
        numbers: Array.from({ length: 40 }, (_, i) => i),
      }),
    ).toBe('9 letters and 2 images, in 40 versions');
  });
});
