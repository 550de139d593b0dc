import { provideZonelessChangeDetection, resource, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { lasting } from './lasting';

describe('what a resource last gave', () => {
  it('stays while newer figures come, also when they fail, and goes with what it was about', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const document = signal('guide');
    const head = signal(1);
    const answers: { give: (value: string) => void; fail: () => void }[] = [];
    const found = TestBed.runInInjectionContext(() =>
      resource({
        params: () => ({ document: document(), head: head() }),
        loader: () =>
          new Promise<string>((give, fail) => {
            answers.push({ give, fail: () => fail(new Error('away')) });
          }),
      }),
    );
    const shown = lasting<string>(found, document);
    const settle = async (): Promise<void> => {
      TestBed.tick();
      await new Promise((pass) => setTimeout(pass));
      TestBed.tick();
    };
    await settle();
    expect(shown()).toBeNull();
    answers[0]?.give('one');
    await settle();
    expect(shown()).toBe('one');
    head.set(2);
    await settle();
    expect([found.isLoading(), shown()]).toEqual([true, 'one']);
    answers[1]?.fail();
    await settle();
    expect(shown()).toBe('one');
    document.set('rota');
    await settle();
    expect(shown()).toBeNull();
    answers[2]?.give('two');
    await settle();
    expect(shown()).toBe('two');
  });
});
