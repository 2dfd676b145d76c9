import papaparse from "papaparse";
import { hasPicture, type Rating, type ShowDocument } from "../../show/index.ts";

export const SLIDE_LIST_COLUMNS = ["file", "caption", "passage", "rating", "hero"] as const;
const RATING_WORDS: Readonly<Record<Rating, string>> = { keep: "keep", maybe: "maybe", out: "leave out" };

/** A spreadsheet takes a cell that begins so for a formula and may run it. */
const LOOKS_LIKE_FORMULA = /^[=+\-@\t\r]/;

/**
 * The pictures and clips of a show in the film's order as CSV (RFC 4180, lines end in CR LF). UTF-8
 * with a byte order mark, so that spreadsheets read every script. Text that a spreadsheet would
 * take for a formula gets an apostrophe in front, which reading takes away again.
 */
export function writeSlideList(show: ShowDocument): string {
  const names = new Map(show.passages.map((passage) => [passage.id, passage.name]));
  const rows = show.slides
    .filter(hasPicture)
    .map((slide) =>
      [
        slide.fileName,
        slide.caption,
        names.get(slide.passageId) ?? "",
        RATING_WORDS[slide.rating],
        slide.hero ? "hero" : "",
      ].map((cell) => (LOOKS_LIKE_FORMULA.test(cell) || /^'+[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell)),
    );
  return `\uFEFF${papaparse.unparse([[...SLIDE_LIST_COLUMNS], ...rows], { newline: "\r\n" })}\r\n`;
}
