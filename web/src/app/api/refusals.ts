import type { FormGroup } from '@angular/forms';
import { fieldsOf, saidOf } from './api';

/** Says what the server said at the fields it is about, as the error `said`; what was typed stays. Answers what is about no field. */
export function refusedAt(form: FormGroup, error: unknown): string {
  const fields = fieldsOf(error);
  let isTold = false;
  for (const [name, control] of Object.entries(form.controls)) {
    if (!fields[name]) continue;
    control.setErrors({ said: fields[name] });
    control.markAsTouched();
    isTold = true;
  }
  return isTold ? '' : saidOf(error);
}

/** Forgets what the server said of an earlier try: only what the form itself knows to be wrong holds the next one back. */
export function tryAgain(form: FormGroup): void {
  for (const control of Object.values(form.controls)) control.updateValueAndValidity();
  form.markAllAsTouched();
}
