export type PictureShape = "landscape" | "portrait" | "square" | "panorama";

/** A side may be this much longer than the other in a square: 1:1 with a little cropping. */
const SQUARE_TOLERANCE = 1.05;
/** From twice as wide as high, common practice speaks of a panorama. */
const PANORAMA_FROM = 2;

/** The shape of a picture as seen, after all turning. */
export function pictureShape(size: { readonly width: number; readonly height: number }): PictureShape {
  const longer = Math.max(size.width, size.height) / Math.min(size.width, size.height);
  if (longer <= SQUARE_TOLERANCE) return "square";
  if (size.width / size.height >= PANORAMA_FROM) return "panorama";
  return size.width > size.height ? "landscape" : "portrait";
}
