import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { COLOUR_NAMES, colourOf } from '../look/colours';

/** The fields of somebody who is new: how others see them, and their password. */
export function profileControls() {
  const text = (most: number) =>
    new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.maxLength(most)] });
  return {
    name: text(80),
    initials: text(3),
    colour: new FormControl(0, { nonNullable: true }),
    password: text(200),
  };
}

/** A name, initials, a colour and a password to choose. Initials follow the name until they are typed. */
@Component({
  selector: 'ox-profile',
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  templateUrl: './profile.html',
  styleUrl: './profile.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Profile {
  readonly form = input.required<FormGroup<ReturnType<typeof profileControls>>>();
  protected readonly colours = COLOUR_NAMES.map((name, index) => ({ name, index, colour: colourOf(index) }));

  protected named(): void {
    const { name, initials } = this.form().controls;
    if (!initials.dirty) initials.setValue(initialsOf(name.value));
  }
}

/** The first letters of the first and the last word of a name. */
export function initialsOf(name: string): string {
  const words = name.trim().split(/\s+/).filter(Boolean);
  const ends = words.length > 1 ? [words[0], words.at(-1)] : words;
  return ends.map((word) => [...(word ?? '')][0]?.toUpperCase() ?? '').join('');
}
