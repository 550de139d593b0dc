import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { Claims } from '@oxbow/contract';
import { defer, of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { people } from '../reading/testing/look';
import { Claimed } from './claimed';

const claim = {
  person: 'c1',
  name: 'Wilmot Strake',
  address: 'wilmot@slipway.example',
  like: null,
  vouched: null,
};

describe('whom files and messages name', () => {
  let page: HTMLElement;
  let renamed = 0;

  async function show(api: object): Promise<ComponentFixture<Claimed>> {
    renamed = 0;
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Api, useValue: api },
        { provide: Store, useValue: { dispatch: () => renamed++ } },
      ],
    });
    const fixture = TestBed.createComponent(Claimed);
    fixture.componentRef.setInput('document', 'guide');
    fixture.componentRef.setInput('people', people);
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
    return fixture;
  }
  const press = async (fixture: ComponentFixture<Claimed>): Promise<void> => {
    page.querySelector('button')?.click();
    await fixture.whenStable();
  };

  it('is told to everybody, and an owner can vouch for them', async () => {
    let vouched: Claims['items'][number]['vouched'] = null;
    const said: unknown[][] = [];
    const fixture = await show({
      claims: () => defer(() => of({ items: [{ ...claim, vouched }], mayVouch: true })),
      vouch: (...given: unknown[]) => {
        said.push(given);
        vouched = { by: 'ines', at: '2026-04-14T09:00:00Z' };
        return of(undefined);
      },
    });
    expect(page.textContent).toContain('Nothing here proves');
    expect(page.querySelector('button')?.textContent).toContain('Vouch for Wilmot Strake');
    await press(fixture);
    expect([said, renamed]).toEqual([[['guide', 'c1']], 1]);
    expect(page.textContent).toContain('vouched for Wilmot Strake');
    expect(page.textContent).not.toContain('Nothing here proves');
    expect(page.querySelector('button')).toBeNull();
  });

  it('names who it would be here, says what went wrong, and asks nobody who may not', async () => {
    const items = [{ ...claim, like: 'tobias' }];
    const fixture = await show({
      claims: () => of({ items, mayVouch: true }),
      vouch: () => throwError(() => new Error('no')),
    });
    expect(page.querySelector('button')?.textContent).toContain('this is Tobias Rahn');
    await press(fixture);
    expect(page.querySelector('[role="alert"]')?.textContent?.trim().length).toBeGreaterThan(0);
    expect(page.querySelector('button')?.disabled).toBe(false);
    TestBed.resetTestingModule();
    await show({ claims: () => of({ items, mayVouch: false }) });
    expect(page.textContent).toContain('wilmot@slipway.example');
    expect(page.querySelector('button')).toBeNull();
    TestBed.resetTestingModule();
    await show({ claims: () => of({ items: [], mayVouch: true }) });
    expect(page.textContent?.trim()).toBe('');
  });
});
