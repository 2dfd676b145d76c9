import { type FrameRate, framesPerSecond } from "./frame-rate.ts";
import { type Frames } from "./units.ts";

/**
 * Timecode after SMPTE ST 12-1. Drop-frame counting leaves out labels at the start of every minute
 * that is not a multiple of ten: ;00 and ;01, at 59.94 ;00 to ;03; no frame is dropped, only
 * labels. It exists for 30000/1001 and 60000/1001 alone; all other rates count on without gaps.
 */
export function canDropFrame(rate: FrameRate): boolean {
  return rate.den === 1001 && (rate.num === 30000 || rate.num === 60000);
}

/**
 * "HH:MM:SS:FF", or "HH:MM:SS;FF" in drop-frame. Hours run on past 24 rather than wrapping, so
 * labels stay unique.
 */
export function timecode(frame: Frames, rate: FrameRate, dropFrame = canDropFrame(rate)): string {
  const base = Math.round(framesPerSecond(rate));
  const label = dropFrame && canDropFrame(rate) ? frame + droppedLabels(frame, base) : frame;
  const pad = (value: number): string => String(value).padStart(2, "0");
  const totalSeconds = Math.floor(label / base);
  const separator = dropFrame && canDropFrame(rate) ? ";" : ":";
  return `${pad(Math.floor(totalSeconds / 3600))}:${pad(Math.floor(totalSeconds / 60) % 60)}:${pad(totalSeconds % 60)}${separator}${pad(label % base)}`;
}

/**
 * How many labels have been left out before a frame: 18 (36) in every ten minutes, 2 (4) a minute
 * after the first.
 */
function droppedLabels(frame: Frames, base: number): number {
  const dropPerMinute = base / 15;
  const framesPerMinute = base * 60 - dropPerMinute;
  const framesPerTenMinutes = framesPerMinute * 10 + dropPerMinute;
  const tens = Math.floor(frame / framesPerTenMinutes);
  const rest = frame % framesPerTenMinutes;
  const minutes = rest < dropPerMinute ? 0 : Math.floor((rest - dropPerMinute) / framesPerMinute);
  return dropPerMinute * (9 * tens + minutes);
}

/**
 * The frame that a timecode names. Labels that drop-frame leaves out do not name a frame and give
 * null.
 */
export function frameOfTimecode(text: string, rate: FrameRate): Frames | null {
  const match = /^(\d{2,}):([0-5]\d):([0-5]\d)([:;])(\d{2})$/.exec(text);
  if (!match) return null;
  const [hours, minutes, secs, frame] = [match[1], match[2], match[3], match[5]].map(Number) as [
    number,
    number,
    number,
    number,
  ];
  const base = Math.round(framesPerSecond(rate));
  if (frame >= base) return null;
  const label = (hours * 3600 + minutes * 60 + secs) * base + frame;
  if (match[4] === ":") return label;
  if (!canDropFrame(rate)) return null;
  const dropPerMinute = base / 15;
  if (secs === 0 && frame < dropPerMinute && minutes % 10 !== 0) return null;
  const totalMinutes = hours * 60 + minutes;
  return label - dropPerMinute * (totalMinutes - Math.floor(totalMinutes / 10));
}
