/** Hands a text to the browser as a file. */
export function downloadText(fileName: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = fileName;
  link.click();
  // The download has its own hold on the content once it has begun.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
