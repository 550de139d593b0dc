import { Piscina } from 'piscina';

const THREADS = 2;
/** How long an idle thread waits for more, in milliseconds. */
const IDLE = 30_000;

/** Threads that run a task file for what takes long, made when there is something to do; with a bound of memory in megabytes, if one is given. */
export function threadsFor<Task, Done>(file: URL, mostMemory?: number): Piscina<Task, Done> {
  return new Piscina<Task, Done>({
    filename: file.href,
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: IDLE,
    ...(mostMemory ? { resourceLimits: { maxOldGenerationSizeMb: mostMemory } } : {}),
  });
}
