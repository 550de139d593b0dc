import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Comparing } from './comparing';
import { lookAt } from './testing/look';

const look = lookAt('<p>a b</p><p>one</p><p>so it is</p>', '<p>c b</p><p>one two</p><p>so <i>it</i> is</p>');

describe('the comparison on a desk', () => {
  let comparing: Comparing;
  let http: HttpTestingController;

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        Comparing,
      ],
    });
    comparing = TestBed.inject(Comparing);
    http = TestBed.inject(HttpTestingController);
  });

  function answer(document = 'guide', other = document): void {
    http.expectOne(`/api/documents/${other}/versions/@1`).flush(look.earlier);
    http.expectOne(`/api/documents/${document}/versions/@2`).flush(look.later);
    http.expectOne(({ url }) => url === `/api/documents/${document}/compare`).flush(look.comparison);
  }

  it('opens at the first change and steps through those shown, beginning again at the ends', () => {
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: null });
    expect(comparing.looking()).toBe(true);
    answer();
    expect(comparing.looking()).toBe(false);
    expect([comparing.index(), comparing.shown().length]).toEqual([0, 3]);
    expect(comparing.step(1)).toBeNull();
    comparing.filter.update((filter) => ({ ...filter, hidden: new Set(['form'] as const) }));
    expect([comparing.index(), comparing.shown().length]).toEqual([0, 2]);
    expect(comparing.step(-1)).toContain('going on from the last');
    expect(comparing.index()).toBe(1);
    expect(comparing.step(1)).toContain('beginning again');
    expect(comparing.index()).toBe(0);
  });

  it('keeps the place when the later text stays, and goes to the first change when it does not', () => {
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: null });
    answer();
    expect(comparing.staying()).toBe(false);
    comparing.step(1);
    comparing.step(1);
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: 'rota' });
    answer('guide', 'rota');
    expect([comparing.staying(), comparing.index()]).toEqual([true, 2]);
    comparing.open({ document: 'other', earlier: 1, later: 2, other: null });
    http.expectOne('/api/documents/other/versions/@1').flush(look.earlier);
    http.expectOne('/api/documents/other/versions/@2').flush({ ...look.later, document: 'other' });
    http.expectOne(({ url }) => url === '/api/documents/other/compare').flush(look.comparison);
    expect([comparing.staying(), comparing.index()]).toEqual([false, 0]);
  });

  it('drops what was asked for before, and says why nothing is shown', () => {
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: null });
    const before = http.match(() => true);
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: 'rota' });
    expect(before.every(({ cancelled }) => cancelled)).toBe(true);
    answer('guide', 'rota');
    expect(comparing.look()?.file).toBeNull();
    comparing.open({ document: 'gone', earlier: 1, later: 2, other: null });
    const [first] = http.match(() => true);
    first?.flush({ title: 'There is no such document' }, { status: 404, statusText: 'Not Found' });
    expect(comparing.trouble()).toContain('no such document');
    expect(comparing.look()).toBeNull();
    comparing.open(null);
    expect(comparing.trouble()).toBe('');
  });
});
