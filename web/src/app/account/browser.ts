import { parse } from 'bowser';

/** What a browser calls itself in words: "Firefox on Linux"; what it said where that is not understood. */
export function browserOf(agent: string): string {
  if (agent === '') return 'An unknown browser';
  const { browser, os } = parse(agent);
  return [browser.name, os.name].filter(Boolean).join(' on ') || agent;
}
