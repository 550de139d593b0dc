import { settingsOf } from './settings.js';

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
      'on',
      0,
    ]);
    const told = settingsOf({ PORT: '0', OXBOW_PROXY: '2', OXBOW_DEMO: 'off', OXBOW_LOG: 'info' }, '/');
    expect([told.PORT, told.OXBOW_PROXY, told.OXBOW_DEMO, told.OXBOW_LOG]).toEqual([0, 2, 'off', 'info']);
    expect(settingsOf({ OXBOW_PROXY: '10.0.0.1, loopback' }, '/').OXBOW_PROXY).toBe('10.0.0.1, loopback');
  });

  it('that are wrong are named', () => {
    expect(
      wrong({ PORT: '99999', OXBOW_DEMO: 'maybe', OXBOW_LOG: 'loud', OXBOW_PROXY: 'a;b' }).sort(),
    ).toEqual(['OXBOW_DEMO', 'OXBOW_LOG', 'OXBOW_PROXY', 'PORT']);
  });
});
