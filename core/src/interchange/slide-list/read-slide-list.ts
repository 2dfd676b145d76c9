import papaparse from "papaparse";
import type { Rating } from "../../show/index.ts";
import { interchangeError } from "../interchange-errors.ts";
import { SLIDE_LIST_COLUMNS } from "./write-slide-list.ts";

type Column = (typeof SLIDE_LIST_COLUMNS)[number];

/** A line of the list; null for what it does not say. */
export interface SlideListRow {
  /** Line of the file that the row begins on, from 1. */
  readonly line: number;
  readonly file: string;
  readonly caption: string | null;
  readonly passage: string | null;
  readonly rating: Rating | null;
  readonly hero: boolean | null;
}

export interface SlideListProblem {
  readonly line: number;
  readonly message: string;
}

const RATINGS: Readonly<Record<string, Rating>> = { keep: "keep", maybe: "maybe", out: "out", "leave out": "out" };
const HEROES: Readonly<Record<string, boolean>> = { hero: true, yes: true, "1": true, no: false, "0": false };
const LONGEST = { file: 1024, caption: 2000, passage: 200 } as const;

/**
 * Reads a slide list: a header line with the column "file" and any of "caption", "passage",
 * "rating", "hero" in any order, separated by comma, semicolon or tab. Lines that cannot be taken
 * are named with the reason, the others are given in order. An empty cell says nothing. Throws
 * `slide-list-empty`, or `slide-list-header` where there is no column "file", because then no line
 * means anything.
 */
export function readSlideList(text: string): { rows: SlideListRow[]; problems: SlideListProblem[] } {
  const rows: SlideListRow[] = [];
  const problems: SlideListProblem[] = [];
  const content = text.replace(/^\uFEFF/, "");
  let columns: (Column | null)[] | null = null;
  let line = 1;
  let readTo = 0;
  papaparse.parse(content, {
    delimitersToGuess: [",", ";", "\t"],
    step({ data, errors, meta }) {
      const began = line;
      line += lineBreaks(content, readTo, meta.cursor);
      readTo = meta.cursor;
      if (data.every((cell) => cell.trim() === "")) return;
      if (!columns) {
        columns = readHeader(data);
        return;
      }
      const complaint = errors.find(({ type }) => type === "Quotes");
      if (complaint) {
        problems.push({ line: began, message: `A quotation mark is not closed (${complaint.message}).` });
        return;
      }
      const row = readRow(columns, data, began);
      if ("message" in row) problems.push(row);
      else rows.push(row);
    },
  });
  if (!columns) throw interchangeError("slide-list-empty");
  return { rows, problems };
}

function lineBreaks(text: string, from: number, to: number): number {
  let count = 0;
  for (let at = from; at < to; at++) {
    const code = text.charCodeAt(at);
    if (code === 10 || (code === 13 && text.charCodeAt(at + 1) !== 10)) count++;
  }
  return count;
}

function readHeader(cells: readonly string[]): (Column | null)[] {
  const columns = cells.map((cell) => {
    const name = cell.trim().toLowerCase();
    return SLIDE_LIST_COLUMNS.find((column) => column === name) ?? null;
  });
  if (!columns.includes("file")) {
    throw interchangeError("slide-list-header", { columns: cells.map((cell) => cell.trim().slice(0, 40)) });
  }
  return columns;
}

function readRow(
  columns: readonly (Column | null)[],
  cells: readonly string[],
  line: number,
): SlideListRow | SlideListProblem {
  const problem = (message: string): SlideListProblem => ({ line, message });
  const text = (column: Column): string | null => {
    const cell = cells[columns.indexOf(column)]?.trim() ?? "";
    return cell === "" ? null : cell.replace(/^'(?='*[=+\-@\t\r])/, "");
  };
  if (cells.length > columns.length && cells.slice(columns.length).some((cell) => cell.trim() !== "")) {
    return problem(
      `The line has ${cells.length} cells, but the header has ${columns.length}. Is a text with a separator not in quotation marks?`,
    );
  }
  const file = text("file");
  if (file === null) return problem("The file's name is missing.");
  for (const column of ["file", "caption", "passage"] as const) {
    const length = text(column)?.length ?? 0;
    if (length > LONGEST[column]) {
      return problem(`The ${column} has ${length} characters; at most ${LONGEST[column]} are taken.`);
    }
  }
  const ratingText = text("rating");
  const rating = ratingText === null ? null : RATINGS[ratingText.toLowerCase()];
  if (rating === undefined) {
    return problem(`The rating is "${ratingText}", but it is one of: keep, maybe, leave out.`);
  }
  const heroText = text("hero");
  const hero = heroText === null ? null : HEROES[heroText.toLowerCase()];
  if (hero === undefined) return problem(`The hero column is "${heroText}", but it is "hero" or empty.`);
  return { line, file, caption: text("caption"), passage: text("passage"), rating, hero };
}
