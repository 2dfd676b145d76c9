/** Shares of red, green and blue in the brightness of a pixel (ITU-R BT.709-6, 3.2). */
export const LUMA_SHARES = [0.2126, 0.7152, 0.0722] as const;

/**
 * The brightness of a colour after ITU-R BT.709, in the scale of its channels: 0 to 255 for bytes.
 * Of linear light it is the luminance, of coded values (as pixels have them) the luma.
 */
export function luma(red: number, green: number, blue: number): number {
  return LUMA_SHARES[0] * red + LUMA_SHARES[1] * green + LUMA_SHARES[2] * blue;
}
