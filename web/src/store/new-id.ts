/**
 * A name that nothing else has: 128 bits at random. Unlike crypto.randomUUID also where a page is
 * served without encryption to another machine.
 */
export const newId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, "0")).join("");
