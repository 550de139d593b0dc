import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { COLOUR_NAMES, colourOf } from '../look/colours';

/** The fields of how others see somebody. */
export interface CalledFields {
  readonly name: FormControl<string>;
  readonly initials: FormControl<string>;
  readonly colour: FormControl<number>;
}

/** The fields of somebody who is new: how others see them, and their password. */
export interface ProfileFields extends CalledFields {
  readonly password: FormControl<string>;
}

export function calledControls(): CalledFields {
  return { name: text(80), initials: text(3), colour: new FormControl(0, { nonNullable: true }) };
}

export function profileControls(): ProfileFields {
  return { ...calledControls(), password: text(200) };
}

function text(most: number): FormControl<string> {
  return new FormControl('', {
    nonNullable: true,
    validators: [Validators.required, Validators.maxLength(most)],
  });
}

/** A name, initials, a colour and, for whoever is new, a password to choose. Initials follow the name until they are typed. */
@Component({
  selector: 'ox-profile',
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  templateUrl: './profile.html',
  styleUrl: './profile.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Profile {
  readonly form = input.required<FormGroup>();
  /** The same, by name; a password is asked for where there is a field for it. */
  protected readonly fields = computed(
    () => this.form().controls as unknown as Partial<ProfileFields> & CalledFields,
  );
  protected readonly colours = COLOUR_NAMES.map((name, index) => ({ name, index, colour: colourOf(index) }));

  protected named(): void {
    const { name, initials } = this.fields();
    if (!initials.dirty) initials.setValue(initialsOf(name.value));
  }
}

/** The first letters of the first and the last word of a name. */
export function initialsOf(name: string): string {
  const words = name.trim().split(/\s+/).filter(Boolean);
  const ends = words.length > 1 ? [words[0], words.at(-1)] : words;
  return ends.map((word) => [...(word ?? '')][0]?.toUpperCase() ?? '').join('');
}
