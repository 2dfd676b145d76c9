/**
 * A name that every file system takes, made from a title; `fallback` where nothing of it is left.
 */
export function safeFileName(title: string, fallback: string): string {
  const name = title
    .normalize("NFC")
    .replace(/[\p{C}<>:"/\\|?*]+/gu, " ")
    .replace(/\s+/g, " ")
    .replace(/^[. ]+|[. ]+$/g, "")
    .slice(0, 100);
  return name || fallback;
}
