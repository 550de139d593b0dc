import {
  Component,
  EnvironmentInjector,
  createEnvironmentInjector,
  provideZonelessChangeDetection,
  runInInjectionContext,
} from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store, provideState, provideStore } from '@ngrx/store';
import { SessionEvents, session } from '../session/session.store';
import { meOf } from '../session/testing';
import { Acting } from './acting';
import { ACTS, keysTold } from './acts';

@Component({ selector: 'ox-nothing', template: '' })
class Nothing {}

describe('acts', () => {
  let acting: Acting;
  let done: string[];

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideStore(), provideState(session)],
    });
    acting = TestBed.inject(Acting);
    done = [];
    TestBed.createComponent(Nothing);
  });

  /** Offers as somebody who can go away again. */
  function offering(offer: () => void): { leave: () => void } {
    const injector = createEnvironmentInjector([], TestBed.inject(EnvironmentInjector));
    runInInjectionContext(injector, offer);
    return { leave: () => injector.destroy() };
  }
  const press = (
    key: string,
    more: KeyboardEventInit = {},
    target: EventTarget = document.body,
  ): KeyboardEvent => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
    Object.defineProperty(event, 'target', { value: target });
    acting.key(event);
    return event;
  };
  const note = (what: string) => (): void => void done.push(what);

  it('have one label each, and no two that can be done at once have the same key', () => {
    const keys = Object.values(ACTS).flatMap((act) => act.keys ?? []);
    expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual(['escape']);
    for (const { label, about } of Object.values(ACTS)) expect([label, about]).not.toContain('');
  });

  it('are done by their keys while they are offered and can be done', () => {
    let can = true;
    const { leave } = offering(() => acting.offer({ compare: note('compare') }, () => can));
    expect(press('c').defaultPrevented).toBeTrue();
    press('C');
    expect(acting.can('compare')).toBeTrue();
    can = false;
    press('c');
    expect(acting.can('compare')).toBeFalse();
    can = true;
    leave();
    expect(acting.can('compare')).toBeFalse();
    expect(press('c').defaultPrevented).toBeFalse();
    expect(done).toEqual(['compare', 'compare']);
    acting.do('compare');
    expect(done.length).toBe(2);
  });

  it('are not done while one types, but for those with Alt or Ctrl', () => {
    offering(() =>
      acting.offer({ compare: note('compare'), ledger: note('ledger'), commands: note('commands') }),
    );
    const field = document.createElement('input');
    press('c', {}, field);
    press('w', { altKey: true }, field);
    press('/', { ctrlKey: true }, field);
    press('/', { metaKey: true });
    press('c', { ctrlKey: true });
    expect(done).toEqual(['ledger', 'commands', 'commands']);
  });

  it('are not done by single letters for whoever does not want that', () => {
    const ines = { id: 'ines', name: 'Ines', initials: 'IN', colour: 0 };
    const person = meOf(ines, {
      preferences: { mail: 'none', holdBack: false, theme: 'system', keys: false },
    });
    TestBed.inject(Store).dispatch(SessionEvents.signInDone({ person, people: [], then: null }));
    offering(() => acting.offer({ compare: note('compare'), help: note('help'), backToNow: note('now') }));
    press('c');
    press('?', { shiftKey: true });
    press('Escape');
    expect(done).toEqual(['now']);
  });

  it('of two who offer the same are those of the later one; what can be found goes with whoever finds it', () => {
    offering(() => acting.offer({ compare: note('first') }));
    const second = offering(() => {
      acting.offer({ compare: note('second') });
      acting.offerFinding((typed) => [{ label: typed, about: '', run: note(typed) }]);
    });
    acting.do('compare');
    expect(acting.find('mill').map(({ label }) => label)).toEqual(['mill']);
    second.leave();
    acting.do('compare');
    expect(acting.find('mill')).toEqual([]);
    expect(done).toEqual(['second', 'first']);
  });

  it('tell their keys as they stand on the keyboard', () => {
    expect([
      keysTold('mod+/', false),
      keysTold('mod+/', true),
      keysTold('alt+w', false),
      keysTold('escape'),
    ]).toEqual(['Ctrl+/', '⌘+/', 'Alt+W', 'Esc']);
  });
});
