import type { FilmFacts, FilmPlan, FilmSlot } from "../film/index.ts";
import {
  areaOf,
  MOST_ENLARGED,
  type Rectangle,
  type Size,
  shapeOf,
  showsRegion,
  turnSubject,
  viewIn,
} from "../picture/index.ts";
import { itemAt, present } from "../presence/index.ts";
import { hasPicture, type MorePicture, type ShowDocument, type Slide } from "../show/index.ts";
import type { View } from "../values/index.ts";
import { placeOfSlot } from "./check-slides.ts";
import type { Finding } from "./finding.ts";

/**
 * A gap beside a picture that is narrower than this share of the frame looks like a mistake. Common
 * practice.
 */
const NARROW_GAP = 0.04;
/** Less is not seen. */
const NO_GAP = 0.002;
/** So much of a head may be beyond the frame: boxes around heads are no more exact. */
const HEAD_SLACK = 0.06;

/** A film in one of its outputs. */
export interface FilmOfOutput {
  readonly name: string;
  readonly plan: FilmPlan;
}

interface Framing {
  readonly output: string;
  readonly size: Size;
  readonly slot: FilmSlot;
  /** A person put the frame for films of this shape. */
  readonly isByHand: boolean;
  /** The slide's pictures as they are drawn, with the heads that were found in each. */
  readonly people: readonly People[];
}

interface People {
  readonly heads: readonly Rectangle[];
  readonly placed: readonly Rectangle[];
  /** Where alone the picture is seen. */
  readonly area: Rectangle;
}

/**
 * Pictures enlarged too much, heads and subjects cut off and narrow gaps beside a picture, in any
 * of the outputs: one finding a slot and kind, with the outputs that it concerns. Heads are those
 * that were found in the file, wherever a person put the subject.
 */
export function checkFraming(
  show: ShowDocument,
  films: readonly FilmOfOutput[],
  { seen }: Pick<FilmFacts, "seen">,
): Finding[] {
  const slides = new Map(show.slides.map((slide) => [slide.id, slide]));
  const bySlide = new Map<string, Framing[]>();
  for (const { name, plan } of films)
    for (const slot of plan.slots) {
      // A slide that comes again is framed as the first time.
      if (slot.picture === null || slot.round > 0) continue;
      const framings = bySlide.get(slot.slideId) ?? [];
      const slide = slides.get(slot.slideId);
      const isByHand = slide?.views.some(({ shape }) => shape === shapeOf(plan.size)) ?? false;
      const people = slide ? peopleOn(slide, slot, plan.size, seen) : [];
      framings.push({ output: name, size: plan.size, slot, isByHand, people });
      bySlide.set(slot.slideId, framings);
    }
  const main = films[0];
  return [...bySlide.values()].flatMap((framings) =>
    [enlarged, headCut, subjectCut, narrowGap].flatMap((check) => {
      const finding = check(framings);
      if (!finding || !main) return [];
      // The place is that of the first output, whose film is the one on the Score; a part that
      // shows a slide elsewhere names only the slide.
      const there = main.plan.slots.find((slot) => slot.slideId === itemAt(framings, 0).slot.slideId);
      const place = there
        ? placeOfSlot(main.plan, there)
        : { slotIndex: null, slideId: itemAt(framings, 0).slot.slideId, seconds: null };
      const outputs = finding.framings.map(({ output }) => output);
      return [{ ...finding.finding, place: { ...place, outputs: outputs.length === films.length ? [] : outputs } }];
    }),
  );
}

/** Of each kind by itself, so that kind and values stay together. */
type Unplaced<One> = One extends Finding ? Omit<One, "place"> : never;

type FoundFraming = {
  readonly finding: Unplaced<Finding>;
  readonly framings: readonly Framing[];
} | null;

/** Where a picture lies at both ends of its move. */
const placesOf = ({ slot: { move } }: Framing): readonly Rectangle[] => [move.start, move.end];

function enlargement(framing: Framing): number {
  return Math.max(...placesOf(framing).map((placed) => placed.width / framing.slot.pictureSize.width));
}

function enlarged(framings: readonly Framing[]): FoundFraming {
  const found = framings.filter((framing) => enlargement(framing) > MOST_ENLARGED + 1e-3);
  if (found.length === 0) return null;
  const worst = found.reduce((a, b) => (enlargement(b) > enlargement(a) ? b : a));
  const times = enlargement(worst);
  const { slot, size } = worst;
  const { width, height } = slot.pictureSize;
  const smaller = smallerView(worst, MOST_ENLARGED / times);
  return {
    framings: found,
    finding: {
      kind: "enlarged",
      severity: "warning",
      values: {
        slide: slot.name,
        width,
        height,
        times,
        mostTimes: MOST_ENLARGED,
        output: worst.output,
        outputWidth: size.width,
        outputHeight: size.height,
      },
      fixes: smaller ? [{ kind: "view", slideId: slot.slideId, shape: shapeOf(size), view: smaller }] : [],
    },
  };
}

/** Null for a picture among others, whose cell it has to cover. */
function smallerView({ slot, size }: Framing, factor: number): View | null {
  if (slot.cell) return null;
  const largest = slot.move.end.width > slot.move.start.width ? slot.move.end : slot.move.start;
  const { centre, zoom } = viewIn(largest, slot.pictureSize, areaOf(slot, size));
  const kept = (at: number): number => Math.max(0, Math.min(1, at));
  // Smaller than the frame it stands in its middle.
  const next = Math.max(0.05, Math.floor(zoom * factor * 1000) / 1000);
  return { centre: next < 1 ? { x: 0.5, y: 0.5 } : { x: kept(centre.x), y: kept(centre.y) }, zoom: next };
}

/** Pictures beside the slide's own are there in the order in which the slide names them. */
function peopleOn(slide: Slide, slot: FilmSlot, size: Size, seen: FilmFacts["seen"]): People[] {
  if (!hasPicture(slide)) return [];
  const headsOf = ({ sha256, turn }: Pick<MorePicture, "sha256" | "turn">): readonly Rectangle[] => {
    const subject = seen(sha256)?.subject;
    return (subject && turnSubject(subject, turn).heads) ?? [];
  };
  const own = { heads: headsOf(slide), placed: [slot.move.start, slot.move.end], area: areaOf(slot, size) };
  const beside = slot.beside.flatMap(({ move, cell }, i) => {
    const more = slide.more[i];
    return more ? [{ heads: headsOf(more), placed: [move.start, move.end], area: cell }] : [];
  });
  return [own, ...beside];
}

function headCut(framings: readonly Framing[]): FoundFraming {
  const found = framings.filter(({ people }) => people.some(cutsHead));
  const worst = found[0];
  if (!worst) return null;
  const { slideId, name } = worst.slot;
  const shapesOf = (some: readonly Framing[]): string[] => [...new Set(some.map(({ size }) => shapeOf(size)))];
  const byHand = shapesOf(found.filter(({ isByHand }) => isByHand));
  const alone = found.every(({ slot }) => slot.beside.length === 0);
  return {
    framings: found,
    finding: {
      kind: "head-cut",
      severity: "warning",
      values: { slide: name, outputs: found.map(({ output }) => output) },
      fixes: [
        ...(byHand.length > 0 ? [{ kind: "frameByRule", slideId, shapes: byHand } as const] : []),
        ...(alone ? [{ kind: "showWhole", slideId, shapes: shapesOf(found) } as const] : []),
      ],
    },
  };
}

/** Whether a head lies partly or wholly beyond what is seen, at either end of the move. */
function cutsHead({ heads, placed, area }: People): boolean {
  return placed.some((picture) =>
    heads.some((head) => {
      const left = picture.x + head.x * picture.width;
      const top = picture.y + head.y * picture.height;
      const [width, height] = [head.width * picture.width, head.height * picture.height];
      const beyond = Math.max(area.x - left, left + width - area.x - area.width) / width;
      const above = Math.max(area.y - top, top + height - area.y - area.height) / height;
      return Math.max(beyond, above) > HEAD_SLACK;
    }),
  );
}

function subjectCut(framings: readonly Framing[]): FoundFraming {
  // Where heads are cut, that is said.
  const found = framings.filter(({ slot, size, people }) => cutsSubject(slot, size) && !people.some(cutsHead));
  const worst = found[0];
  if (!worst) return null;
  const shapes = [...new Set(found.map(({ size }) => shapeOf(size)))];
  const { slideId, name } = worst.slot;
  return {
    framings: found,
    finding: {
      kind: "subject-cut",
      severity: "warning",
      values: { slide: name, outputs: found.map(({ output }) => output) },
      fixes: [
        { kind: "frameByRule", slideId, shapes },
        { kind: "showWhole", slideId, shapes },
      ],
    },
  };
}

/** Whether the subject's place leaves the frame at either end of the move. */
export function cutsSubject(slot: FilmSlot, size: Size): boolean {
  if (slot.picture === null) return false;
  const area = areaOf(slot, size);
  const point = { ...slot.subject, width: 0, height: 0 };
  return [slot.move.start, slot.move.end].some(
    (placed) => !showsRegion(viewIn(placed, slot.pictureSize, area), point, slot.pictureSize, area),
  );
}

function narrowGap(framings: readonly Framing[]): FoundFraming {
  const found = framings.filter((framing) => gapOf(framing) !== null);
  const worst = found[0];
  if (!worst) return null;
  const share = present(gapOf(worst));
  const { slideId, name } = worst.slot;
  return {
    framings: found,
    finding: {
      kind: "narrow-gap",
      severity: "warning",
      values: { slide: name, output: worst.output, share, leastShare: NARROW_GAP },
      fixes: [{ kind: "frameByRule", slideId, shapes: [...new Set(found.map(({ size }) => shapeOf(size)))] }],
    },
  };
}

/**
 * The widest of the narrow strips beside a picture that a person framed; null where there is none.
 * What the rule shows whole is meant.
 */
function gapOf(framing: Framing): number | null {
  const { slot, size, isByHand } = framing;
  if (!isByHand || slot.cell || slot.beside.length > 0) return null;
  const strips = placesOf(framing).flatMap((placed) => [
    placed.x / size.width,
    placed.y / size.height,
    1 - (placed.x + placed.width) / size.width,
    1 - (placed.y + placed.height) / size.height,
  ]);
  const narrow = strips.filter((strip) => strip > NO_GAP && strip < NARROW_GAP);
  return narrow.length > 0 ? Math.max(...narrow) : null;
}
