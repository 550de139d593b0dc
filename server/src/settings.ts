import { join } from 'node:path';
import { cleanEnv, makeValidator, num, str } from 'envalid';

const LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent'] as const;

/** A port; 0 is any that is free. */
const port = makeValidator((input): number => {
  const number = Number(input);
  if (Number.isInteger(number) && number >= 0 && number < 65_536) return number;
  throw new Error('is no port');
});

/** How many proxies, or their addresses with commas between. */
const proxies = makeValidator((input): number | string => {
  if (/^\d+$/.test(input)) return Number(input);
  if (/^[\w.:/, -]*$/.test(input)) return input;
  throw new Error('is neither a number of proxies nor a list of their addresses');
});

/** An address of a site, without the slash at its end. */
const site = makeValidator((input): string => {
  if (/^https?:$/.test(URL.canParse(input) ? new URL(input).protocol : '')) return input.replace(/\/+$/, '');
  throw new Error('is no address that begins with http:// or https://');
});

/** What the server is told by its environment; see the README. Says what is wrong and ends the process where something is. */
export function settingsOf(
  environment: NodeJS.ProcessEnv,
  root: string,
  options: Parameters<typeof cleanEnv>[2] = {},
) {
  return cleanEnv(
    environment,
    {
      PORT: port({ default: 4620 }),
      HOST: str({ default: '127.0.0.1' }),
      OXBOW_DATA: str({ default: join(root, 'data') }),
      OXBOW_DATABASE: str({ default: undefined }),
      OXBOW_DEMO: str({ choices: ['on', 'off'], default: 'on' }),
      OXBOW_DEMO_SCALE: num({ default: 1 }),
      OXBOW_LOG: str({ choices: LEVELS, default: 'warn' }),
      OXBOW_PROXY: proxies({ default: 0 }),
      OXBOW_FROM: str({ default: 'oxbow-tide@localhost' }),
      OXBOW_SMTP: str({ default: undefined }),
      OXBOW_URL: site({ default: undefined }),
    },
    options,
  );
}
