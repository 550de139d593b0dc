import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { provideRouter } from '@angular/router';
import type { Sharing as Told } from '@oxbow/contract';
import { Store, provideState, provideStore } from '@ngrx/store';
import { SessionEvents, session } from '../session/session.store';
import { Sharing } from './sharing';
import { endOfDay, eventSaid, historyName } from './words';

const at = '2026-11-20T10:00:00.000Z';
const owner = {
  person: 'ines',
  role: 'owner',
  history: 'all',
  since: null,
  until: null,
  sent: null,
} as const;
const editor = { person: 'jun', role: 'editor', history: 'since', since: at, until: null, sent: at } as const;
const pending = {
  email: 'noor@else.example',
  role: 'viewer',
  history: 'all',
  since: null,
  until: null,
  sent: at,
} as const;
const event = {
  at,
  by: 'ines',
  kind: 'shared',
  person: 'jun',
  email: '',
  role: 'editor',
  history: 'since',
  until: null,
} as const;
const told: Told = { shares: [owner, editor], invited: [pending], events: [event] };

describe('the sharing room', () => {
  let fixture: ComponentFixture<Sharing>;
  let http: HttpTestingController;
  const text = (): string => (fixture.nativeElement as HTMLElement).textContent ?? '';
  const press = async (name: string): Promise<void> => {
    const named = (one: HTMLButtonElement) => one.getAttribute('aria-label') ?? one.textContent?.trim();
    const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    const button = buttons.find((one) => named(one) === name);
    if (!button) throw new Error(`There is no button ${name}`);
    button.click();
    await fixture.whenStable();
  };
  const answer = async (method: string, url: string, body: object | null): Promise<void> => {
    http.expectOne({ method, url }).flush(body);
    await fixture.whenStable();
  };
  const reload = async (now: Told): Promise<void> => {
    http.expectOne('/api/documents/guide').flush({ title: 'Guide' });
    await answer('GET', '/api/documents/guide/sharing', now);
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
    const person = (id: string, name: string) => ({ id, name, initials: id.slice(0, 2), colour: 0 });
    const people = [person('ines', 'Ines Okell'), person('jun', 'Jun Asari')];
    const me = { ...person('ines', 'Ines Okell'), admin: false, guest: false };
    TestBed.inject(Store).dispatch(SessionEvents.signInDone({ person: me, people, then: null }));
    fixture = TestBed.createComponent(Sharing);
    fixture.componentRef.setInput('id', 'guide');
    await fixture.whenStable();
    await reload(told);
  });

  it('tells who has a document and how, who is invited, and what happened', () => {
    expect(text()).toContain('Sharing “Guide”');
    expect(text()).toContain('Jun Asari');
    expect(text()).toContain('sees its history from');
    expect(text()).toContain('noor@else.example');
    expect(text()).toContain('Ines Okell shared it with Jun Asari, as editor, from that day on');
  });

  it('shares it by address, and says at the field what is wrong', async () => {
    await press('Share');
    expect(text()).toContain('give a whole address');
    const field = (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>(
      '[formcontrolname=email]',
    );
    if (!field) throw new Error('There is no field');
    field.value = 'ada@else.example';
    field.dispatchEvent(new Event('input'));
    await press('Share');
    const asked = http.expectOne({ method: 'POST', url: '/api/documents/guide/shares' });
    expect(asked.request.body).toEqual({
      email: 'ada@else.example',
      role: 'editor',
      history: 'all',
      until: null,
    });
    asked.flush(
      { title: 'No', status: 422, errors: [{ path: 'email', message: 'is not taken' }] },
      { status: 422, statusText: 'No' },
    );
    await fixture.whenStable();
    expect(text()).toContain('This is not taken');
    await press('Share');
    const ada = { ...pending, email: 'ada@else.example' };
    await answer('POST', '/api/documents/guide/shares', { ...told, invited: [ada] });
    expect(text()).toContain('ada@else.example is nobody here yet');
    expect(field.value).toBe('');
  });

  it('changes how somebody has it, writes again, and stops sharing after a question', async () => {
    await press('Change how Jun Asari has it');
    await press('Change');
    await answer('PUT', '/api/documents/guide/shares/jun', editor);
    await reload(told);
    expect(text()).toContain('Jun Asari has it as editor now.');
    await press('Write to Jun Asari again');
    await answer('POST', '/api/documents/guide/shares/send', told);
    expect(text()).toContain('Jun Asari was written to again.');
    await press('Stop sharing it with Jun Asari …');
    expect(text()).toContain('Jun Asari loses it at once.');
    await press('Stop sharing it with Jun Asari');
    await answer('DELETE', '/api/documents/guide/shares/jun', null);
    await reload({ ...told, shares: [owner] });
    expect(text()).toContain('It is not shared with Jun Asari any more.');
    await press('Stop sharing with everybody …');
    await press('Stop sharing it with everybody');
    await answer('DELETE', '/api/documents/guide/shares', null);
    await reload({ ...told, shares: [owner], invited: [] });
    expect(text()).toContain('Only its owners have it now.');
  });

  it('says days and events in words', () => {
    const end = new Date(endOfDay(new Date(2026, 11, 24)) ?? 0);
    expect([end.getDate(), end.getHours(), end.getMinutes()]).toEqual([24, 23, 59]);
    expect(endOfDay(null)).toBeNull();
    expect(historyName('none', null)).toContain('only as it is now');
    const name = (id: string): string => id;
    const said = (kind: Told['events'][number]['kind']): string => eventSaid({ ...event, kind }, name);
    expect([said('changed'), said('ended'), said('sent')]).toEqual([
      'let jun have it as editor, from that day on',
      'stopped sharing it with jun',
      'wrote to jun about it again',
    ]);
    expect(eventSaid({ ...event, kind: 'joined', email: 'a@b.example' }, name)).toBe(
      'came, invited as a@b.example',
    );
  });
});
