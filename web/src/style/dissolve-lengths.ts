/**
 * Lengths of dissolves that are offered, in seconds. Common practice: from hardly seen to one that
 * is all there is.
 */
export const DISSOLVE_SECONDS = [0.4, 0.8, 1.2, 2, 4] as const;
