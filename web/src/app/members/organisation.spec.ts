import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { Organisation } from './organisation';

describe('the settings of the organisation', () => {
  const settings = {
    name: 'The trust',
    invites: 'admins',
    guests: 'everybody',
    binDays: 30,
    secondOwner: false,
  };

  it('are changed by a form that says what is wrong with it', async () => {
    const me = meOf({ id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }, { admin: true });
    const room = await Room.open(Organisation, me);
    await room.answer('GET', '/api/settings', settings);
    await room.type('binDays', '0');
    await room.press('Keep these settings');
    expect(room.text).toContain('whole number of days');
    await room.type('binDays', '7');
    await room.press('Keep these settings');
    const sent = await room.answer('PATCH', '/api/settings', { ...settings, binDays: 7 });
    expect(sent).toEqual({ ...settings, binDays: 7 });
    expect(room.text).toContain('These settings are kept.');
  });
});
