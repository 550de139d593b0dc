import { keysAreTaken } from './keys';

describe('keys of the page', () => {
  const made: Element[] = [];
  const add = (html: string): Element => {
    const holder = document.createElement('div');
    holder.innerHTML = html;
    document.body.append(holder);
    made.push(holder);
    return holder;
  };
  afterEach(() => made.splice(0).forEach((one) => one.remove()));

  it('are its own while nothing is open, with a tooltip and a word of the app over it too', () => {
    const page = add('<p>Text</p>');
    add('<div class="cdk-overlay-container"><div role="tooltip">Restores it</div><p>Kept.</p></div>');
    expect(keysAreTaken({ target: page.querySelector('p') })).toBe(false);
    expect(keysAreTaken({ target: document })).toBe(false);
  });

  it('are taken by a menu, a list or a dialog that is open, wherever the focus is', () => {
    const page = add('<p>Text</p><ul role="listbox"><li>One</li></ul>');
    expect(keysAreTaken({ target: page.querySelector('li') })).toBe(true);
    for (const role of ['menu', 'dialog', 'listbox']) {
      const over = add(`<div class="cdk-overlay-container"><div role="${role}">Open</div></div>`);
      expect(keysAreTaken({ target: page.querySelector('p') })).toBe(true);
      over.remove();
    }
    expect(keysAreTaken({ target: page.querySelector('p') })).toBe(false);
  });
});
