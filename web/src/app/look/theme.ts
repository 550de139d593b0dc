import type { Preferences } from '@oxbow/contract';

type Theme = Preferences['theme'];

const PLACE = 'oxbow-theme';

/** The theme that was worn last on this device, so that it is there before one is known. */
export function wornTheme(): Theme {
  const held = localStorage.getItem(PLACE);
  return held === 'light' || held === 'dark' ? held : 'system';
}

/** Puts a theme on the page. */
export function wearTheme(theme: Theme): void {
  document.documentElement.style.colorScheme = theme === 'system' ? '' : theme;
  localStorage.setItem(PLACE, theme);
}
