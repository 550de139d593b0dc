import { TestBed } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { of } from 'rxjs';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { Acting } from './acting';
import { Commands } from './commands';
import { Help } from './help';

describe('finding a command, and help', () => {
  const me = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
  let done: string[];
  const note = (what: string) => (): void => void done.push(what);

  /** What is open is closed at once, and then done. */
  async function open<T>(component: new () => T, asked: unknown = null): Promise<Room<T>> {
    done = [];
    const ref = { close: note('closed'), afterClosed: () => of(undefined) };
    const providers = [
      { provide: MatDialogRef, useValue: ref },
      { provide: MAT_DIALOG_DATA, useValue: asked },
    ];
    const prepare = (): void => {
      const acting = TestBed.inject(Acting);
      acting.offer({ compare: note('compare'), removed: note('removed') }, () => true);
      acting.offerFinding(() => [{ label: 'Version 12', about: 'Added the sluice', run: note('version') }]);
    };
    return Room.open(component, me, {}, { providers, prepare });
  }
  const options = (): HTMLElement[] => [...document.querySelectorAll<HTMLElement>('mat-option')];

  it('shows what can be done, and finds acts and versions by words of them', async () => {
    const room = await open(Commands);
    room.element.querySelector('input')?.dispatchEvent(new Event('focusin'));
    await room.fixture.whenStable();
    expect(options().map((one) => one.querySelector('.label')?.textContent)).toEqual([
      'Compare …',
      'Removed',
    ]);
    const field = room.element.querySelector('input') as HTMLInputElement;
    field.value = 'sluice';
    field.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    expect(options().map((one) => one.textContent)).toEqual([jasmine.stringContaining('Version 12')]);
    options()[0]?.click();
    expect(done).toContain('version');
    field.value = 'nothing at all';
    field.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    expect(room.text).toContain('Nothing here is called so');
  });

  it('does what is typed when Enter comes before the list is drawn for it', async () => {
    const room = await open(Commands);
    const field = room.element.querySelector('input') as HTMLInputElement;
    const enter = (text: string): void => {
      field.value = text;
      field.dispatchEvent(new Event('input'));
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', keyCode: 13, bubbles: true }));
    };
    field.dispatchEvent(new Event('focusin'));
    await room.fixture.whenStable();
    enter('nothing at all');
    expect(done).toEqual([]);
    enter('removed');
    expect(done).toEqual(['removed', 'closed']);
  });

  it('does what is typed when Enter comes before there is any list', async () => {
    const room = await open(Commands);
    const field = room.element.querySelector('input') as HTMLInputElement;
    field.value = 'sluice';
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', keyCode: 13, bubbles: true }));
    expect(done).toEqual(['version', 'closed']);
  });

  it('tells what can be done here, does it, and points at the word that was asked about', async () => {
    const room = await open(Help, 'landmark');
    expect(room.text).toContain('Compare two versions, or a file');
    expect(room.element.querySelector('.asked')?.textContent).toContain('Landmark');
    await room.press('Removed');
    expect(done).toContain('removed');
  });
});
