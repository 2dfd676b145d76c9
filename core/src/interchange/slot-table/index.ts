import papaparse from "papaparse";
import { type Frames, framesPerSecond, timecode } from "../../time/index.ts";
import type { Timeline } from "../timeline/index.ts";

const COLUMNS = [
  ...["slot", "picture", "begins", "begins frame", "begins seconds", "lasts frames", "lasts seconds"],
  ...["lands on", "landing seconds", "error ms", "transition", "transition frames", "words"],
];

/**
 * The film as a table, a row for each slot: RFC 4180, UTF-8 with a byte order mark, so that
 * spreadsheets read names rightly.
 */
export function writeSlotTable({ items, rate }: Timeline): string {
  const seconds = (frame: Frames): string => (frame / framesPerSecond(rate)).toFixed(3);
  const rows = items.map((item, index) => [
    String(index + 1),
    safeCell(item.name),
    timecode(item.startFrame, rate),
    String(item.startFrame),
    seconds(item.startFrame),
    String(item.endFrame - item.startFrame),
    seconds(item.endFrame - item.startFrame),
    item.landingKind ?? "",
    item.landingSeconds?.toFixed(3) ?? "",
    item.landingErrorMs?.toFixed(1) ?? "",
    item.transition.kind,
    String(item.transition.endFrame - item.transition.startFrame),
    safeCell(item.words.join(" / ").replace(/\s*\n\s*/g, ", ")),
  ]);
  return `\uFEFF${papaparse.unparse([COLUMNS, ...rows], { newline: "\r\n" })}\r\n`;
}

/** A spreadsheet would take these for formulas. */
const safeCell = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);
