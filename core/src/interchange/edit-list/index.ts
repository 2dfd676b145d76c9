import type { HummingTideError } from "../../errors/index.ts";
import { itemAt, lastOf, present } from "../../presence/index.ts";
import {
  type FrameRate,
  type Frames,
  frameOfTimecode,
  frameRateName,
  framesPerSecond,
  timecode,
} from "../../time/index.ts";
import { interchangeError } from "../interchange-errors.ts";
import type { ImportedTimeline, Timeline, TimelineItem } from "../timeline/index.ts";

/**
 * Edit list after CMX 3600 (the form that programs share, common practice): one picture track, an
 * event for each picture, cuts and dissolves. A dissolve's event begins where the dissolve does.
 * Record times count from one hour, as programmes do; stills count from 0 in their own reel.
 */
const FIRST_HOUR = "01:00:00";
const MOST_EVENTS = 999;
const REEL_LETTERS = 8;
const BLANK_REEL = "BL";

/**
 * Whether an edit list can count a rate: its timecode has two digits for the frame and knows no
 * more than 30 of them.
 */
export const editListHolds = (rate: FrameRate): boolean => Math.round(framesPerSecond(rate)) <= 30;

/** Labels are left out at 30000/1001 alone. */
const dropsFrames = (rate: FrameRate): boolean => rate.num * 1001 === 30_000 * rate.den;

/**
 * Writes an edit list. Transitions other than cut and dissolve become dissolves, with a comment
 * that names them; clips at another speed have a motion line. Throws `edit-list-rate` for rates
 * above 30, and `edit-list-long` beyond 999 events.
 */
export function writeEditList(timeline: Timeline): string {
  const { rate, items, totalFrames } = timeline;
  if (!editListHolds(rate)) throw interchangeError("edit-list-rate", { frameRate: frameRateName(rate) });
  if (items.length > MOST_EVENTS) throw interchangeError("edit-list-long", { events: items.length, most: MOST_EVENTS });
  const drop = dropsFrames(rate);
  const first = present(frameOfTimecode(`${FIRST_HOUR}${drop ? ";" : ":"}00`, rate));
  const record = (frame: Frames): string => timecode(first + frame, rate, drop);
  // Reels are counted without gaps: a still or a clip has no tape whose labels could be left out.
  const source = (frame: Frames): string => timecode(Math.max(0, frame), rate, false);
  const reels = reelNames(items);
  const beginOf = (index: number): number => itemAt(items, index).transition.startFrame;
  const lines = [
    `TITLE: ${plainLine(timeline.name, 70) || "UNTITLED"}`,
    `FCM: ${drop ? "DROP FRAME" : "NON-DROP FRAME"}`,
    "",
  ];
  for (const [index, item] of items.entries()) {
    const number = String(index + 1).padStart(3, "0");
    const begin = index === 0 ? 0 : beginOf(index);
    const end = index + 1 < items.length ? beginOf(index + 1) : totalFrames;
    const length = item.transition.endFrame - item.transition.startFrame;
    const from = sourceFrame(item, begin, rate);
    const to = from + Math.round((end - begin) * (item.clip?.speed ?? 1));
    const line = (reel: string, kind: string, duration: string, ...times: string[]): string =>
      `${number}  ${reel.padEnd(REEL_LETTERS)} V     ${kind.padEnd(4)} ${duration.padStart(3)} ${times.join(" ")}`;
    if (index > 0 && length > 0) {
      const before = itemAt(items, index - 1);
      const out = source(sourceFrame(before, begin, rate));
      lines.push(
        line(itemAt(reels, index - 1), "C", "", out, out, record(begin), record(begin)),
        line(
          itemAt(reels, index),
          "D",
          String(length).padStart(3, "0"),
          source(from),
          source(to),
          record(begin),
          record(end),
        ),
        `* FROM CLIP NAME: ${plainLine(before.name)}`,
        `* TO CLIP NAME: ${plainLine(item.name)}`,
      );
      if (item.transition.kind !== "dissolve") lines.push(`* TRANSITION: ${item.transition.kind}, here as a dissolve`);
    } else {
      lines.push(
        line(itemAt(reels, index), "C", "", source(from), source(to), record(begin), record(end)),
        `* FROM CLIP NAME: ${plainLine(item.name)}`,
      );
    }
    if (item.clip && Math.abs(item.clip.speed - 1) > 1e-6)
      lines.push(
        `M2   ${itemAt(reels, index).padEnd(REEL_LETTERS)} ` +
          `${(item.clip.speed * framesPerSecond(rate)).toFixed(1).padStart(5, "0")}       ${source(from)}`,
      );
    lines.push("");
  }
  return lines.join("\r\n");
}

/**
 * The frame of a picture's own time that is shown in a frame of the film. A still has run since its
 * event began.
 */
function sourceFrame(item: TimelineItem, frame: Frames, rate: FrameRate): Frames {
  if (!item.clip) return Math.max(0, frame - item.transition.startFrame);
  const seconds = item.clip.startSeconds + ((frame - item.startFrame) / framesPerSecond(rate)) * item.clip.speed;
  return Math.round(Math.max(0, seconds) * framesPerSecond(rate));
}

/** Eight letters and digits at most, the same for the same file and no other. */
function reelNames(items: readonly TimelineItem[]): string[] {
  const byFile = new Map<string, string>();
  const taken = new Set<string>([BLANK_REEL, "AX"]);
  return items.map(({ fileName }) => {
    if (fileName === null) return BLANK_REEL;
    const known = byFile.get(fileName);
    if (known) return known;
    const stem = fileName
      .replace(/\.[^.]*$/, "")
      .toUpperCase()
      .replace(/[^A-Z0-9]/g, "");
    let reel = stem.slice(0, REEL_LETTERS) || "REEL";
    for (let count = 2; taken.has(reel); count++)
      reel = `${(stem || "REEL").slice(0, REEL_LETTERS - String(count).length)}${count}`;
    taken.add(reel);
    byFile.set(fileName, reel);
    return reel;
  });
}

/** One line of printable characters. */
const plainLine = (text: string, most = 200): string =>
  text
    .replace(/[\p{C}]+/gu, " ")
    .trim()
    .slice(0, most);

const EVENT =
  /^(\d{3,6})\s+(\S+)\s+(\S+)\s+([CDW]|K[BO]?)(\d{3})?\s*(\d{1,3})?\s+(\d\d:\d\d:\d\d[:;]\d\d)\s+(\d\d:\d\d:\d\d[:;]\d\d)\s+(\d\d:\d\d:\d\d[:;]\d\d)\s+(\d\d:\d\d:\d\d[:;]\d\d)\s*$/;

/**
 * Reads where the pictures of an edit list begin, at a rate that the list does not name itself: a
 * cut where its event begins, a dissolve or wipe in its middle. Only picture events count. Throws
 * `edit-list-unreadable` with the line.
 */
export function readEditList(text: string, rate: FrameRate): ImportedTimeline {
  const items: { name: string; startFrame: Frames; endFrame: Frames }[] = [];
  const remarks: string[] = [];
  let title = "";
  let first: number | null = null;
  let other = 0;
  const lines = text.replace(/^\uFEFF/, "").split(/\r\n|\n|\r/);
  for (const [index, line] of lines.entries()) {
    const name = /^\*\s*(?:FROM|TO) CLIP NAME:\s*(.*)$/i.exec(line);
    if (/^TITLE:/i.test(line)) title = line.slice(6).trim();
    else if (name && items.length > 0) {
      // Of a dissolve both are named: the last is the one that comes in.
      lastOf(items).name = itemAt(name, 1).trim();
    } else if (/^\d{3,6}\s/.test(line)) {
      const found = EVENT.exec(line.trim());
      if (!found)
        throw unreadable(
          index,
          `an event reads "001  REEL  V  C  in out in out" with four timecodes, but this is "${line.slice(0, 60)}".`,
        );
      const [, , reel, channel, , , duration, , , recordIn, recordOut] = found as unknown as string[];
      if (!/V|B/i.test(present(channel))) {
        other++;
        continue;
      }
      const [begin, end] = [present(recordIn), present(recordOut)].map((label) => frameOfTimecode(label, rate)) as [
        number | null,
        number | null,
      ];
      if (begin === null || end === null)
        throw unreadable(
          index,
          `${begin === null ? recordIn : recordOut} is no timecode at ${frameRateName(rate)} frames a second.`,
        );
      if (begin === end) continue;
      if (end < begin) throw unreadable(index, "its event ends before it begins.");
      first ??= begin;
      const half = Math.floor(Number(duration ?? 0) / 2);
      const startFrame = begin - first + (items.length > 0 ? half : 0);
      const before = items.at(-1);
      if (before) before.endFrame = startFrame;
      items.push({ name: present(reel), startFrame, endFrame: end - first });
    }
  }
  if (items.length === 0) throw unreadable(0, "there is no picture event in it.");
  if (other > 0) remarks.push(`${other} events of sound or other tracks are passed over.`);
  return { name: title, rate, items, remarks };
}

const unreadable = (line: number, why: string): HummingTideError =>
  interchangeError("edit-list-unreadable", { line: line + 1, why });
