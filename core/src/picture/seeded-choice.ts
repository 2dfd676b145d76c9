/**
 * A number from 0 to below `count` that follows from a seed and a name alone: drawn at random, yet
 * the same on every day and every machine. FNV-1a (Fowler, Noll and Vo) over the text, mixed as in
 * MurmurHash3 so that near names fall far apart.
 */
export function seededChoice(seed: number, name: string, count: number): number {
  let hash = 0x811c9dc5 ^ seed;
  for (let i = 0; i < name.length; i++) hash = Math.imul(hash ^ name.charCodeAt(i), 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return ((hash ^ (hash >>> 16)) >>> 0) % count;
}
