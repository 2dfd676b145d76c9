import type { Grid } from "../grid/index.ts";
import type { PlannedEntrance, PlannedWords, WordTime } from "../picture/index.ts";
import { type FrameRate, type Frames, framesPerSecond } from "../time/index.ts";
import { JOINED_FONTS } from "../words/index.ts";
import { beatFrame } from "./beat-frame.ts";

/** All of the words are there after this share of their time at the latest. */
const LATEST = 0.4;
/** A line takes so long to appear, letter by letter so much longer. */
const LINE_SECONDS = 0.5;
const LETTERS_SECONDS = 0.9;
/** Lines follow one another on beats, but not faster than that. */
const LEAST_STEP_SECONDS = 0.3;

/**
 * When the lines of words appear that do not simply fade: the first with the words, each of the
 * others on a beat after it. Where too little time would be left to read them, or letters are
 * joined and cannot be set apart, they fade. O(lines log beats).
 */
export function withEntrance(
  words: PlannedWords,
  time: WordTime,
  neededSeconds: number,
  beats: Grid["beats"],
  rate: FrameRate,
): WordTime {
  if (words.entrance === "fade") return time;
  const fps = framesPerSecond(rate);
  const frames = time.endFrame - time.startFrame - time.fadeOutFrames;
  if (words.entrance === "track") {
    if (words.lines.some(({ font }) => JOINED_FONTS.has(font))) return time;
    const unitFrames = time.endFrame - time.startFrame;
    const { startFrame } = time;
    return {
      ...time,
      entrance: { kind: "track", lineFrames: words.lines.map(() => startFrame), unitFrames, ornamentFrame: startFrame },
    };
  }
  const unitFrames = Math.round((words.entrance === "letters" ? LETTERS_SECONDS : LINE_SECONDS) * fps);
  const lineFrames: Frames[] = [];
  const next = (after: Frames): Frames => {
    const least = Math.round(after + LEAST_STEP_SECONDS * fps);
    return beatFrame(beats, rate, least, time.endFrame, "first") ?? least;
  };
  let at = words.entrance === "rule" ? next(time.startFrame) : time.startFrame;
  for (const text of words.text.split("\n")) {
    lineFrames.push(at);
    if (text.trim() !== "") at = next(at);
  }
  const entrance: PlannedEntrance = {
    kind: words.entrance,
    lineFrames,
    unitFrames,
    ornamentFrame: time.startFrame,
  };
  const last = Math.max(...lineFrames) + unitFrames - time.startFrame;
  const isReadable = frames - last / 2 >= neededSeconds * fps;
  return last <= LATEST * frames && isReadable ? { ...time, fadeInFrames: 0, entrance } : time;
}
