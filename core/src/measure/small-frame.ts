/**
 * Frames are looked at this small: enough to tell pictures apart, little enough for an hour of
 * film. Three planes (Y, U, V) one behind the other, each sample the mean of its part of the frame.
 */
export const SMALL_FRAME = { width: 64, height: 36, bytes: 64 * 36 * 3 } as const;
