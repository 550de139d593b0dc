/** Hands a file to the browser to be saved under a name. */
export function saveFile(name: string, content: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = name.replace(/[^\p{L}\p{N} .-]+/gu, '_');
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

/** The bytes of a file. */
export async function bytesOf(file: Blob): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await file.arrayBuffer());
}
