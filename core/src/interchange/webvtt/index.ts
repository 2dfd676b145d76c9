import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { byTime, type MarkerMark, markerKind, unreadable } from "../marks/index.ts";

/**
 * WebVTT (W3C) with a cue a marker: from its time to the next marker's, the last one to
 * `endSeconds`; the cue's identifier is the marker's kind, its text the name. Markers that would
 * have no duration last a millisecond.
 */
export function writeWebVtt(markers: readonly MarkerMark[], endSeconds: Seconds): string {
  const cues = byTime(markers).map((marker, i, all) => {
    const end = Math.max(all[i + 1]?.seconds ?? endSeconds, marker.seconds + 0.001);
    const text = escaped(marker.name.replace(/\s+/g, " ").trim()) || "-";
    return `${marker.kind ?? "marker"}\n${timestamp(marker.seconds)} --> ${timestamp(end)}\n${text}\n`;
  });
  return ["WEBVTT\n", ...cues].join("\n");
}

const TIMING = /^\s*((?:\d{2,}:)?\d{2}:\d{2}\.\d{3})\s+-->\s+((?:\d{2,}:)?\d{2}:\d{2}\.\d{3})(?:\s.*)?$/;

/**
 * The start of each cue as a marker: its text without tags is the name, its identifier the kind
 * where it is one. Notes, styles and regions are skipped. Throws `marks-unreadable` with the line
 * where the file is no WebVTT or a timing cannot be read.
 */
export function readWebVtt(text: string): MarkerMark[] {
  const lines = text.replace(/^\uFEFF/, "").split(/\r\n|\n|\r/);
  if (!/^WEBVTT(?:[ \t]|$)/.test(lines[0] ?? ""))
    throw unreadable("Line 1", 'a WebVTT file begins with the word "WEBVTT".');
  const markers: MarkerMark[] = [];
  for (let i = 1; i < lines.length; ) {
    if (itemAt(lines, i).trim() === "") {
      i++;
      continue;
    }
    const end = lines.findIndex((line, k) => k > i && line.trim() === "");
    const block = lines.slice(i, end < 0 ? lines.length : end);
    const timed = block.findIndex((line) => line.includes("-->"));
    if (timed > 1)
      throw unreadable(`Line ${i + timed + 1}`, "a cue's timing comes first or after one line with its identifier.");
    if (timed >= 0) {
      const found = TIMING.exec(itemAt(block, timed));
      if (!found)
        throw unreadable(
          `Line ${i + timed + 1}`,
          `a timing reads "00:01.000 --> 00:02.000", but this is "${itemAt(block, timed).slice(0, 60)}".`,
        );
      const name = unescaped(
        block
          .slice(timed + 1)
          .join(" ")
          .replace(/<[^>]*>/g, ""),
      ).trim();
      markers.push({
        seconds: secondsOf(itemAt(found, 1)),
        name: name === "-" ? "" : name,
        kind: timed === 1 ? markerKind(itemAt(block, 0)) : null,
      });
    }
    i += block.length;
  }
  return byTime(markers);
}

function timestamp(seconds: Seconds): string {
  const ms = Math.round(seconds * 1000);
  const two = (value: number): string => String(Math.floor(value)).padStart(2, "0");
  return `${two(ms / 3_600_000)}:${two((ms / 60_000) % 60)}:${two((ms / 1000) % 60)}.${String(ms % 1000).padStart(3, "0")}`;
}

function secondsOf(text: string): number {
  return Math.round(1000 * text.split(":").reduce((sum, part) => sum * 60 + Number(part), 0)) / 1000;
}

const ESCAPES: readonly (readonly [string, string])[] = [
  ["&", "&amp;"],
  ["<", "&lt;"],
  [">", "&gt;"],
];

function escaped(text: string): string {
  return ESCAPES.reduce((all, [plain, code]) => all.replaceAll(plain, code), text);
}

function unescaped(text: string): string {
  return ESCAPES.toReversed().reduce((all, [plain, code]) => all.replaceAll(code, plain), text);
}
