import { type BeatMark, byTime, type MarkerMark, type Marks, readSeconds, unreadable } from "../marks/index.ts";

/**
 * Two-column beat text: one line a beat, `seconds<TAB>position in bar` (1 starts a bar, 0 is
 * unknown); no beats, no text.
 */
export function writeBeatsText(beats: readonly BeatMark[]): string {
  return beats.map((beat) => `${beat.seconds.toFixed(6)}\t${beat.position}\n`).join("");
}

const LARGEST_POSITION = 64;

/**
 * Reads a line a beat: seconds, then after blanks, a comma or a semicolon the place in the bar,
 * which may be missing. A second column that is no number makes the line a marker of that name.
 * Label tracks of sound editors are such files, also with three columns: seconds, end, name. Lines
 * that begin with # and empty ones are skipped. Throws `marks-unreadable` with the line.
 */
export function readBeatsText(text: string): Marks {
  const beats: BeatMark[] = [];
  const markers: MarkerMark[] = [];
  for (const [index, line] of text
    .replace(/^\uFEFF/, "")
    .split(/\r\n|\n|\r/)
    .entries()) {
    if (line.trim() === "" || line.trimStart().startsWith("#")) continue;
    const place = `Line ${index + 1}`;
    const [time = "", ...rest] = line.trim().split(/\t|[,;]\s*| +/);
    const seconds = readSeconds(time, place);
    const second = rest[0];
    if (second === undefined || /^\d+$/.test(second)) {
      const position = Number(second ?? 0);
      if (position > LARGEST_POSITION)
        throw unreadable(place, `a bar has at most ${LARGEST_POSITION} beats, but this is beat ${position}.`);
      beats.push({ seconds, position });
    } else if (Number.isFinite(Number(second)) && rest.length > 1) {
      markers.push({ seconds, name: rest.slice(1).join(" "), kind: null });
    } else if (Number.isFinite(Number(second))) {
      // Beat positions with decimals ("1.0") are written by numeric packages.
      beats.push({ seconds, position: Math.round(Number(second)) });
    } else markers.push({ seconds, name: rest.join(" "), kind: null });
  }
  return { beats: byTime(beats), markers: byTime(markers) };
}
