import { TestBed } from '@angular/core/testing';
import { Store, provideState } from '@ngrx/store';
import { Router } from '@angular/router';
import { ShelfEvents, shelf } from '../documents/shelf.store';
import { summaryOf } from '../documents/testing';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { FirstVisit } from './first-visit';
import { Guide } from './guide';
import { GuideCard } from './guide-card';
import { QUESTIONS } from './questions';

describe('being shown round', () => {
  const me = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
  let went: unknown[];

  const open = async <T>(component: new () => T): Promise<Room<T>> => {
    went = [];
    const room = await Room.open(component, me, {}, { providers: [provideState(shelf)] });
    const documents = [summaryOf('rota', { version: 2 }), summaryOf('guide', { version: 9, role: 'editor' })];
    TestBed.inject(Store).dispatch(ShelfEvents.loaded({ documents, collections: [] }));
    spyOn(TestBed.inject(Router), 'navigate').and.callFake(async (...to: unknown[]) => went.push(to) > 0);
    await room.fixture.whenStable();
    return room;
  };

  it('is offered on a first visit, with the six questions, and not again once one has seen it', async () => {
    const room = await open(FirstVisit);
    for (const { question } of QUESTIONS) expect(room.text).toContain(question);
    await room.press('Not now; it is in Help');
    const sent = await room.answer('PUT', '/api/me/preferences', {
      ...me,
      preferences: { ...me.preferences, guided: true },
    });
    expect(sent).toEqual({ ...me.preferences, guided: true });
    expect(room.text.trim()).toBe('');
  });

  it('goes from question to question, each where it is answered, in the document with the most versions', async () => {
    const room = await open(GuideCard);
    const guide = TestBed.inject(Guide);
    guide.go(0);
    await room.fixture.whenStable();
    expect(room.text).toContain('1 of 6');
    await room.press('Next');
    await room.press('Next');
    await room.press('Back');
    for (let i = 1; i < QUESTIONS.length - 1; i++) await room.press('Next');
    expect(went).toEqual([
      [['/documents', 'guide'], { queryParams: { room: 'removed' } }],
      [['/documents', 'guide'], {}],
      [['/documents', 'guide'], { queryParams: { history: 'last' } }],
      [['/documents', 'guide'], {}],
      [['/documents', 'guide'], { queryParams: { history: 'last' } }],
      [['/documents', 'guide', 'landmarks', 'latest'], {}],
      [['/documents', 'guide'], { queryParams: { room: 'contributors' } }],
      [['/documents', 'guide'], {}],
    ]);
    await room.press('Done');
    await room.refuse('PUT', '/api/me/preferences', 503, { title: 'Away' });
    expect([guide.at(), room.text.trim()]).toEqual([null, '']);
  });
});
