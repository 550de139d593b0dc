import { format } from 'date-fns';

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
  const edits = waiting === 1 ? '1 edit' : `${waiting} edits`;
  if (holding) return waiting === 0 ? 'held back: nothing waits' : `held back: ${edits} on this device`;
  if (!connected)
    return waiting > 0
      ? `Away from the server: ${edits} ${waiting === 1 ? 'waits' : 'wait'} on this device`
      : 'Away from the server: you can go on writing';
  if (sending || waiting > 0) return 'keeping …';
  return at === null ? 'every edit is kept' : `every edit kept, ${format(at, 'HH:mm:ss')}`;
}
