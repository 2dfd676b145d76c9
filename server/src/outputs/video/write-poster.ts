import path from "node:path";
import sharp from "sharp";

/** Longer side, in pixels: what file managers and players show. */
const POSTER_PIXELS = 1280;

/**
 * The picture that file managers and players show for a film, as a JPEG in a folder. Returns its
 * path. Throws what sharp throws where the picture cannot be read.
 */
export async function writePoster(picturePath: string, folder: string): Promise<string> {
  const place = path.join(folder, "poster.jpg");
  await sharp(picturePath)
    .resize(POSTER_PIXELS, POSTER_PIXELS, { fit: "inside", withoutEnlargement: true })
    .jpeg({ quality: 85 })
    .toFile(place);
  return place;
}
