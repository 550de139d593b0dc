declare const process: { readonly env: Record<string, string | undefined> } | undefined;

/** How many times the usual number of random cases to try: 1 in `npm test`, more in `npm run fuzz`. */
export const FUZZ: number = Number(
  (typeof process === 'undefined' ? undefined : process.env['OXBOW_FUZZ']) ?? 1,
);
