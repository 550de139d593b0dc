import { ApplicationRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { HttpTestingController, TestRequest } from '@angular/common/http/testing';

/** Waits until something holds, as long as the test has time: on a loaded machine nobody knows how long that is. */
export async function until(holds: () => unknown): Promise<void> {
  while (!holds()) await new Promise((looked) => setTimeout(looked, 20));
}

/** The next call to an address, as soon as it is made. */
export async function asked(http: HttpTestingController, url: string): Promise<TestRequest> {
  for (;;) {
    const [call] = http.match(url);
    if (call) return call;
    await new Promise((looked) => setTimeout(looked, 20));
  }
}

/** Presses the button of a name as soon as it stands there and can be pressed. */
export async function pressed(where: () => ParentNode | null, name: string): Promise<void> {
  const button = (): HTMLButtonElement | undefined =>
    [...(where()?.querySelectorAll('button') ?? [])].find(
      (one) => one.textContent?.trim() === name && !one.disabled,
    );
  await until(button);
  await TestBed.inject(ApplicationRef).whenStable();
  button()?.click();
}
