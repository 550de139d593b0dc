import { wearTheme, wornTheme } from './theme';

describe('the theme', () => {
  afterEach(() => wearTheme('system'));

  it('is put on the page and remembered on the device', () => {
    wearTheme('dark');
    expect([document.documentElement.style.colorScheme, wornTheme()]).toEqual(['dark', 'dark']);
    wearTheme('system');
    expect([document.documentElement.style.colorScheme, wornTheme()]).toEqual(['', 'system']);
  });

  it('is the device’s where what is remembered is none', () => {
    localStorage.setItem('oxbow-theme', 'plaid');
    expect(wornTheme()).toBe('system');
  });
});
