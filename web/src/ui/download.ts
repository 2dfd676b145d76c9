/** Hands a text, bytes or what a server sent to the browser as a file. */
export function download(fileName: string, content: string | Uint8Array | Blob, type: string): void {
  const url = URL.createObjectURL(content instanceof Blob ? content : new Blob([content as BlobPart], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = fileName;
  link.click();
  // The download has its own hold on the content once it has begun.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
