import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { MATERIAL_ANIMATIONS } from '@angular/material/core';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { Router, provideRouter } from '@angular/router';
import type { Letter } from '@oxbow/contract';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { LiveChannel } from '../live/channel';
import { shelf, shelfEffects } from '../documents/shelf.store';
import { session } from '../session/session.store';
import { asked, pressed, until } from '../testing/until';
import { Comparer } from '../worker/comparer';
import { Arrivals } from './arrivals';
import { arrivalEffects, arrivals } from './arrivals.store';
import { Send } from './send';

const letter: Letter = {
  id: 'one',
  from: { name: 'Wilmot Strake', address: 'wilmot@slipway.example', person: null },
  to: [{ name: '', address: 'ines@withy.example', person: 'ines' }],
  subject: 'Re: Briefing',
  at: '2026-11-20T08:12:00.000Z',
  text: 'Our changes are tracked.',
  files: [
    { name: 'briefing.docx', bytes: 12_345, readable: true, filed: null },
    { name: 'map.pdf', bytes: 2_345_678, readable: false, filed: null },
  ],
};
const plain = { author: '', title: '', tracked: [], remarks: [], leftOut: [] };

describe('arrivals', () => {
  let fixture: ComponentFixture<Arrivals>;
  let http: HttpTestingController;
  let went: unknown[][];

  beforeEach(async () => {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        provideStore(),
        provideState(arrivals),
        provideState(session),
        provideState(shelf),
        provideEffects(arrivalEffects, shelfEffects),
        { provide: MATERIAL_ANIMATIONS, useValue: { animationsDisabled: true } },
        { provide: LiveChannel, useValue: {} },
        { provide: Comparer, useValue: { about: () => Promise.resolve(plain) } },
      ],
    });
    http = TestBed.inject(HttpTestingController);
    went = [];
    spyOn(TestBed.inject(Router), 'navigate').and.callFake((...args: unknown[]) => {
      went.push(args);
      return Promise.resolve(true);
    });
    fixture = TestBed.createComponent(Arrivals);
    await settled();
    http
      .match((request) => request.url.startsWith('/api/documents'))
      .forEach((call) => call.flush({ items: [], next: null }));
    http.match('/api/collections').forEach((call) => call.flush([]));
  });

  const settled = async (): Promise<void> => {
    await new Promise((done) => setTimeout(done, 30));
    fixture.detectChanges();
    await fixture.whenStable();
  };
  const room = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = async (name: string, where: () => ParentNode | null = room): Promise<void> => {
    await pressed(where, name);
    await settled();
  };
  const dialog = (name: string): HTMLElement | null => document.querySelector<HTMLElement>(name);
  const come = async (letters: Letter[]): Promise<void> => {
    http.match('/api/arrivals').forEach((call) => call.flush(letters));
    await settled();
  };

  it('says so when nothing waits, and why it cannot be told', async () => {
    await come([]);
    expect(room().textContent).toContain('Nothing waits here');
    await press('Look for new ones');
    http.expectOne('/api/arrivals').flush({ title: 'No' }, { status: 500, statusText: 'No' });
    await settled();
    expect(room().querySelector('[role=alert]')?.textContent).toContain('No');
  });

  it('leads a file to the document it reads like, to be compared first or filed by its sender', async () => {
    await come([letter]);
    expect(room().textContent).toContain('From Wilmot Strake');
    expect(room().textContent).toContain('Of a kind that cannot be imported');
    await press('Import …');
    (await asked(http, '/api/arrivals/one/files/0/like')).flush([
      { document: 'read', title: 'Only read', likeness: 0.9, mayWrite: false },
      { document: 'briefing', title: 'Briefing', likeness: 0.724, mayWrite: true },
    ]);
    await settled();
    expect(room().textContent).toContain('72 % alike');
    await press('Compare it first');
    expect(went).toEqual([[['/documents', 'briefing'], { queryParams: { arrival: 'one', file: 0 } }]]);
    await press('Import it as the next version …');
    (await asked(http, '/api/arrivals/one/files/0')).flush(new Blob(['x']));
    await settled();
    const filing = (): HTMLElement | null => dialog('ox-filing-dialog');
    await until(filing);
    expect(filing()?.querySelector('textarea')?.value).toBe('briefing.docx, as Wilmot Strake sent it');
    await press('Import it', filing);
    const call = await asked(http, '/api/arrivals/one/files/0/filing');
    expect(call.request.body).toEqual({
      document: 'briefing',
      comment: 'briefing.docx, as Wilmot Strake sent it',
      major: false,
    });
    call.flush({ document: 'briefing', seq: 9 });
    await settled();
    expect(went.at(-1)).toEqual([['/documents', 'briefing'], { queryParams: { earlier: 8, later: 9 } }]);
  });

  it('puts a message away', async () => {
    await come([letter]);
    await press('Dismiss');
    (await asked(http, '/api/arrivals/one')).flush(null);
    await come([]);
    expect(room().textContent).toContain('Nothing waits here');
  });

  it('sends a redline to addresses that are some, and says what was sent', async () => {
    const sent = TestBed.inject(Send).ask({
      document: 'briefing',
      title: 'Briefing',
      kind: 'text',
      what: 'version 2 to version 3',
      later: 30,
      earlier: 20,
    });
    const sending = (): HTMLElement | null => dialog('ox-sending');
    await until(sending);
    const to = sending()?.querySelector('input') as HTMLInputElement;
    const write = async (text: string): Promise<void> => {
      to.value = text;
      to.dispatchEvent(new Event('input'));
      await press('Send it', sending);
    };
    await write('');
    expect(sending()?.textContent).toContain('somebody to go to');
    await write('wilmot@slipway.example, harbour');
    expect(sending()?.textContent).toContain('“harbour” is no address');
    await write('wilmot@slipway.example; orla@saltings.example');
    const call = await asked(http, '/api/documents/briefing/post');
    expect(call.request.body).toEqual({
      to: ['wilmot@slipway.example', 'orla@saltings.example'],
      subject: 'Briefing, version 2 to version 3',
      text: '',
      format: 'docx',
      later: '@30',
      earlier: '@20',
    });
    call.flush({ ...letter, to: [{ name: '', address: 'wilmot@slipway.example', person: null }] });
    expect(await sent).toBe('Sent briefing.docx, map.pdf to wilmot@slipway.example.');
  });
});
