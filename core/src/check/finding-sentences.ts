import { decibelText } from "../language/index.ts";
import type { WordPlace } from "../show/index.ts";
import { clockText } from "../time/index.ts";
import type { Finding, FindingOf } from "./finding.ts";
import type { Fix } from "./fix.ts";

/** What a person reads about a finding: the rule, the value, and the likely cause. */
export function findingText(finding: Finding): string {
  const text = (SENTENCES[finding.kind] as (values: Finding["values"]) => string)(finding.values);
  return finding.onlyInOutputs ? `In ${finding.place.outputs.join(", ")}: ${text}` : text;
}

type Sentences = { readonly [Kind in Finding["kind"]]: (values: FindingOf<Kind>["values"]) => string };

const SENTENCES: Sentences = {
  lock({ lock, slide }) {
    const name = slide ?? "a slide that is not in the film";
    if (lock === "stays") return `There is no room for ${name}, which is always kept.`;
    const what = lock === "passage" ? "start of a passage" : `${lock} of ${name}`;
    return `The lock on the ${what} is not kept: it contradicts other locks, or lies outside of the film.`;
  },
  landing: ({ slide, frames }) =>
    `The change to ${slide} is ${frames.toFixed(2)} frames away from its landing; half a frame is the most.`,
  "slide-short": ({ slide, seconds, leastSeconds }) =>
    `${slide} is seen for ${seconds.toFixed(2)} s; a picture is kept in mind after ${leastSeconds} s. Its pace or its ` +
    "neighbours leave it no more room.",
  "words-short": ({ slide, seenSeconds, neededSeconds, wordsPerMinute }) =>
    `The words on ${slide} are seen for ${seenSeconds.toFixed(1)} s and take ${neededSeconds.toFixed(1)} s to read, ` +
    `at ${wordsPerMinute} words a minute (BBC Subtitle Guidelines) and half a second to find them.`,
  enlarged: ({ slide, width, height, times, mostTimes, output, outputWidth, outputHeight }) =>
    `${slide} (${width} × ${height}) is shown ${times.toFixed(2)} times as large as it is in ${output} ` +
    `(${outputWidth} × ${outputHeight}) and looks soft; up to ${mostTimes} times is not seen. A larger file of it ` +
    "would help most.",
  "head-cut": ({ slide, outputs }) =>
    `The frame cuts a head on ${slide} in ${outputs.join(", ")}. A frame or subject that was put by hand does that, ` +
    "and pictures beside each other that are too narrow for their people.",
  "words-empty": ({ slide, isCard }) =>
    isCard
      ? `${slide} is a card without words: only its background is seen.`
      : `${slide} has words of which nothing is written yet: nothing is seen of them.`,
  "words-on-face": ({ slide, words, outputs }) =>
    `“${words}” lies on a face on ${slide} in ${outputs.join(", ")}. The place was chosen for the words, or no other ` +
    "is free.",
  "subject-cut": ({ slide, outputs }) =>
    `The subject of ${slide} leaves the frame in ${outputs.join(", ")}. A frame that was put by hand, or a picture ` +
    "much wider or higher than the film, does that.",
  bars: ({ slide, edges, share }) =>
    `${slide} has dark bars at ${edges} (${Math.round(100 * share)} % each) that nobody asked for. They are in the ` +
    "file itself.",
  "narrow-gap": ({ slide, output, share }) =>
    `${slide} leaves a strip of ${(100 * share).toFixed(1)} % beside it in ${output}. It is too narrow to be meant: ` +
    "the frame was put a little beside the picture.",
  "media-missing": ({ name, use }) =>
    `The file of ${name} is not in the data folder any more (${use}). Bring it in again on Gather: it is known by its ` +
    "content.",
  "media-changed": ({ name, use }) =>
    `The file of ${name} has changed in the data folder since it came in (${use}): a damaged disk, or another ` +
    "program. Bring it in again on Gather.",
  "music-cut": ({ endSeconds, fadeSeconds, leastSeconds }) =>
    `The music is cut off at ${clockText(endSeconds)}: it goes on there, and fades out within ` +
    `${fadeSeconds.toFixed(2)} s. At least ${leastSeconds} s are needed to end by ear.`,
  "fade-off-bar"({ startSeconds, offSeconds, isTrimmed }) {
    const why = isTrimmed ? "The song's end was trimmed off a bar." : "There is no bar near enough to the film's end.";
    const off = `${offSeconds.toFixed(2)} s away from the nearest bar`;
    return `The music begins to fade at ${clockText(startSeconds)}, ${off}. ${why}`;
  },
  flashes({ fromSeconds, toSeconds, isRed, share, mostInASecond, clip }) {
    const why =
      clip === null ? "Quick changes between light and dark pictures do that." : `It may lie in the clip ${clip}.`;
    return (
      `Between ${clockText(fromSeconds)} and ${clockText(toSeconds)} the picture flashes ` +
      `${isRed ? "in saturated red " : ""}more than ${mostInASecond} times within a second, over ` +
      `${Math.round(100 * Math.min(1, share))} % of a field of view (WCAG 2.3.1: at most ${mostInASecond} times, or ` +
      `25 %). Such light can cause seizures. ${why}`
    );
  },
  "flash-refused": ({ slide }) =>
    `The light flash into ${slide} would be the fourth within a second and is a dissolve instead (WCAG 2.3.1: no more ` +
    "than three).",
  loudness({ lufs, wishedLufs, softestLufs, loudestLufs }) {
    if (lufs === null) return "The film is silent, or too short to be measured (0.4 s). Is every song muted?";
    const measured = `The film comes to ${decibelText(lufs)} LUFS (ITU-R BS.1770)`;
    if (wishedLufs !== null)
      return (
        `${measured} where ${decibelText(wishedLufs)} are wished. Its peaks, or what is hardly there, leave no room ` +
        "for more."
      );
    return (
      `${measured}, ${lufs > loudestLufs ? "louder" : "softer"} than films usually are (${decibelText(softestLufs)} ` +
      `to ${decibelText(loudestLufs)}); no loudness is wished for it.`
    );
  },
  "true-peak": ({ dbtp, highestDbtp }) =>
    `The sound peaks at ${decibelText(dbtp)} dBTP; above ${decibelText(highestDbtp)} (EBU R 128) players may distort it.`,
  sound: ({ remark }) => remark,
};

const PLACE_NAMES: Readonly<Record<WordPlace, string>> = {
  "top-left": "at the top left",
  top: "at the top",
  "top-right": "at the top right",
  left: "at the left",
  middle: "in the middle",
  right: "at the right",
  "bottom-left": "at the bottom left",
  bottom: "at the bottom",
  "bottom-right": "at the bottom right",
};

/** The button that does it. */
export function fixLabel(finding: Finding, fix: Fix): string {
  switch (fix.kind) {
    case "stand":
      return `Let it stand for ${fix.seconds.toFixed(1)} s`;
    case "leaveOut":
      return "Leave the slide out";
    case "view":
      return finding.kind === "bars" ? "Cut the bars off" : "Show it smaller, on its fill";
    case "frameByRule":
      return finding.kind === "subject-cut" || finding.kind === "head-cut"
        ? "Frame it around the subject"
        : "Frame it automatically";
    case "showWhole":
      return "Show all of it";
    case "moveWords":
      return `Put the words ${PLACE_NAMES[fix.place]}`;
    case "dissolve":
      return "Dissolve there";
    case "unlock":
      return "Free it";
    case "fadeByRule":
      return "Fade where the rule has it: on a bar";
    case "loudness":
      return `Bring it to ${decibelText(fix.lufs)} LUFS`;
    case "removeVoice":
      return "Remove the voice";
  }
}
