import path from "node:path";
import { blurEffect, FINGERPRINT_SIDE, fingerprint } from "@humming-tide/core/photo-analysis";
import {
  findSubject,
  importantHeads,
  openEyesShare,
  type Rectangle,
  type Subject,
  subjectOfHeads,
} from "@humming-tide/core/picture";
import sharp, { type Sharp } from "sharp";
import { lookForFaces } from "../workers/look-for-faces.ts";
import { FACE_PIXELS } from "./face-network.ts";

/**
 * Files made of everything that can be seen, pictures and clips' posters. Names are part of the
 * data folder's layout.
 */
export const PICTURE_FILES = { thumbnail: "thumbnail.webp", working: "working.jpg", fill: "fill.jpg" } as const;

const THUMBNAIL_PIXELS = 400;
/**
 * 1.25 times a 1080p film's width: enough to crop a little without softness, small enough to draw
 * fast.
 */
export const WORKING_PIXELS = 2400;
/** The same of a film in 4K. */
export const LARGE_PIXELS = 4800;
const FILL_WIDTH = 256;
/** The blur effect is defined for pictures of about this size. */
const MEASURED_PIXELS = 512;

/** What is measured of a picture's looks. */
export interface PictureMeasures {
  readonly fingerprint: string;
  readonly blur: number;
  readonly subject: Subject;
}

/** The subject is looked for in pictures of about this size. */
const SUBJECT_PIXELS = 96;

/**
 * Writes a picture's thumbnail, its working size and the small blurred copy that fills the frame
 * beside it. Measures likeness, sharpness and where its subject is. The picture is decoded once.
 */
export async function writePictureFiles(picture: Sharp, folder: string): Promise<PictureMeasures> {
  const working = await picture
    .flatten({ background: "#000000" })
    .toColourspace("srgb")
    .resize(WORKING_PIXELS, WORKING_PIXELS, { fit: "inside", withoutEnlargement: true })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const raw = { raw: { width: working.info.width, height: working.info.height, channels: working.info.channels } };
  await sharp(working.data, raw)
    // Better packed would be a few percent smaller and take three times as long.
    .jpeg({ quality: 92, chromaSubsampling: "4:4:4", optimiseCoding: false })
    .toFile(path.join(folder, PICTURE_FILES.working));
  // The rest is made from a smaller copy, which is as good for them and much faster.
  const small = await sharp(working.data, raw)
    .resize(2 * MEASURED_PIXELS, 2 * MEASURED_PIXELS, { fit: "inside", withoutEnlargement: true })
    .toBuffer({ resolveWithObject: true });
  const smallRaw = { raw: { width: small.info.width, height: small.info.height, channels: small.info.channels } };
  await sharp(small.data, smallRaw)
    .resize(THUMBNAIL_PIXELS, THUMBNAIL_PIXELS, { fit: "inside", withoutEnlargement: true })
    .webp({ quality: 80, effort: 2 })
    .toFile(path.join(folder, PICTURE_FILES.thumbnail));
  await sharp(small.data, smallRaw)
    .resize(FILL_WIDTH, null, { fit: "inside" })
    .blur(9)
    .modulate({ brightness: 0.55, saturation: 0.8 })
    .jpeg({ quality: 95, chromaSubsampling: "4:4:4" })
    .toFile(path.join(folder, PICTURE_FILES.fill));
  const grey = await sharp(small.data, smallRaw)
    .resize(MEASURED_PIXELS, MEASURED_PIXELS, { fit: "inside", withoutEnlargement: true })
    .greyscale()
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const tiny = await sharp(small.data, smallRaw)
    .resize(FINGERPRINT_SIDE, FINGERPRINT_SIDE, { fit: "fill" })
    .greyscale()
    .extractChannel(0)
    .raw()
    .toBuffer();
  return {
    fingerprint: fingerprint({ width: FINGERPRINT_SIDE, height: FINGERPRINT_SIDE, pixels: tiny }),
    blur: blurEffect({ width: grey.info.width, height: grey.info.height, pixels: grey.data }),
    subject: await measureSubject(sharp(small.data, smallRaw)),
  };
}

/**
 * What a picture is about, from its pixels alone: the heads in it, or else what stands out. Heads
 * are absent where they could not be looked for.
 */
export async function measureSubject(picture: Sharp): Promise<Subject> {
  const { data, info } = await picture
    .clone()
    .resize(FACE_PIXELS, FACE_PIXELS, { fit: "inside" })
    .toColourspace("srgb")
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const faces = await lookForFaces({ width: info.width, height: info.height, pixels: new Uint8Array(data) });
  if (faces === null) return standsOut(picture);
  const aspect = info.width / info.height;
  const people = subjectOfHeads(importantHeads(faces, aspect));
  if (!people) return { ...(await standsOut(picture)), heads: [] };
  const headBlur = await measureHeadBlur(picture, people.heads ?? []);
  return { ...people, headBlur, openEyes: openEyesShare(faces, aspect) };
}

/** So many heads are measured, the largest: they decide whether a picture of people is sharp. */
const MOST_MEASURED_HEADS = 6;
const HEAD_PIXELS = 256;

/** How soft heads are, each counting by its size. */
async function measureHeadBlur(picture: Sharp, heads: readonly Rectangle[]): Promise<number> {
  const { data, info } = await picture
    .clone()
    .greyscale()
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  let [sum, weights] = [0, 0];
  for (const head of heads.slice(0, MOST_MEASURED_HEADS)) {
    const left = Math.min(info.width - 1, Math.floor(head.x * info.width));
    const top = Math.min(info.height - 1, Math.floor(head.y * info.height));
    const width = Math.max(1, Math.min(info.width - left, Math.round(head.width * info.width)));
    const height = Math.max(1, Math.min(info.height - top, Math.round(head.height * info.height)));
    const pixels = await sharp(data, { raw: { width: info.width, height: info.height, channels: 1 } })
      .extract({ left, top, width, height })
      .resize(HEAD_PIXELS, HEAD_PIXELS, { fit: "fill" })
      .extractChannel(0)
      .raw()
      .toBuffer();
    const weight = head.width * head.height;
    sum += weight * blurEffect({ width: HEAD_PIXELS, height: HEAD_PIXELS, pixels });
    weights += weight;
  }
  return weights > 0 ? sum / weights : 1;
}

async function standsOut(picture: Sharp): Promise<Subject> {
  const { data, info } = await picture
    .clone()
    .resize(SUBJECT_PIXELS, SUBJECT_PIXELS, { fit: "inside", withoutEnlargement: true })
    .toColourspace("srgb")
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return findSubject({ width: info.width, height: info.height, pixels: data });
}

/** A copy of a picture that films are drawn from (film-copies.ts), no side longer than `pixels`. */
export async function writeFilmCopy(
  picture: Sharp,
  degrees: number,
  { pixels, isLossless }: { readonly pixels: number; readonly isLossless: boolean },
  file: string,
): Promise<void> {
  const upright = await picture
    .flatten({ background: "#000000" })
    .toColourspace("srgb")
    .resize(pixels, pixels, { fit: "inside", withoutEnlargement: true })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height, channels } = upright.info;
  const turned = sharp(upright.data, { raw: { width, height, channels } }).rotate(degrees);
  await (isLossless
    ? turned.png({ compressionLevel: 2 })
    : turned.jpeg({ quality: 92, chromaSubsampling: "4:4:4", optimiseCoding: false })
  ).toFile(file);
}

/**
 * A graphic of a person's own, with its alpha; beside the other files of its picture under a name
 * of its own.
 */
export const GRAPHIC_FILES = { graphic: "graphic.png" } as const;
const GRAPHIC_PIXELS = 1600;
export const graphicFolder = (sha256: string): string => `${sha256}-graphic`;

export async function writeGraphic(original: string, folder: string): Promise<void> {
  await sharp(original)
    .autoOrient()
    .toColourspace("srgb")
    .ensureAlpha()
    .resize(GRAPHIC_PIXELS, GRAPHIC_PIXELS, { fit: "inside", withoutEnlargement: true })
    .png()
    .toFile(path.join(folder, GRAPHIC_FILES.graphic));
}

/** The same files of a picture turned clockwise, from those that it has. */
export async function turnPictureFiles(from: string, to: string, degrees: 90 | 180 | 270): Promise<void> {
  await sharp(path.join(from, PICTURE_FILES.working))
    .rotate(degrees)
    .jpeg({ quality: 95, chromaSubsampling: "4:4:4" })
    .toFile(path.join(to, PICTURE_FILES.working));
  await sharp(path.join(from, PICTURE_FILES.thumbnail))
    .rotate(degrees)
    .webp({ quality: 85 })
    .toFile(path.join(to, PICTURE_FILES.thumbnail));
  await sharp(path.join(from, PICTURE_FILES.fill))
    .rotate(degrees)
    .jpeg({ quality: 95, chromaSubsampling: "4:4:4" })
    .toFile(path.join(to, PICTURE_FILES.fill));
}
