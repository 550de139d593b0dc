import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router, provideRouter } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { Store, provideState, provideStore } from '@ngrx/store';
import { Subject } from 'rxjs';
import { LiveChannel } from '../live/channel';
import { noticeEnded } from './ended';
import { SessionEvents, session, sessionEffects } from './session.store';
import { meOf } from './testing';

describe('a session', () => {
  let store: Store;
  let http: HttpTestingController;
  let went: jasmine.Spy;
  const hungUp = new Subject<void>();
  const person = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
  const status = (): string => store.selectSignal(session.selectStatus)();
  const trouble = (): string => store.selectSignal(session.selectTrouble)();

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(withInterceptors([noticeEnded])),
        provideHttpClientTesting(),
        provideRouter([]),
        provideStore(),
        provideState(session),
        provideEffects(sessionEffects),
        { provide: LiveChannel, useValue: { hungUp } },
      ],
    });
    store = TestBed.inject(Store);
    http = TestBed.inject(HttpTestingController);
    went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    store.dispatch(SessionEvents.signInDone({ person, people: [person], then: null }));
  });

  it('that ran out asks to sign in again, and leads back to where one was', () => {
    TestBed.inject(HttpClient)
      .get('/api/documents')
      .subscribe({ error: () => undefined });
    http.expectOne('/api/documents').flush(null, { status: 401, statusText: 'Unauthorized' });
    expect(status()).toBe('out');
    expect(trouble()).toContain('kept on this device');
    expect(went).toHaveBeenCalledOnceWith(['/sign-in'], { queryParams: { then: '/' } });
  });

  it('is over where the live channel is hung up on', () => {
    hungUp.next();
    expect(status()).toBe('out');
  });

  it('goes on, and says so, where signing out fails', () => {
    store.dispatch(SessionEvents.signOutAsked());
    http.expectOne('/api/session').flush(null, { status: 503, statusText: 'Away' });
    expect(status()).toBe('in');
    expect(trouble()).not.toBe('');
  });
});
