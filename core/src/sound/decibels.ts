/** Level of an amplitude against full scale, and back. */
export const decibels = (value: number): number => 20 * Math.log10(value);
/** The factor of a level in decibels: `amplitude(-6)` is about 0.5. */
export const amplitude = (level: number): number => 10 ** (level / 20);
