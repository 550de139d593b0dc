import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { provideRouter } from '@angular/router';
import { Store, provideState, provideStore } from '@ngrx/store';
import { Members } from '../members/members';
import { SessionEvents, session } from '../session/session.store';
import { Forgotten } from './forgotten';
import { Join } from './join';
import { initialsOf } from './profile';
import { Reset } from './reset';
import { Welcome } from './welcome';
import { meOf } from '../session/testing';

describe('moving in', () => {
  let http: HttpTestingController;
  let page: HTMLElement;
  let fixture: ComponentFixture<unknown>;
  let dispatched: jasmine.Spy;
  const me = meOf({ id: 'noor', name: 'Noor Vane', initials: 'NV', colour: 2 });

  beforeEach(() => {
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
    dispatched = spyOn(TestBed.inject(Store), 'dispatch');
  });

  async function show(component: new () => unknown, inputs: Record<string, unknown> = {}): Promise<void> {
    fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  }
  const showMembers = (): Promise<void> => {
    const person = meOf({ id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }, { admin: true });
    dispatched.and.callThrough();
    TestBed.inject(Store).dispatch(SessionEvents.signInDone({ person, people: [], then: null }));
    return show(Members);
  };
  /** Types into the field of a form control by its name. */
  const type = (control: string, value: string): void => {
    const field = page.querySelector<HTMLInputElement>(`[formcontrolname="${control}"]`);
    if (!field) throw new Error(`There is no field ${control}`);
    field.value = value;
    field.dispatchEvent(new Event('input'));
  };
  const submit = async (): Promise<void> => {
    page.querySelector('form')?.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
  };
  const press = async (name: string): Promise<void> => {
    const named = (one: HTMLButtonElement) => one.getAttribute('aria-label') ?? one.textContent?.trim();
    const button = [...page.querySelectorAll('button')].find((one) => named(one) === name);
    if (!button) throw new Error(`There is no button ${name}`);
    button.click();
    await fixture.whenStable();
  };
  const wrong = (path: string, message: string) => ({
    title: 'No',
    status: 422,
    errors: [{ path, message }],
  });
  const UNFIT = { status: 422, statusText: 'No' };

  it('begins with the organisation, its code and its first administrator', async () => {
    await show(Welcome);
    await submit();
    expect(page.textContent).toContain('Please give the code');
    http.expectNone('/api/organisation');
    for (const [control, value] of [
      ['code', 'AAAA-BBBB-CCCC'],
      ['organisation', 'The Reed Press'],
      ['email', 'noor@reed.example'],
      ['name', 'Noor van der Vane'],
      ['password', 'quorum ladle sphinx tug'],
    ] as const)
      type(control, value);
    await submit();
    const asked = http.expectOne('/api/organisation');
    expect(asked.request.body).toEqual(jasmine.objectContaining({ initials: 'NV', colour: 0 }));
    asked.flush(wrong('code', 'is not the one'), UNFIT);
    await fixture.whenStable();
    expect(page.textContent).toContain('This is not the one');
    await submit();
    http.expectOne('/api/organisation').flush(wrong('password', 'is too easily guessed.'), UNFIT);
    await fixture.whenStable();
    expect(page.textContent).toContain('This is too easily guessed.');
    await submit();
    http.expectOne('/api/organisation').flush({ ...me, admin: true });
    expect(dispatched).toHaveBeenCalledWith(
      SessionEvents.cameIn({ person: { ...me, admin: true }, then: '/' }),
    );
  });

  it('makes initials of a name', () => {
    expect(['Noor', 'Noor Vane', ' Åsa  van der Bøe ', ''].map(initialsOf)).toEqual(['N', 'NV', 'ÅB', '']);
  });

  it('takes an invitation, or says that it does not hold', async () => {
    await show(Join, { token: 'abc' });
    http
      .expectOne('/api/join/abc')
      .flush({ organisation: 'The Reed Press', email: 'noor@reed.example', by: 'Ruth' });
    await fixture.whenStable();
    expect(page.textContent).toContain('Ruth invites you, noor@reed.example');
    type('name', 'Noor Vane');
    type('password', 'quorum ladle sphinx tug');
    await submit();
    http.expectOne('/api/join/abc').flush(me);
    expect(dispatched).toHaveBeenCalledWith(SessionEvents.cameIn({ person: me, then: '/' }));

    await show(Join, { token: 'old' });
    http
      .expectOne('/api/join/old')
      .flush({ title: 'This link does not hold', status: 410 }, { status: 410, statusText: 'Gone' });
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')?.textContent).toContain('This link does not hold');
    expect(page.querySelector('form')).toBeNull();
  });

  it('sends a link to a new password, and sets one by it', async () => {
    await show(Forgotten);
    type('email', 'noor@reed.example');
    await submit();
    http.expectOne('/api/forgotten').flush(null);
    await fixture.whenStable();
    expect(page.querySelector('[role=status]')?.textContent).toContain('If somebody here has the address');

    await show(Reset, { token: 'abc' });
    type('password', 'noor');
    await submit();
    http.expectOne('/api/reset/abc').flush(wrong('password', 'must have at least 8 characters'), UNFIT);
    await fixture.whenStable();
    expect(page.textContent).toContain('This must have at least 8 characters');
    await submit();
    http.expectOne('/api/reset/abc').flush(null);
    await fixture.whenStable();
    expect(page.querySelector('[role=status]')?.textContent).toContain('Your password is changed');
  });

  it('lets administrators invite people, and let them in and out after a question', async () => {
    await showMembers();
    const until = '2026-12-10T10:00:00.000Z';
    const invitation = { id: 'i1', email: 'jo@reed.example', by: null, at: until, until, guest: false };
    const member = { ...me, email: 'noor@reed.example', disabled: false, seen: null };
    http.expectOne('/api/members').flush({ people: [member], invitations: [invitation] });
    await fixture.whenStable();
    expect(page.textContent).toContain('jo@reed.example');
    type('email', 'noor@reed.example');
    await submit();
    http.expectOne('/api/people').flush(wrong('email', 'is somebody’s who is here already'), UNFIT);
    await fixture.whenStable();
    expect(page.textContent).toContain('This is somebody’s who is here already');
    await press('Disable Noor Vane …');
    expect(page.textContent).toContain('Their work and its credit stay.');
    await press('Disable Noor Vane');
    http.expectOne('/api/members/noor').flush({ ...member, disabled: true });
    await fixture.whenStable();
    expect(page.textContent).toContain('Noor Vane may not sign in any more.');
    await press('Let Noor Vane in again');
    http.expectOne('/api/members/noor').flush(member);
    await fixture.whenStable();
    await press('Withdraw the invitation to jo@reed.example');
    http.expectOne('/api/invitations/i1').flush(null);
    http.expectOne('/api/members').flush({ people: [member], invitations: [] });
    await fixture.whenStable();
    expect(page.textContent).not.toContain('jo@reed.example is invited');
  });

  it('says so where it cannot be reached', async () => {
    await showMembers();
    http.expectOne('/api/members').error(new ProgressEvent('error'));
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')?.textContent).toBeDefined();
    expect(page.textContent).toContain('cannot be reached');
  });
});
