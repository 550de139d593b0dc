import * as fc from 'fast-check';

declare const process: { readonly env: Record<string, string | undefined> } | undefined;

/**
 * How many times the usual number of random cases to try: 1 in `npm test`, more in `npm run fuzz`, a fifth in a
 * browser, where the suites show that the core runs there and need not show its laws anew.
 */
export const FUZZ: number = typeof process === 'undefined' ? 0.2 : Number(process.env['OXBOW_FUZZ'] ?? 1);

// `npm test` tries the same cases every time, so that it fails for a reason in the change; `npm run fuzz` tries new ones.
if (FUZZ <= 1) fc.configureGlobal({ seed: 20261124 });
