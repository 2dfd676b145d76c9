import { HummingTideError } from "@humming-tide/core";
import { isHdr, needsColourChange, type VideoColours } from "@humming-tide/core/colour";
import { itemAt } from "@humming-tide/core/presence";
import exifr from "exifr";
import sharp, { type Metadata, type Sharp } from "sharp";
import { decodeHeic } from "../workers/decode-heic.ts";
import { withoutPaths } from "./ffmpeg.ts";
import { mediaError } from "./media-errors.ts";
import { type MovingPart, movingPart } from "./moving-part.ts";
import { pictureColours } from "./picture-colours.ts";
import { type PictureMeasures, writePictureFiles } from "./picture-files.ts";
import { isRaw, rawPreview } from "./raw-preview.ts";
import { stillInBt709 } from "./still-colours.ts";
import { withProfile } from "./with-profile.ts";
import { zoneMinutesOf } from "./zone-minutes.ts";

/**
 * Larger declared sizes are refused before anything is decoded: 300 million pixels take 1.2 GB.
 * Twice what the largest cameras make.
 */
const LARGEST_PIXELS = 300_000_000;

export interface PictureIntake extends PictureMeasures {
  readonly width: number;
  readonly height: number;
  readonly capturedAt: string | null;
  /** Of pictures the wall clock is written, and beside it perhaps its zone. */
  readonly isUniversal: false;
  readonly zoneMinutes: number | null;
  readonly camera: string;
  readonly remark: string | null;
  readonly movingPart: MovingPart | null;
}

// Pictures are taken in side by side, one a core; several threads for each would only wait for one
// another. The cache costs memory.
sharp.cache(false);
sharp.concurrency(1);
// A picture's kind is told by its first bytes, but the decoder looks for itself: whatever a file
// pretends, only these loaders run. Others (SVG, PDF) read further files or draw without end.
sharp.block({ operation: ["VipsForeignLoad"] });
sharp.unblock({
  operation: ["Jpeg", "Png", "Webp", "Heif", "Tiff", "Nsgif"].map((kind) => `VipsForeignLoad${kind}`),
});

/**
 * Decodes a picture in full and writes its files (thumbnail, working size, fill), all turned the
 * right way up. Throws `picture-damaged` for what cannot be decoded to the end,
 * `picture-too-large`, and `picture-format` for a kind that the decoder lacks.
 */
export async function takeInPicture(original: string, mime: string, folder: string): Promise<PictureIntake> {
  try {
    const file = await pictureIn(original, mime);
    const { width, height, pages, exif } = await sharp(file, { limitInputPixels: LARGEST_PIXELS }).metadata();
    if (width * height > LARGEST_PIXELS) throw new Error("exceeds pixel limit");
    const decoded = await decodeFile(file, original, mime);
    const measures = await writePictureFiles(decoded.picture, folder);
    return {
      ...decoded.size,
      ...measures,
      ...(await cameraFacts(original, exif)),
      remark: remarkOn(mime, decoded, pages ?? 1),
      movingPart: await movingPart(original, mime),
    };
  } catch (cause) {
    throw explain(cause);
  }
}

/** What a person should know of how a file is shown; null where there is nothing. */
function remarkOn(mime: string, { size, isHdrPicture }: Decoded, pictures: number): string | null {
  const remarks = [
    usedPart(mime, size, pictures),
    isHdrPicture ? "It is an HDR picture and is shown in the usual colours (tone curve of BT.2390)." : null,
  ].filter((remark) => remark !== null);
  return remarks.length > 0 ? remarks.join(" ") : null;
}

/** What of a file that holds more than one picture, or another kind of one, is used. */
function usedPart(mime: string, { width, height }: Decoded["size"], pictures: number): string | null {
  if (isRaw(mime))
    return `Of this RAW file the camera’s own preview is used, ${width} × ${height}; it is not developed.`;
  if (pictures === 1) return null;
  if (mime === "image/gif" || mime === "image/webp")
    return `The file moves (${pictures} pictures); the first of them is used.`;
  return `The file holds ${pictures} pictures; the ${mime === "image/tiff" ? "first" : "main"} one is used.`;
}

/** Its code values as the file has them, and converted by its profile where it has one. */
interface PlainlyDecoded {
  readonly picture: Sharp;
  readonly size: { readonly width: number; readonly height: number };
}

interface Decoded extends PlainlyDecoded {
  /** It held more light than an ordinary screen shows. */
  readonly isHdrPicture: boolean;
}

/** Opens a picture that was looked at before, upright. */
export async function decodePicture(original: string, mime: string): Promise<Decoded> {
  return decodeFile(await pictureIn(original, mime), original, mime);
}

/** What the decoder reads: the file itself, or of a RAW file the preview in it. */
const pictureIn = async (original: string, mime: string): Promise<string | Buffer> =>
  isRaw(mime) ? rawPreview(original) : original;

async function decodeFile(file: string | Buffer, original: string, mime: string): Promise<Decoded> {
  const facts = await sharp(file, { limitInputPixels: LARGEST_PIXELS }).metadata();
  const decoded = await decodePlain(file, original, mime, facts);
  // Where a file has a profile, the numbers beside it are for programs that cannot read it.
  const colours = facts.icc ? null : await coloursOf(original, mime);
  if (!colours) return { ...decoded, isHdrPicture: false };
  return { ...decoded, picture: await stillInBt709(decoded.picture, colours), isHdrPicture: isHdr(colours) };
}

/** What a picture's colours are, where they are not those of an ordinary screen. */
async function coloursOf(original: string, mime: string): Promise<VideoColours | null> {
  if (!/^image\/(avif|hei[cf])$/.test(mime)) return null;
  const colours = await pictureColours(original);
  return colours && needsColourChange(colours) ? colours : null;
}

async function decodePlain(
  file: string | Buffer,
  original: string,
  mime: string,
  facts: Metadata,
): Promise<PlainlyDecoded> {
  const { compression, icc, orientation, autoOrient } = facts;
  // HEVC inside a HEIF file is what phones write; the general decoder has AV1 only.
  if (compression === "hevc" || (compression === undefined && /hei[cf]$/.test(mime))) return heicPicture(original, icc);
  const picture = sharp(file, { limitInputPixels: LARGEST_PIXELS, failOn: "truncated" }).autoOrient();
  const size = { width: autoOrient.width, height: autoOrient.height };
  // A preview that does not say how it was held was held as its RAW file was.
  const { deg = 0 } = isRaw(mime) && orientation === undefined ? await rotationOf(original) : {};
  return deg === 0 ? { picture, size } : { picture: picture.rotate(deg), size: turnedSize(size, deg) };
}

const rotationOf = async (original: string): Promise<{ deg?: number }> =>
  (await exifr.rotation(original).catch(() => undefined)) ?? {};

const turnedSize = ({ width, height }: Decoded["size"], degrees: number): Decoded["size"] =>
  degrees % 180 === 0 ? { width, height } : { width: height, height: width };

/**
 * The decoder turns the picture as the file's own boxes say; its Exif orientation repeats that and
 * is not applied again (ISO/IEC 23008-12).
 */
async function heicPicture(original: string, profile: Uint8Array | undefined): Promise<PlainlyDecoded> {
  const { width, height, pixels } = await decodeHeic(original);
  return { picture: await withProfile(pixels, { width, height }, profile), size: { width, height } };
}

function explain(cause: unknown): unknown {
  if (cause instanceof HummingTideError) return cause;
  const text = (cause as Error).message;
  if (/pixel limit/i.test(text)) {
    return mediaError("picture-too-large", { mostPixels: LARGEST_PIXELS }, { cause });
  }
  if ((cause as { code?: string }).code === "ENOSPC" || /no space|write error|unable to write/i.test(text)) {
    return Object.assign(new Error(text, { cause }), { code: "ENOSPC" });
  }
  if (/has not been built in|unsupported (feature|codec)|bad seek/i.test(text) && /heif/i.test(text)) {
    return mediaError("picture-format", {}, { cause });
  }
  return mediaError("picture-damaged", { why: withoutPaths(itemAt(text.split("\n"), 0)) }, { cause });
}

/** Six bytes in front of the block as some containers keep it. */
const EXIF_HEADER = "Exif\0\0";

/**
 * Metadata is a stranger's text: whatever is wrong with it, the picture itself is welcome. The
 * decoder finds the block in every kind of file; without one the file itself is read.
 */
async function cameraFacts(
  original: string,
  exif: Buffer | undefined,
): Promise<Pick<PictureIntake, "capturedAt" | "isUniversal" | "zoneMinutes" | "camera">> {
  try {
    const block = exif?.toString("latin1", 0, EXIF_HEADER.length) === EXIF_HEADER ? exif.subarray(6) : exif;
    const tags = (await exifr.parse(block ?? original, {
      pick: ["DateTimeOriginal", "SubSecTimeOriginal", "OffsetTimeOriginal", "Make", "Model"],
      reviveValues: false,
    })) as Record<string, unknown> | undefined;
    const text = (name: string): string => (typeof tags?.[name] === "string" ? tags[name] : "");
    const match = /^(\d{4}):(\d{2}):(\d{2}) (\d{2}:\d{2}:\d{2})/.exec(text("DateTimeOriginal"));
    const fraction = /^\d{1,3}/.exec(text("SubSecTimeOriginal"))?.[0];
    return {
      capturedAt: match
        ? `${match[1]}-${match[2]}-${match[3]}T${match[4]}${fraction ? `.${fraction.padEnd(3, "0")}` : ""}`
        : null,
      isUniversal: false,
      zoneMinutes: zoneMinutesOf(text("OffsetTimeOriginal")),
      camera: cameraName(text("Make"), text("Model")),
    };
  } catch {
    return { capturedAt: null, isUniversal: false, zoneMinutes: null, camera: "" };
  }
}

/** Many models begin with their maker's name: it is not said twice. */
export function cameraName(make: string, model: string): string {
  const clean = (value: string): string =>
    value
      .replace(/[\p{C}\s]+/gu, " ")
      .trim()
      .slice(0, 90);
  const [maker, kind] = [clean(make), clean(model)];
  return kind.toLowerCase().startsWith(maker.toLowerCase()) ? kind : `${maker} ${kind}`.trim();
}
