import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { provideRouter } from '@angular/router';
import { provideState, provideStore } from '@ngrx/store';
import { SignIn } from './sign-in';
import { session } from './session.store';

describe('signing in', () => {
  it('says at the field what is missing, and lists nobody outside the demo', async () => {
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
    const fixture = TestBed.createComponent(SignIn);
    TestBed.inject(HttpTestingController)
      .expectOne('/api/session/people')
      .flush(null, { status: 404, statusText: 'Not Found' });
    TestBed.inject(HttpTestingController).expectOne('/api/organisation').flush({ name: 'The Reed Press' });
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.textContent).not.toContain('Sign in as');
    page.querySelector('form')?.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
    expect(page.textContent).toContain('Please give your whole address');
    expect(page.textContent).toContain('Please give your password');
  });
});
