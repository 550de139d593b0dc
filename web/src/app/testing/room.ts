import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { EnvironmentProviders, Provider, Type } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { provideRouter } from '@angular/router';
import type { Me } from '@oxbow/contract';
import { Store, provideState, provideStore } from '@ngrx/store';
import { SessionEvents, session } from '../session/session.store';

/** A room on its own in a test: what it shows, its buttons, and the calls it makes. */
export class Room<T> {
  readonly http = TestBed.inject(HttpTestingController);

  private constructor(readonly fixture: ComponentFixture<T>) {}

  /** Opens a room for somebody who is signed in; `prepare` is done before. */
  static async open<T>(
    component: Type<T>,
    me: Me,
    inputs: Readonly<Record<string, unknown>> = {},
    {
      providers = [],
      prepare,
    }: { providers?: (Provider | EnvironmentProviders)[]; prepare?: () => void } = {},
  ): Promise<Room<T>> {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        provideStore(),
        provideState(session),
        ...providers,
      ],
    });
    if (prepare) TestBed.runInInjectionContext(prepare);
    TestBed.inject(Store).dispatch(SessionEvents.signInDone({ person: me, people: [me], then: null }));
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    return new Room(fixture);
  }

  get element(): HTMLElement {
    return this.fixture.nativeElement as HTMLElement;
  }

  get text(): string {
    return this.element.textContent ?? '';
  }

  /** Presses the button of a name. */
  async press(name: string): Promise<void> {
    const named = (one: HTMLButtonElement) => one.getAttribute('aria-label') ?? one.textContent?.trim();
    const button = [...this.element.querySelectorAll('button')].find((one) => named(one) === name);
    if (!button) throw new Error(`There is no button ${name}`);
    button.click();
    await this.settled();
  }

  /** Types into the field of a form control. */
  async type(control: string, value: string): Promise<void> {
    const field = this.element.querySelector<HTMLInputElement>(`[formcontrolname=${control}]`);
    if (!field) throw new Error(`There is no field ${control}`);
    field.value = value;
    field.dispatchEvent(new Event('input'));
    await this.fixture.whenStable();
  }

  /** Answers the one call that waits at an address; answers what it sent. */
  async answer(method: string, url: string, body: object | null): Promise<unknown> {
    const call = this.http.expectOne({ method, url });
    call.flush(body);
    await this.settled();
    return call.request.body;
  }

  /** Refuses the one call that waits at an address. */
  async refuse(method: string, url: string, status: number, problem: object): Promise<void> {
    this.http.expectOne({ method, url }).flush({ status, ...problem }, { status, statusText: 'No' });
    await this.settled();
  }

  /** Waits until what awaited an answer has gone on, and it is shown. */
  private async settled(): Promise<void> {
    await new Promise((done) => setTimeout(done));
    await this.fixture.whenStable();
  }
}
