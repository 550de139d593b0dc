import { demoOf, isLoopback, settingsOf } from './settings.js';

describe('settings', () => {
  const wrong = (environment: NodeJS.ProcessEnv): string[] => {
    const names: string[] = [];
    settingsOf(environment, '/somewhere', { reporter: ({ errors }) => names.push(...Object.keys(errors)) });
    return names;
  };

  it('have defaults, and are taken from the environment', () => {
    const plain = settingsOf({}, '/somewhere');
    expect([plain.PORT, plain.HOST, plain.OXBOW_DATA, plain.OXBOW_DEMO, plain.OXBOW_PROXY]).toEqual([
      4620,
      '127.0.0.1',
      '/somewhere/data',
      undefined,
      0,
    ]);
    const told = settingsOf({ PORT: '0', OXBOW_PROXY: '2', OXBOW_DEMO: 'off', OXBOW_LOG: 'info' }, '/');
    expect([told.PORT, told.OXBOW_PROXY, told.OXBOW_DEMO, told.OXBOW_LOG]).toEqual([0, 2, 'off', 'info']);
    expect(settingsOf({ OXBOW_PROXY: '10.0.0.1, loopback' }, '/').OXBOW_PROXY).toBe('10.0.0.1, loopback');
  });

  it('make a demo by themselves only where nobody but this machine is meant to reach it', () => {
    const demo = (environment: NodeJS.ProcessEnv) => demoOf(settingsOf(environment, '/'));
    expect(demo({})).toEqual({ demo: true, isLocal: true });
    for (const own of [
      { HOST: '0.0.0.0' },
      { OXBOW_URL: 'https://mill.example' },
      { OXBOW_SMTP: 'smtp://mail.example' },
      { OXBOW_PROXY: '1' },
      { OXBOW_DATABASE: 'postgres://data.example/oxbow' },
      { OXBOW_DEMO: 'off' },
    ])
      expect(demo(own)).toEqual({ demo: false, isLocal: false });
    expect(demo({ OXBOW_DEMO: 'on', HOST: '0.0.0.0' })).toEqual({ demo: true, isLocal: false });
    expect(['localhost:4620', '127.0.0.1', '[::1]:80', '127.1.2.3:1'].every(isLoopback)).toBeTrue();
    expect(
      ['mill.example', '10.0.0.1', 'localhost.mill.example', '', '127.0.0.1.mill.example'].some(isLoopback),
    ).toBeFalse();
  });

  it('that are wrong are named', () => {
    expect(
      wrong({ PORT: '99999', OXBOW_DEMO: 'maybe', OXBOW_LOG: 'loud', OXBOW_PROXY: 'a;b' }).sort(),
    ).toEqual(['OXBOW_DEMO', 'OXBOW_LOG', 'OXBOW_PROXY', 'PORT']);
  });
});
