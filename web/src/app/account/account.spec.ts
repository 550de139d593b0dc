import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { Account } from './account';
import { browserOf } from './browser';

const CHROMIUM =
  'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Safari/537.36';
const FIREFOX = 'Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0';

describe('one’s account', () => {
  let room: Room<Account>;
  const at = '2026-11-20T10:00:00.000Z';
  const places = [
    { id: 'here', begun: at, seen: at, agent: CHROMIUM, current: true },
    { id: 'there', begun: at, seen: at, agent: FIREFOX, current: false },
    { id: 'elsewhere', begun: at, seen: at, agent: '', current: false },
  ];
  const type = async (current: string, password: string): Promise<void> => {
    await room.type('current', current);
    await room.type('password', password);
  };

  beforeEach(async () => {
    room = await Room.open(Account, meOf({ id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }));
    await room.answer('GET', '/api/me/sessions', places);
  });

  it('says where one is signed in, in words', () => {
    expect(room.text).toContain('Chrome on Linux');
    expect(room.text).toContain('Firefox on Windows');
    expect(browserOf('')).toBe('An unknown browser');
  });

  it('signs out in one place, then everywhere else', async () => {
    await room.press('Sign out of Firefox on Windows');
    await room.answer('DELETE', '/api/me/sessions/there', null);
    expect(room.text).not.toContain('Firefox');
    await room.press('Sign out everywhere else');
    await room.answer('DELETE', '/api/me/sessions', null);
    expect(room.text).toContain('Nowhere else.');
  });

  it('says at the field what is wrong with a password, and keeps what was typed', async () => {
    await room.press('Change password');
    room.http.expectNone('/api/me/password');
    await type('tidemill', 'password');
    await room.press('Change password');
    const errors = [{ path: 'password', message: 'is too easily guessed.' }];
    await room.refuse('PUT', '/api/me/password', 422, { title: 'No', errors });
    expect(room.text).toContain('This is too easily guessed.');
    const current = room.element.querySelector<HTMLInputElement>('[formcontrolname=current]');
    expect(current?.value).toBe('tidemill');
    await room.press('Change password');
    await room.refuse('PUT', '/api/me/password', 503, { title: 'Away' });
    await type('tidemill', 'quorum ladle sphinx tug');
    await room.press('Change password');
    await room.answer('PUT', '/api/me/password', null);
    await room.answer('GET', '/api/me/sessions', places.slice(0, 1));
    expect(room.text).toContain('Your password is changed');
    expect(room.text).toContain('Nowhere else.');
  });

  it('says so where the server cannot be reached', async () => {
    await type('tidemill', 'quorum ladle sphinx tug');
    await room.press('Change password');
    room.http.expectOne('/api/me/password').error(new ProgressEvent('error'));
    await room.fixture.whenStable();
    expect(room.text).toContain('cannot be reached');
  });
});
