import { timeOfDay } from '../look/time';

/** How it stands with what one writes. */
export interface SavedState {
  readonly connected: boolean;
  /** Edits that wait. */
  readonly waiting: number;
  /** Whether they are held back on purpose. */
  readonly holding: boolean;
  readonly sending: boolean;
  /** When the last one was kept, milliseconds since the epoch. */
  readonly at: number | null;
}

/** What is saved, in words. */
export function savedWords({ connected, waiting, holding, sending, at }: SavedState): string {
  const edits = waiting === 1 ? $localize`1 edit` : $localize`${waiting} edits`;
  if (holding)
    return waiting === 0
      ? $localize`held back: nothing waits`
      : $localize`held back: ${edits} on this device`;
  if (!connected)
    return waiting > 0
      ? waiting === 1
        ? $localize`Away from the server: 1 edit waits on this device`
        : $localize`Away from the server: ${waiting} edits wait on this device`
      : $localize`Away from the server: you can go on writing`;
  if (sending || waiting > 0) return $localize`keeping …`;
  return at === null ? $localize`every edit is kept` : $localize`every edit kept, ${timeOfDay(at)}`;
}
