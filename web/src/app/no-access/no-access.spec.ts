import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { Router, provideRouter } from '@angular/router';
import { provideState, provideStore } from '@ngrx/store';
import { Subject } from 'rxjs';
import { LiveChannel } from '../live/channel';
import { session } from '../session/session.store';
import { NoAccess } from './no-access';

describe('the page of a document that one does not have', () => {
  let fixture: ComponentFixture<NoAccess>;
  let http: HttpTestingController;
  const shelf = new Subject<{ document?: string }>();
  const text = (): string => (fixture.nativeElement as HTMLElement).textContent ?? '';
  const ask = async (): Promise<void> => {
    (fixture.nativeElement as HTMLElement).querySelector('button')?.click();
    await fixture.whenStable();
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
        { provide: LiveChannel, useValue: { on: () => shelf } },
      ],
    });
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(NoAccess);
    fixture.componentRef.setInput('id', 'guide');
    await fixture.whenStable();
  });

  it('asks its owners, says why it could not, and does not say whether there is one', async () => {
    await ask();
    http
      .expectOne({ method: 'POST', url: '/api/documents/guide/asking' })
      .flush({ title: 'Too many attempts', detail: 'Please wait.' }, { status: 429, statusText: 'No' });
    await fixture.whenStable();
    expect(text()).toContain('Too many attempts. Please wait.');
    await ask();
    http.expectOne({ method: 'POST', url: '/api/documents/guide/asking' }).flush(null);
    await fixture.whenStable();
    expect(text()).toContain('If there is such a document, its owners know');
  });

  it('opens the document as soon as one has it', () => {
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    shelf.next({ document: 'other' });
    expect(navigate).not.toHaveBeenCalled();
    shelf.next({ document: 'guide' });
    expect(navigate).toHaveBeenCalledOnceWith(['/documents', 'guide']);
  });
});
