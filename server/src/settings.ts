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

/**
 * Whether a server is a demo: where that is asked for by name; where nothing is said, if nobody but this machine can reach it, and nothing
 * says that it is meant for others. `isLocal` says that it is to answer this machine alone.
 */
export function demoOf(settings: ReturnType<typeof settingsOf>): { demo: boolean; isLocal: boolean } {
  const { OXBOW_DEMO: asked, HOST, OXBOW_URL, OXBOW_SMTP, OXBOW_DATABASE, OXBOW_PROXY } = settings;
  if (asked !== undefined) return { demo: asked === 'on', isLocal: false };
  const isForOthers =
    [OXBOW_URL, OXBOW_SMTP, OXBOW_DATABASE].some((one) => one !== undefined) || OXBOW_PROXY !== 0;
  const isLocal = isLoopback(HOST) && !isForOthers;
  return { demo: isLocal, isLocal };
}

/** Whether a host, with or without a port, is this machine itself. */
export function isLoopback(host: string): boolean {
  return /^(localhost|127(\.\d{1,3}){3}|\[?::1\]?)(:\d+)?$/i.test(host);
}

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
      OXBOW_DEMO: str({ choices: ['on', 'off'], default: undefined }),
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
