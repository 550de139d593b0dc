import type { HistoryReach, Holder, ReadingLink, Role, Sharing as Told } from '@oxbow/contract';
import { Sharing } from './sharing';
import { endOfDay, eventSaid, historyName } from './words';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';

const at = '2026-11-20T10:00:00.000Z';
const has = (kind: Holder['kind'], id: string, name: string, role: Role, history: HistoryReach = 'all') => ({
  holder: { kind, id, name },
  through: null,
  role,
  history,
  since: history === 'since' ? at : null,
  until: null,
  sent: kind === 'everybody' ? null : at,
});
const owner = has('person', 'ines', 'Ines Okell', 'owner');
const editor = has('person', 'jun', 'Jun Asari', 'editor', 'since');
const pending = has('invited', 'noor@else.example', 'noor@else.example', 'viewer');
const event = {
  at,
  by: 'ines',
  kind: 'shared',
  holder: editor.holder,
  email: '',
  role: 'editor',
  history: 'since',
  until: null,
} as const;
const told: Told = {
  name: 'Guide',
  shares: [owner, editor, pending],
  having: [],
  events: [event],
};

describe('the sharing room', () => {
  let room: Room<Sharing>;
  const reload = (now: Told): Promise<unknown> => room.answer('GET', '/api/documents/guide/sharing', now);
  const link: ReadingLink = {
    ...{ id: 'l1', address: 'https://oxbow.example/read/abc', shows: 'now', password: true, until: null },
    ...{ frames: ['https://withymill.example'], at, by: 'ines', visits: 3, visited: at, ended: null },
  };
  const links = (now: ReadingLink[]): Promise<unknown> =>
    room.answer('GET', '/api/documents/guide/links', now);

  beforeEach(async () => {
    const person = (id: string, name: string) => ({ id, name, initials: id.slice(0, 2), colour: 0 });
    const me = meOf(person('ines', 'Ines Okell'));
    room = await Room.open(Sharing, me, { id: 'guide', kind: 'documents' });
    await reload(told);
    await links([]);
  });

  it('tells who has a document and how, who is invited, and what happened', () => {
    expect(room.text).toContain('Sharing “Guide”');
    expect(room.text).toContain('Jun Asari');
    expect(room.text).toContain('sees its history from');
    expect(room.text).toContain('noor@else.example');
    expect(room.text).toContain('Ines Okell shared it with Jun Asari, as editor, from that day on');
  });

  it('shares it by address, and says at the field what is wrong', async () => {
    await room.press('Share');
    expect(room.text).toContain('give a whole address');
    const field = room.element.querySelector<HTMLInputElement>('[formcontrolname=email]');
    if (!field) throw new Error('There is no field');
    field.value = 'ada@else.example';
    field.dispatchEvent(new Event('input'));
    await room.press('Share');
    const asked = room.http.expectOne({ method: 'POST', url: '/api/documents/guide/shares' });
    expect(asked.request.body).toEqual({
      email: 'ada@else.example',
      role: 'editor',
      history: 'all',
      until: null,
    });
    asked.flush(
      { title: 'No', status: 422, errors: [{ path: 'email', message: 'is not taken' }] },
      { status: 422, statusText: 'No' },
    );
    await room.fixture.whenStable();
    expect(room.text).toContain('This is not taken');
    await room.press('Share');
    const ada = has('invited', 'ada@else.example', 'ada@else.example', 'editor');
    await room.answer('POST', '/api/documents/guide/shares', { ...told, shares: [owner, ada] });
    expect(room.text).toContain('ada@else.example is nobody here yet');
    expect(field.value).toBe('');
  });

  it('changes how somebody has it, writes again, and stops sharing after a question', async () => {
    await room.press('Change how Jun Asari has it');
    await room.press('Change');
    await room.answer('PUT', '/api/documents/guide/shares/jun', editor);
    await reload(told);
    expect(room.text).toContain('Jun Asari has it as editor now.');
    await room.press('Write to Jun Asari again');
    await room.answer('POST', '/api/documents/guide/shares/jun/send', told);
    await reload(told);
    expect(room.text).toContain('Jun Asari was written to again.');
    await room.press('Stop sharing it with Jun Asari …');
    expect(room.text).toContain('They lose it at once');
    await room.press('Stop sharing it with Jun Asari');
    await room.answer('DELETE', '/api/documents/guide/shares/jun', null);
    await reload({ ...told, shares: [owner, pending] });
    expect(room.text).toContain('It is not shared with Jun Asari any more.');
    await room.press('Stop sharing with everybody …');
    await room.press('Stop sharing it with everybody');
    await room.answer('DELETE', '/api/documents/guide/shares', null);
    await reload({ ...told, shares: [owner] });
    expect(room.text).toContain('Only its owners have it now.');
  });

  it('says who has it through a group or a collection, and which share counts', async () => {
    const person = { id: 'tobias', name: 'Tobias Rahn', initials: 'TR', colour: 1 };
    const crew = has('group', 'crew', 'Boat crew', 'editor');
    const through = { id: 'visitors', name: 'Visitors' };
    await room.press('Write to Jun Asari again');
    await room.answer('POST', '/api/documents/guide/shares/jun/send', told);
    await reload({
      ...told,
      shares: [owner, { ...crew, through }, has('everybody', 'everybody', 'Everybody here', 'viewer')],
      having: [{ ...crew, person, through }],
    });
    expect(room.text).toContain('Tobias Rahn');
    expect(room.text).toContain('as one of Boat crew, through the collection Visitors');
    expect(room.text).toContain('the nearest counts');
    const buttons = [...room.element.querySelectorAll('button')];
    const names = buttons.map((one) => one.getAttribute('aria-label') ?? '');
    expect(names).not.toContain('Change how Boat crew has it');
    expect(names).not.toContain('Write to Everybody here again');
  });

  it('makes a reading link, says what it shows and how often, and ends it after a question', async () => {
    await room.press('Make a reading link …');
    await room.press('Make the link');
    const asked = room.http.expectOne({ method: 'POST', url: '/api/documents/guide/links' });
    expect(asked.request.body).toEqual({ shows: 'now', until: null, frames: [] });
    asked.flush(link);
    await room.fixture.whenStable();
    await reload(told);
    await links([link]);
    expect(room.text).toContain('https://oxbow.example/read/abc');
    expect(room.text).toContain('for whoever knows the password');
    expect(room.text).toContain('visited 3 times');
    await room.press('End the link …');
    await room.press('End the reading link');
    await room.answer('DELETE', '/api/documents/guide/links/l1', null);
    await reload(told);
    await links([{ ...link, ended: at, address: '' }]);
    expect(room.text).toContain('There is none.');
  });

  it('takes for a frame only addresses of sites', async () => {
    await room.press('Make a reading link …');
    const field = room.element.querySelector<HTMLInputElement>('[formcontrolname=frames]');
    if (!field) throw new Error('There is no field');
    field.value = 'withymill';
    field.dispatchEvent(new Event('input'));
    await room.press('Make the link');
    expect(room.text).toContain('addresses that begin with https://');
    field.value = 'https://withymill.example/visit, http://localhost:8080';
    field.dispatchEvent(new Event('input'));
    await room.press('Make the link');
    const asked = room.http.expectOne({ method: 'POST', url: '/api/documents/guide/links' });
    expect((asked.request.body as { frames: string[] }).frames).toEqual([
      'https://withymill.example',
      'http://localhost:8080',
    ]);
  });

  it('says days and events in words', () => {
    const end = new Date(endOfDay(new Date(2026, 11, 24)) ?? 0);
    expect([end.getDate(), end.getHours(), end.getMinutes()]).toEqual([24, 23, 59]);
    expect(endOfDay(null)).toBeNull();
    expect(historyName('none', null)).toContain('only as it is now');
    const said = (kind: Told['events'][number]['kind']): string => eventSaid({ ...event, kind });
    expect([said('changed'), said('ended'), said('sent')]).toEqual([
      'let Jun Asari have it as editor, from that day on',
      'stopped sharing it with Jun Asari',
      'wrote to Jun Asari about it again',
    ]);
    expect(eventSaid({ ...event, kind: 'linked', holder: null })).toBe('made a reading link');
    expect(eventSaid({ ...event, kind: 'joined', email: 'a@b.example' })).toBe(
      'came, invited as a@b.example',
    );
  });
});
