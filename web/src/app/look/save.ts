/** Hands a file to the browser to be saved under a name. */
export function saveFile(name: string, content: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = name.replace(/[^\p{L}\p{N} .-]+/gu, '_');
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
