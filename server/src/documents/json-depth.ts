const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const OPEN_LIST = 0x5b;
const CLOSE_LIST = 0x5d;
const OPEN_OBJECT = 0x7b;
const CLOSE_OBJECT = 0x7d;

/**
 * Whether a JSON text nests deeper than a limit; the text itself is not checked. A parser and a
 * schema recurse with the depth, so a few megabytes of "[" hold a thread for seconds. O(bytes),
 * stops at the first bracket that is too deep.
 */
export function isDeeperThan(limit: number, text: Uint8Array): boolean {
  let depth = 0;
  let isInString = false;
  for (let at = 0; at < text.length; at++) {
    const byte = text[at]!;
    if (isInString) {
      if (byte === BACKSLASH) at++;
      else if (byte === QUOTE) isInString = false;
    } else if (byte === QUOTE) isInString = true;
    else if (byte === OPEN_LIST || byte === OPEN_OBJECT) {
      if (++depth > limit) return true;
    } else if (byte === CLOSE_LIST || byte === CLOSE_OBJECT) depth--;
  }
  return false;
}
