import { isHdr, needsColourChange } from "@humming-tide/core/colour";
import { present } from "@humming-tide/core/presence";
import { colourFilters } from "./colour-filters.ts";

/** What a stream says of its pictures; the words are ffprobe's. */
export interface ClipPicture {
  /** As they are stored, before any turning. */
  readonly width: number;
  readonly height: number;
  readonly colourSpace: string | null;
  readonly transfer: string | null;
  readonly primaries: string | null;
  /** Of the screen on which HDR was graded, in candelas a square metre. */
  readonly peakNits: number | null;
  readonly isInterlaced: boolean;
}

/** Fields of ffprobe's streams that `clipPicture` reads. */
export const PICTURE_ENTRIES =
  "stream=width,height,color_space,color_transfer,color_primaries,field_order:stream_side_data=max_luminance";

export interface PictureStream {
  readonly width?: number;
  readonly height?: number;
  readonly color_space?: string;
  readonly color_transfer?: string;
  readonly color_primaries?: string;
  readonly field_order?: string;
  readonly side_data_list?: readonly { readonly max_luminance?: string }[];
}

export function clipPicture(stream: PictureStream): ClipPicture {
  return {
    width: stream.width ?? 0,
    height: stream.height ?? 0,
    colourSpace: said(stream.color_space),
    transfer: said(stream.color_transfer),
    primaries: said(stream.color_primaries),
    peakNits: peakOf(stream.side_data_list?.find(({ max_luminance }) => max_luminance !== undefined)?.max_luminance),
    isInterlaced: ["tt", "bb", "tb", "bt"].includes(stream.field_order ?? ""),
  };
}

const said = (name: string | undefined): string | null => (name && name !== "unknown" ? name : null);

/**
 * What screens for grading reach (common practice). Each takes tables of its own, so there are few.
 */
const PEAKS = [400, 600, 1000, 2000, 4000];

/** A fraction, "10000000/10000": the least of the peaks that holds it, or the last. */
function peakOf(fraction: string | undefined): number | null {
  const [over = 0, under = 1] = (fraction ?? "").split("/").map(Number);
  const nits = over / under;
  return nits > 0 ? (PEAKS.find((peak) => peak >= nits) ?? present(PEAKS.at(-1))) : null;
}

/**
 * Files that do not say which matrix made their colours: those of high definition mean BT.709,
 * smaller ones BT.601. Common practice.
 */
const isHighDefinition = ({ width, height }: ClipPicture): boolean =>
  Math.min(width, height) >= 720 || Math.max(width, height) >= 1280;

/** What ffmpeg is told so that a clip looks as it was meant, on a screen of BT.709. */
export interface PictureFilters {
  /** In order, for `-vf`. */
  readonly filters: readonly string[];
  /** Where ffmpeg is started, since a filter names a file there. */
  readonly folder?: string;
}

/**
 * Filters that make a clip's pictures whole frames of a size in the colours of BT.709: fields
 * become frames, the matrix is the file's own, HDR and wide colours go through tables
 * (core/colour). `scale` is ffmpeg's, without its colours: "1280:720". The pictures are RGB,
 * exact for one that is looked at for long, or 8-bit YUV of BT.709 in its usual range.
 */
export async function pictureFilters(
  picture: ClipPicture,
  scale: string,
  wanted: "rgb" | "exact rgb" | "yuv",
): Promise<PictureFilters> {
  const whole = picture.isInterlaced ? ["bwdif=mode=send_frame"] : [];
  const from = picture.colourSpace ? "" : `:in_color_matrix=${matrixOf(picture)}`;
  const scaled = `scale=${scale}:${wanted === "exact rgb" ? EXACT : ROUNDED}${from}`;
  const last = wanted === "yuv" ? ["format=yuv420p"] : [];
  if (!needsColourChange(picture))
    return { filters: [...whole, `${scaled}${wanted === "yuv" ? TO_YUV : ""}`, ...last] };
  const { folder, filters } = await colourFilters(picture);
  return {
    filters: [...whole, scaled, ...filters, ...(last.length > 0 ? [`scale=${ROUNDED}${TO_YUV}`, ...last] : [])],
    folder,
  };
}

const ROUNDED = "flags=bicubic+accurate_rnd";
/** Rounds once less; takes twice the time. */
const EXACT = `${ROUNDED}+full_chroma_int`;
const TO_YUV = ":out_color_matrix=bt709:out_range=tv";

function matrixOf(picture: ClipPicture): string {
  if (isHdr(picture)) return "bt2020";
  return isHighDefinition(picture) ? "bt709" : "bt601";
}

/** What was done to the pictures, for people; null where nothing was. */
export function pictureRemark(picture: ClipPicture): string | null {
  const remarks = [
    ...(isHdr(picture) ? ["It was filmed in HDR and is shown in the usual colours (tone curve of BT.2390)."] : []),
    ...(picture.isInterlaced ? ["It is interlaced; whole frames are made of its fields."] : []),
  ];
  return remarks.length > 0 ? remarks.join(" ") : null;
}
