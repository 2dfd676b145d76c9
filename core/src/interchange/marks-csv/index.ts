import papaparse from "papaparse";
import { present } from "../../presence/index.ts";
import {
  type BeatMark,
  byTime,
  type MarkerMark,
  type Marks,
  markerKind,
  readSeconds,
  unreadable,
} from "../marks/index.ts";

const COLUMNS = ["seconds", "type", "position", "name"] as const;

/**
 * A header, then a line a mark in order of time: seconds, type (beat or the marker's kind),
 * position in the bar, name. RFC 4180.
 */
export function writeMarksCsv({ beats, markers }: Marks): string {
  const rows = [
    ...beats.map((beat) => ({ seconds: beat.seconds, cells: ["beat", String(beat.position), ""] })),
    ...markers.map((marker) => ({ seconds: marker.seconds, cells: [marker.kind ?? "marker", "", marker.name] })),
  ];
  const lines = byTime(rows).map(({ seconds, cells }) => [seconds.toFixed(6), ...cells]);
  return papaparse.unparse([[...COLUMNS], ...lines], { newline: "\r\n" });
}

/**
 * Reads columns by their names in any order: `seconds` (or `time`, `start`) is needed, `type`,
 * `position`, `name` are not. Separated by comma, semicolon or tab. A type that is no kind of
 * marker and not `beat` is a marker without a kind; a line without a type is a beat if it has no
 * name. Throws `marks-unreadable` with the line.
 */
export function readMarksCsv(text: string): Marks {
  const beats: BeatMark[] = [];
  const markers: MarkerMark[] = [];
  let header: string[] | null = null;
  let row = 0;
  papaparse.parse(text.replace(/^\uFEFF/, ""), {
    delimitersToGuess: [",", ";", "\t"],
    step({ data }) {
      row++;
      if (data.every((cell) => cell.trim() === "")) return;
      const place = `Line ${row}`;
      if (!header) {
        header = data.map((cell) => cell.trim().toLowerCase());
        if (!header.some((name) => ["seconds", "time", "start"].includes(name)))
          throw unreadable(
            place,
            `the first line names the columns, and one of them is "seconds"; found: ${data.join(", ").slice(0, 80)}.`,
          );
        return;
      }
      const cell = (...names: string[]): string =>
        data[present(header).findIndex((name) => names.includes(name))]?.trim() ?? "";
      const seconds = readSeconds(cell("seconds", "time", "start"), place);
      const type = cell("type", "kind").toLowerCase();
      const name = cell("name", "label", "text");
      if (type === "beat" || (type === "" && name === "")) {
        const position = Number(cell("position", "beat") || 0);
        if (!Number.isInteger(position) || position < 0)
          throw unreadable(place, `a position in the bar is a whole number, but "${cell("position", "beat")}" is not.`);
        beats.push({ seconds, position });
      } else markers.push({ seconds, name, kind: markerKind(type) });
    },
  });
  return { beats: byTime(beats), markers: byTime(markers) };
}
