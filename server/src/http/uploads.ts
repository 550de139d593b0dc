import type { Response } from 'express';

/** Breaks off when whoever asked goes away before there is an answer. */
export function leftBy(response: Response): AbortSignal {
  const leaving = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) leaving.abort();
  });
  return leaving.signal;
}
