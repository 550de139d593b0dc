/** What has the keys while it is open: they must do nothing to the page beneath. */
const TAKES_KEYS = ['menu', 'listbox', 'dialog', 'alertdialog'].map((role) => `[role="${role}"]`).join(', ');

/** Whether a key belongs to a menu, a dialog or a list: it is pressed in one, or one is open over the page. */
export function keysAreTaken({ target }: Pick<KeyboardEvent, 'target'>): boolean {
  const over = document.querySelector(`.cdk-overlay-container :is(${TAKES_KEYS})`);
  return over !== null || (target instanceof Element && target.closest(TAKES_KEYS) !== null);
}
