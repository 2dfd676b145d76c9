const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

/**
 * File-name order as a person reads it: 2 before 10, capitals as small letters; ties by code units,
 * so it repeats.
 */
export function naturalOrder(a: string, b: string): number {
  return collator.compare(a, b) || (a < b ? -1 : a > b ? 1 : 0);
}
