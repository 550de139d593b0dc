import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { Holding } from '../session/holding';
import { session } from '../session/session.store';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { OwnProfile } from './own-profile';
import { Preferences } from './preferences';

const ines = { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 };
const preferences = { mail: 'none', holdBack: true, theme: 'dark', keys: false } as const;
const me = (): unknown => TestBed.inject(Store).selectSignal(session.selectPerson)();

describe('settings of one’s own', () => {
  afterEach(() => localStorage.clear());

  it('begin as they are, are kept, and hold at once', async () => {
    const room = await Room.open(Preferences, meOf(ines, { preferences }));
    const holding = TestBed.inject(Holding);
    TestBed.tick();
    expect(holding.inNewOnes()).toBeTrue();
    await room.press('Keep these settings');
    const changed = meOf(ines);
    expect(await room.answer('PUT', '/api/me/preferences', changed)).toEqual(preferences);
    expect(room.text).toContain('Your settings are kept.');
    expect(me()).toEqual(changed);
    TestBed.tick();
    expect(holding.inNewOnes()).toBeFalse();
  });

  it('say why they were not kept, and keep what was chosen', async () => {
    const room = await Room.open(Preferences, meOf(ines, { preferences }));
    await room.press('Keep these settings');
    await room.refuse('PUT', '/api/me/preferences', 500, { title: 'Something went wrong' });
    expect(room.text).toContain('Something went wrong');
    await room.press('Keep these settings');
    expect(await room.answer('PUT', '/api/me/preferences', meOf(ines))).toEqual(preferences);
  });

  it('change how others see one, and do not ask for a password', async () => {
    const room = await Room.open(OwnProfile, meOf(ines));
    expect(room.element.querySelector('[type=password]')).toBeNull();
    await room.type('name', 'Ines of the mill');
    await room.press('Change how others see you');
    const named = { name: 'Ines of the mill', initials: 'IO', colour: 0 };
    expect(await room.answer('PATCH', '/api/me', meOf({ ...ines, ...named }))).toEqual(named);
    const people = TestBed.inject(Store).selectSignal(session.selectPeopleById)();
    expect(people.get('ines')?.name).toBe('Ines of the mill');
    await room.type('name', '');
    await room.press('Change how others see you');
    expect(room.text).toContain('Please give your name');
  });
});
