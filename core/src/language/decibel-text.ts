/**
 * A level as people write it, with a true minus sign: "−14.0". For decibels and all scales of them.
 */
export const decibelText = (decibels: number): string => decibels.toFixed(1).replace("-", "−");
