import type { Response } from 'express';

/** A document title from a file's name. */
export function fileTitle(name: string): string {
  const title = name
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return (title.charAt(0).toUpperCase() + title.slice(1)).slice(0, 200) || 'Untitled';
}

/** Breaks off when whoever asked goes away before there is an answer. */
export function leftBy(response: Response): AbortSignal {
  const leaving = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) leaving.abort();
  });
  return leaving.signal;
}
