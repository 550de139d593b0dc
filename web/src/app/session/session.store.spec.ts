import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router, provideRouter } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { Store, provideState, provideStore } from '@ngrx/store';
import { Subject } from 'rxjs';
import { Anew } from '../live/anew';
import { LiveChannel } from '../live/channel';
import { noticeEnded } from './ended';
import { SessionEvents, session, sessionEffects } from './session.store';
import { meOf } from './testing';

describe('a session', () => {
  let store: Store;
  let http: HttpTestingController;
  let went: jasmine.Spy;
  const hungUp = new Subject<void>();
  let reconnect: jasmine.Spy;
  let load: jasmine.Spy;
  const person = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
  const status = (): string => store.selectSignal(session.selectStatus)();
  const trouble = (): string => store.selectSignal(session.selectTrouble)();

  beforeEach(() => {
    reconnect = jasmine.createSpy('reconnect');
    load = jasmine.createSpy('load');
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(withInterceptors([noticeEnded])),
        provideHttpClientTesting(),
        provideRouter([]),
        provideStore(),
        provideState(session),
        provideEffects(sessionEffects),
        { provide: LiveChannel, useValue: { hungUp, reconnect } },
        { provide: Anew, useValue: { load } },
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

  it('is over where the live channel is hung up on and the server says so; else the line is opened again', () => {
    hungUp.next();
    http.expectOne('/api/session').flush(null, { status: 503, statusText: 'Away' });
    expect([status(), reconnect.calls.count()]).toEqual(['in', 1]);
    hungUp.next();
    http.expectOne('/api/session').flush(null, { status: 401, statusText: 'Unauthorized' });
    expect([status(), reconnect.calls.count()]).toEqual(['out', 1]);
  });

  it('begins with who was here when the server has trouble, and asks again where nobody is known', () => {
    jasmine.clock().install();
    try {
      const fail = (code: number): void => {
        const person = http.expectOne('/api/session');
        http.expectOne('/api/people');
        person.flush(null, { status: code, statusText: 'Trouble' });
      };
      store.dispatch(SessionEvents.appOpened());
      fail(500);
      expect(status()).toBe('in');
      localStorage.setItem('oxbow-signed-in', '{damaged');
      store.dispatch(SessionEvents.appOpened());
      fail(503);
      expect(trouble()).toContain('tried again');
      jasmine.clock().tick(700);
      fail(401);
      expect(status()).toBe('out');
    } finally {
      jasmine.clock().uninstall();
    }
  });

  it('says with each call whose it is, and loads anew where somebody else signed in in another tab', async () => {
    const other = new BroadcastChannel('oxbow-session');
    TestBed.inject(HttpClient)
      .get('/api/documents')
      .subscribe({ error: () => undefined });
    const call = http.expectOne('/api/documents');
    expect(call.request.headers.get('Oxbow-Person')).toBe('ines');
    call.flush(null, { status: 421, statusText: 'Misdirected' });
    expect(load).toHaveBeenCalledTimes(1);
    other.postMessage({ person: 'ines' });
    other.postMessage({ person: 'tobias' });
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(load).toHaveBeenCalledTimes(2);
    other.close();
  });

  it('goes on, and says so, where signing out fails', () => {
    store.dispatch(SessionEvents.signOutAsked());
    http.expectOne('/api/session').flush(null, { status: 503, statusText: 'Away' });
    expect(status()).toBe('in');
    expect(trouble()).not.toBe('');
  });
});
