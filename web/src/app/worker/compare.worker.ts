import type { Task } from './messages';
import { runTask } from './tasks';

/** Runs `core/compare` away from the page, so that it stays responsive. One task at a time, in order. */
addEventListener('message', ({ data }: MessageEvent<Task>) => runTask(data, (report) => postMessage(report)));
