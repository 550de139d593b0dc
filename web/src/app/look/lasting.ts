import type { Resource, Signal } from '@angular/core';
import { linkedSignal } from '@angular/core';

/**
 * What a resource last gave about something: it stays while newer figures come, and goes when it is asked about something else.
 * Null before there is any.
 */
export function lasting<T>(resource: Resource<T | undefined>, about: () => unknown): Signal<T | null> {
  const held = linkedSignal<
    { readonly about: unknown; readonly value: T | undefined },
    { readonly about: unknown; readonly value: T | null }
  >({
    source: () => ({ about: about(), value: resource.hasValue() ? resource.value() : undefined }),
    computation: (now, before) => ({
      about: now.about,
      value: now.value ?? (before && before.value.about === now.about ? before.value.value : null),
    }),
  });
  return linkedSignal(() => held().value);
}
