/** A document title from a file's name. */
export function fileTitle(name: string): string {
  const title = name
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return (title.charAt(0).toUpperCase() + title.slice(1)).slice(0, 200) || 'Untitled';
}
