import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { provideRouter } from '@angular/router';
import { provideState, provideStore } from '@ngrx/store';
import { session } from '../session/session.store';
import { Account } from './account';
import { browserOf } from './browser';

const CHROMIUM =
  'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Safari/537.36';
const FIREFOX = 'Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0';

describe('one’s account', () => {
  let fixture: ComponentFixture<Account>;
  let http: HttpTestingController;
  const at = '2026-11-20T10:00:00.000Z';
  const places = [
    { id: 'here', begun: at, seen: at, agent: CHROMIUM, current: true },
    { id: 'there', begun: at, seen: at, agent: FIREFOX, current: false },
    { id: 'elsewhere', begun: at, seen: at, agent: '', current: false },
  ];
  const text = (): string => (fixture.nativeElement as HTMLElement).textContent ?? '';
  const press = async (name: string): Promise<void> => {
    const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    const named = (one: HTMLButtonElement) => one.getAttribute('aria-label') ?? one.textContent?.trim();
    buttons.find((one) => named(one) === name)?.click();
    await fixture.whenStable();
  };
  const type = (current: string, password: string): void => {
    const [one, other] = [...(fixture.nativeElement as HTMLElement).querySelectorAll('input')];
    for (const [input, value] of [
      [one, current],
      [other, password],
    ] as const) {
      if (!input) continue;
      input.value = value;
      input.dispatchEvent(new Event('input'));
    }
  };

  beforeEach(async () => {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        provideStore(),
        provideState(session),
      ],
    });
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(Account);
    http.expectOne('/api/me/sessions').flush(places);
    await fixture.whenStable();
  });

  it('says where one is signed in, in words', () => {
    expect(text()).toContain('Chrome on Linux');
    expect(text()).toContain('Firefox on Windows');
    expect(browserOf('')).toBe('An unknown browser');
  });

  it('signs out in one place, then everywhere else', async () => {
    await press('Sign out of Firefox on Windows');
    http.expectOne({ method: 'DELETE', url: '/api/me/sessions/there' }).flush(null);
    await fixture.whenStable();
    expect(text()).not.toContain('Firefox');
    await press('Sign out everywhere else');
    http.expectOne({ method: 'DELETE', url: '/api/me/sessions' }).flush(null);
    await fixture.whenStable();
    expect(text()).toContain('Nowhere else.');
  });

  it('says at the field what is wrong with a password, and keeps what was typed', async () => {
    await press('Change password');
    http.expectNone('/api/me/password');
    type('tidemill', 'password');
    await press('Change password');
    http
      .expectOne('/api/me/password')
      .flush(
        { title: 'No', status: 422, errors: [{ path: 'password', message: 'is too easily guessed.' }] },
        { status: 422, statusText: 'No' },
      );
    await fixture.whenStable();
    expect(text()).toContain('This is too easily guessed.');
    expect((fixture.nativeElement as HTMLElement).querySelector('input')?.value).toBe('tidemill');
    await press('Change password');
    http.expectOne('/api/me/password').flush(null, { status: 503, statusText: 'Away' });
    await fixture.whenStable();
    type('tidemill', 'quorum ladle sphinx tug');
    await press('Change password');
    http.expectOne('/api/me/password').flush(null);
    http.expectOne('/api/me/sessions').flush(places.slice(0, 1));
    await fixture.whenStable();
    expect(text()).toContain('Your password is changed');
    expect(text()).toContain('Nowhere else.');
  });

  it('says so where the server cannot be reached', async () => {
    type('tidemill', 'quorum ladle sphinx tug');
    await press('Change password');
    http.expectOne('/api/me/password').error(new ProgressEvent('error'));
    await fixture.whenStable();
    expect(text()).toContain('cannot be reached');
  });
});
