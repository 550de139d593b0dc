import type { Group, Member } from '@oxbow/contract';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { Groups } from './groups';

const member = (id: string, name: string): Member => ({
  ...{ id, name, initials: id.slice(0, 2), colour: 0, email: `${id}@withy.example` },
  ...{ admin: false, guest: false, disabled: false, seen: null },
});
const crew: Group = { id: 'crew', name: 'Boat crew', people: ['jun'] };

describe('the groups', () => {
  let room: Room<Groups>;

  beforeEach(async () => {
    const me = meOf({ id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }, { admin: true });
    const people = [member('jun', 'Jun Asari'), member('petru', 'Petru Dalca')];
    room = await Room.open(Groups, me, { people });
    await room.answer('GET', '/api/groups', [crew]);
  });

  it('tells who is in them, and deletes one after a question', async () => {
    expect(room.text).toContain('Boat crew');
    expect(room.text).toContain('Jun Asari');
    await room.press('Delete the group Boat crew …');
    expect(room.text).toContain('shared with its people no more');
    await room.press('Delete Boat crew');
    await room.answer('DELETE', '/api/groups/crew', null);
    await room.answer('GET', '/api/groups', []);
    expect(room.text).toContain('Boat crew is no group any more.');
  });

  it('makes one, says at the field what is wrong with its name, and keeps what was typed', async () => {
    await room.press('New group');
    await room.press('Keep the group');
    expect(room.text).toContain('Please give it a name');
    await room.type('name', 'boat crew');
    await room.press('Keep the group');
    await room.refuse('POST', '/api/groups', 422, {
      errors: [{ path: 'name', message: 'is of another group already' }],
    });
    expect(room.text).toContain('This is of another group already');
    await room.press('Keep the group');
    expect(await room.answer('POST', '/api/groups', crew)).toEqual({ name: 'boat crew', people: [] });
  });

  it('changes who is in one', async () => {
    await room.press('Change the group Boat crew');
    await room.press('Keep the group');
    expect(await room.answer('PATCH', '/api/groups/crew', crew)).toEqual({
      name: 'Boat crew',
      people: ['jun'],
    });
    await room.answer('GET', '/api/groups', [crew]);
    expect(room.text).toContain('Boat crew is kept.');
  });
});
