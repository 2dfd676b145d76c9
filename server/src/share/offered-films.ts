import type { ClientOffer, FilmOutput, Watermark } from "@humming-tide/core/show";

/** The longer side of a film that is shown but not given away. */
const PREVIEW_PIXELS = 960;
const PREVIEW_MARK: Watermark = { text: "Preview", place: "middle", strength: 0.45 };

export interface OfferedFilms {
  readonly page: FilmOutput;
  /** Null where nothing is downloaded. */
  readonly download: FilmOutput | null;
}

/**
 * The film of the page and the one for downloads. They are one and the same where both carry the
 * same mark and nothing is paid; where a download costs something, the page plays a small film with
 * a watermark unless the studio wants the film itself there.
 */
export function offeredFilms(
  output: FilmOutput,
  { watermark, downloads, price, pageFilm }: Pick<ClientOffer, "watermark" | "downloads" | "price" | "pageFilm">,
): OfferedFilms {
  const marked = (isMarked: boolean | undefined): FilmOutput => ({
    ...output,
    id: "client-page",
    watermark: isMarked && watermark ? plainMark(watermark) : null,
  });
  const page = marked(watermark?.onPage);
  const isPreview = downloads && price !== null && pageFilm === "preview";
  return {
    page: isPreview ? { ...page, ...smaller(output), watermark: page.watermark ?? PREVIEW_MARK } : page,
    download: downloads ? marked(watermark?.onDownloads) : null,
  };
}

function smaller({ size }: FilmOutput): Pick<FilmOutput, "size" | "quality"> {
  const factor = Math.min(1, PREVIEW_PIXELS / Math.max(size.width, size.height));
  const even = (pixels: number): number => 2 * Math.max(8, Math.round((pixels * factor) / 2));
  return { size: { width: even(size.width), height: even(size.height) }, quality: "small" };
}

const plainMark = ({ text, place, strength }: Watermark): Watermark => ({ text, place, strength });
