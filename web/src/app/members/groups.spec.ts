import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import type { Group, Member } from '@oxbow/contract';
import { Groups } from './groups';

const member = (id: string, name: string): Member => ({
  ...{ id, name, initials: id.slice(0, 2), colour: 0, email: `${id}@withy.example` },
  ...{ admin: false, guest: false, disabled: false, seen: null },
});
const crew: Group = { id: 'crew', name: 'Boat crew', people: ['jun'] };

describe('the groups', () => {
  let fixture: ComponentFixture<Groups>;
  let http: HttpTestingController;
  const element = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = async (name: string): Promise<void> => {
    const buttons = [...element().querySelectorAll('button')];
    const button = buttons.find(
      (one) => (one.getAttribute('aria-label') ?? one.textContent?.trim()) === name,
    );
    if (!button) throw new Error(`There is no button ${name}`);
    button.click();
    await fixture.whenStable();
  };
  const answer = async (method: string, url: string, body: object | null): Promise<unknown> => {
    const call = http.expectOne({ method, url });
    call.flush(body);
    await fixture.whenStable();
    return call.request.body;
  };

  beforeEach(async () => {
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideHttpClient(), provideHttpClientTesting()],
    });
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(Groups);
    fixture.componentRef.setInput('people', [member('jun', 'Jun Asari'), member('petru', 'Petru Dalca')]);
    await fixture.whenStable();
    await answer('GET', '/api/groups', [crew]);
  });

  it('tells who is in them, and deletes one after a question', async () => {
    expect(element().textContent).toContain('Boat crew');
    expect(element().textContent).toContain('Jun Asari');
    await press('Delete the group Boat crew …');
    expect(element().textContent).toContain('shared with its people no more');
    await press('Delete Boat crew');
    await answer('DELETE', '/api/groups/crew', null);
    await answer('GET', '/api/groups', []);
    expect(element().textContent).toContain('Boat crew is no group any more.');
  });

  it('makes one, says at the field what is wrong with its name, and keeps what was typed', async () => {
    await press('New group');
    await press('Keep the group');
    expect(element().textContent).toContain('Please give it a name');
    const field = element().querySelector<HTMLInputElement>('[formcontrolname=name]');
    if (!field) throw new Error('There is no field');
    field.value = 'boat crew';
    field.dispatchEvent(new Event('input'));
    await press('Keep the group');
    http
      .expectOne({ method: 'POST', url: '/api/groups' })
      .flush(
        { title: 'No', status: 422, errors: [{ path: 'name', message: 'is of another group already' }] },
        { status: 422, statusText: 'No' },
      );
    await fixture.whenStable();
    expect(element().textContent).toContain('This is of another group already');
    expect(field.value).toBe('boat crew');
  });

  it('changes who is in one', async () => {
    await press('Change the group Boat crew');
    await press('Keep the group');
    expect(await answer('PATCH', '/api/groups/crew', crew)).toEqual({ name: 'Boat crew', people: ['jun'] });
    await answer('GET', '/api/groups', [crew]);
    expect(element().textContent).toContain('Boat crew is kept.');
  });
});
