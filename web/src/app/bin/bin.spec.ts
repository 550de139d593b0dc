import type { BinnedDocument } from '@oxbow/contract';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { Bin } from './bin';

const at = '2026-11-20T10:00:00.000Z';
const guide: BinnedDocument = { id: 'guide', title: 'Guide', binned: at, goes: { at, people: 2 } };

describe('the bin room', () => {
  let room: Room<Bin>;
  const me = meOf({ id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 });

  beforeEach(async () => {
    room = await Room.open(Bin, me);
    await room.answer('GET', '/api/bin', [guide]);
  });

  it('tells what is there, and puts it back', async () => {
    expect(room.text).toContain('Guide');
    await room.press('Put Guide back');
    await room.answer('POST', '/api/documents/guide/put-back', {});
    await room.answer('GET', '/api/bin', []);
    expect(room.text).toContain('“Guide” is back');
    expect(room.text).toContain('The bin is empty.');
  });

  it('deletes for good after a word about who loses it', async () => {
    await room.press('Delete Guide for good …');
    expect(room.text).toContain('2 other people had it.');
    await room.press('Cancel');
    expect(room.text).not.toContain('2 other people');
    await room.press('Delete Guide for good …');
    await room.press('Delete “Guide” for good');
    await room.refuse('DELETE', '/api/bin/guide', 404, { title: 'There is no such document in your bin' });
    expect(room.text).toContain('There is no such document in your bin');
    await room.press('Delete Guide for good …');
    await room.press('Delete “Guide” for good');
    await room.answer('DELETE', '/api/bin/guide', null);
    await room.answer('GET', '/api/bin', [{ ...guide, id: 'rota', title: 'Rota', goes: { at, people: 0 } }]);
    expect(room.text).toContain('“Guide” is deleted for good.');
    await room.press('Delete Rota for good …');
    expect(room.text).toContain('You had it alone.');
  });
});
