import { parse } from 'bowser';

/** What a browser calls itself in words: "Firefox on Linux"; what it said where that is not understood. */
export function browserOf(agent: string): string {
  if (agent === '') return $localize`An unknown browser`;
  const { browser, os } = parse(agent);
  return browser.name && os.name
    ? $localize`${browser.name} on ${os.name}`
    : browser.name || os.name || agent;
}
