import { existsSync, readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';
import { isMainThread } from 'node:worker_threads';

/** This thread among those of its process, where the system tells. */
const SELF = '/proc/thread-self';
const LOW = 10;

/**
 * Lets the worker thread that calls it give way to others of the machine: what takes seconds must not keep those waiting who write.
 * On Linux a thread has a priority of its own; elsewhere this does nothing.
 */
export function giveWay(): void {
  if (isMainThread || !existsSync(SELF)) return;
  const thread = Number(readlinkSync(SELF).split('/').at(-1));
  if (Number.isInteger(thread)) setPriority(thread, LOW);
}
