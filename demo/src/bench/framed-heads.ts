import { type PlannedPicture, planPictures, type SeenMedia } from "@humming-tide/core/film";
import { areaOf, type Rectangle, type Size } from "@humming-tide/core/picture";
import { changeStyle, newShowDocument, newSlide, type Style } from "@humming-tide/core/show";

/** Shapes that films have. */
export const FRAMES: Readonly<Record<string, Size>> = {
  "16:9": { width: 1920, height: 1080 },
  "4:5": { width: 1080, height: 1350 },
  "1:1": { width: 1080, height: 1080 },
  "9:16": { width: 1080, height: 1920 },
};

/** A head is cut where more than this of it lies beyond the frame; boxes are no more exact. */
const SLACK = 0.06;
/** Slides stand for six seconds at 25 frames a second, and beats come twice a second. */
const SLIDE_FRAMES = 150;
const BEAT_SECONDS = 0.5;

/** A picture and what framing knows of it. */
export interface FramedPhotograph {
  readonly name: string;
  readonly seen: SeenMedia;
}

/** The photographs, one slide each, as a film of this size frames them; `fill` null: by default. */
export function framed(
  photographs: readonly FramedPhotograph[],
  size: Size,
  fill: Style["fill"] | null,
): PlannedPicture[] {
  const styled = changeStyle(newShowDocument("Lantern regatta"), { kind: "show" }, { fill });
  const laid = photographs.map(({ name }, i) => ({
    slide: newSlide({ id: `s${i}`, sha256: hashOf(i), fileName: name }),
    round: 0,
    startFrame: i * SLIDE_FRAMES,
    endFrame: (i + 1) * SLIDE_FRAMES,
    landingSeconds: (i * SLIDE_FRAMES) / 25,
  }));
  const beats = Array.from({ length: (photographs.length * SLIDE_FRAMES) / 25 / BEAT_SECONDS }, (_, i) => ({
    seconds: i * BEAT_SECONDS,
    position: (i % 4) + 1,
    confidence: 1,
  }));
  const seen = new Map(photographs.map((photograph, i) => [hashOf(i), photograph.seen]));
  const show = { ...styled, size, slides: laid.map(({ slide }) => slide) };
  return planPictures(show, laid, { seen: (sha256) => seen.get(sha256) }, { grid: { beats }, accents: [] });
}

const hashOf = (index: number): string => index.toString(16).padStart(64, "0");
/** Which of the photographs a picture of a slot is. */
export const indexOfPicture = (picture: string): number => Number.parseInt(picture.slice(0, 64), 16);

/** How many of these heads are whole in what is drawn, at both ends of the move. */
export function wholeHeads(slot: PlannedPicture, size: Size, heads: readonly Rectangle[]): number {
  const area = areaOf(slot, size);
  return heads.filter((head) => [slot.move.start, slot.move.end].every((placed) => isWhole(head, placed, area))).length;
}

function isWhole(head: Rectangle, placed: Rectangle, area: Rectangle): boolean {
  const [width, height] = [head.width * placed.width, head.height * placed.height];
  const left = placed.x + head.x * placed.width - area.x;
  const top = placed.y + head.y * placed.height - area.y;
  return (
    Math.max(-left, left + width - area.width) <= SLACK * width &&
    Math.max(-top, top + height - area.height) <= SLACK * height
  );
}

/** How much of a frame is picture and not what stands beside it, 0 to 1, at the move's start. */
export function pictureShare(slot: PlannedPicture, size: Size): number {
  const cells = [
    { placed: slot.move.start, area: areaOf(slot, size) },
    ...slot.beside.map(({ move, cell }) => ({ placed: move.start, area: cell })),
  ];
  const covered = cells.reduce((sum, { placed, area }) => {
    const across = Math.min(placed.x + placed.width, area.x + area.width) - Math.max(placed.x, area.x);
    const down = Math.min(placed.y + placed.height, area.y + area.height) - Math.max(placed.y, area.y);
    return sum + Math.max(0, across) * Math.max(0, down);
  }, 0);
  return covered / (size.width * size.height);
}
