import {
  type BesidePicture,
  chosenDirection,
  coveringFrame,
  coversFrame,
  coversSharply,
  coversWithHeads,
  drawnPicture,
  type Ground,
  insetCells,
  insideMargin,
  isAsTaken,
  layoutCells,
  type MoveDirection,
  type PictureSlot,
  type PlannedClip,
  type PlannedMove,
  placedPicture,
  placeShares,
  type Rectangle,
  restView,
  ruledViews,
  type Size,
  type Subject,
  safeArea,
  shapeOf,
  shifted,
  subjectAt,
  turnedSize,
  turnSubject,
} from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import {
  type Fill,
  fillIn,
  hasPicture,
  type Look,
  type MorePicture,
  type PictureSlide,
  type ShowDocument,
  type Slide,
  type Style,
} from "../show/index.ts";
import { framesPerSecond, nearestFrame } from "../time/index.ts";
import { filmError } from "./film-errors.ts";
import type { FilmFacts, SeenMedia } from "./film-facts.ts";
import { type FrameSpan, type LaidSlide, lotName, type MusicalMoments, type SlideTimes } from "./laid-slide.ts";
import { lengthInSeconds } from "./length-in-seconds.ts";
import { musicalTiming, steadyTiming } from "./move-timing.ts";
import { planClip } from "./plan-clip.ts";

type Framed = Pick<
  PictureSlot,
  "picture" | "look" | "cell" | "beside" | "border" | "overlay" | "graphic" | "move" | "ground" | "subject"
> & {
  /** As it is drawn, after all turning. */
  readonly pictureSize: Size;
  /** In pixels of the frame, at both ends of the move. */
  readonly heads: readonly Rectangle[];
};

const headsIn = ({ heads }: Seen, { start, end }: PlannedMove): Rectangle[] =>
  heads.flatMap((head) =>
    [start, end].map((placed) => ({
      x: placed.x + head.x * placed.width,
      y: placed.y + head.y * placed.height,
      width: head.width * placed.width,
      height: head.height * placed.height,
    })),
  );

const grown = ({ x, y, width, height }: Rectangle, by: number): Rectangle => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

/** What of a picture is known for framing it. */
interface Seen {
  readonly picture: string;
  readonly size: Size;
  readonly subject: Subject | null;
  /** As they were found in the file, wherever a person put the subject. */
  readonly heads: readonly Rectangle[];
}

/** What is meant by the fill "auto" for one picture in its frame. */
type PlannedFill = Exclude<Fill, { kind: "auto" }> | { readonly kind: "stack" };

/** Pictures that share a slide's frame with its own. */
interface Company {
  readonly others: readonly Seen[];
  /** Of all of them; where they lie over the own picture, of the others. */
  readonly cells: readonly Rectangle[];
  /**
   * Which of the cells is the own picture's; null: it has the frame, and the others lie over it.
   */
  readonly ownAt: number | null;
  readonly entersOnBeats: boolean;
}

const MIDDLE = { x: 0.5, y: 0.5 };
const BLUR = { kind: "blur" } as const;
const NO_GROUND: Ground = { kind: "colour", colour: "#000000" };
/**
 * Between a picture and its neighbours where they stand beside it as its fill, as a share of the
 * frame's shorter side.
 */
const NEIGHBOUR_GAP = 0.008;
/** Which slides may stand below one in an upright frame: the nearest first. */
const PAIR_STEPS = [1, -1, 2, -2, 3, -3];
/** Pictures that come in on beats are all there when this much of the slide has gone. */
const ALL_IN_SHARE = 0.6;
const LONGEST_ENTRY_SECONDS = 0.4;

/**
 * Places the pictures of slides in their frames, one slide after the other: what moves by rule
 * never moves as the slide before.
 */
export class Framer {
  readonly #show: ShowDocument;
  readonly #facts: Pick<FilmFacts, "seen">;
  readonly #shape: string;
  readonly #laid: readonly LaidSlide[];
  readonly #unit: number;
  /** What may stand beside a picture, whether it found room in the film or not. */
  readonly #kept: readonly Slide[];
  #before: MoveDirection | null = null;
  /** What stood beside the picture of the slide before. */
  #besideBefore: readonly string[] = [];

  constructor(show: ShowDocument, facts: Pick<FilmFacts, "seen">, laid: readonly LaidSlide[]) {
    this.#show = show;
    this.#facts = facts;
    this.#laid = laid;
    this.#shape = shapeOf(show.size);
    this.#unit = Math.min(show.size.width, show.size.height);
    this.#kept = show.slides.filter(({ rating }) => rating !== "out");
  }

  /** Of the slide at an index. Throws `missing-picture`. */
  frame(index: number, style: Style, times: SlideTimes, moments: MusicalMoments): Framed {
    const { slide } = itemAt(this.#laid, index);
    const around = { border: null, overlay: this.#overlay(style), graphic: this.#graphic(style) };
    if (!hasPicture(slide)) return { ...around, ...this.#card(index, style, times.seen) };
    const { edge } = style;
    const border = edge.kind === "border" ? { colour: edge.colour, width: this.#pixels(edge.width) } : null;
    return { ...around, border, ...this.#pictures(index, slide, style, times, moments) };
  }

  /** What is shown of a clip; null for everything else. */
  clip(index: number, { seen }: SlideTimes, moments: MusicalMoments): PlannedClip | null {
    const { slide, startFrame, endFrame } = itemAt(this.#laid, index);
    if (!hasPicture(slide)) return null;
    return planClip(
      slide,
      this.#stored(slide),
      { startFrame, endFrame },
      seen.startFrame,
      moments,
      this.#show.frameRate,
    );
  }

  #pictures(
    index: number,
    slide: PictureSlide,
    style: Style,
    times: SlideTimes,
    moments: MusicalMoments,
  ): Omit<Framed, "border" | "overlay" | "graphic"> {
    const { size: frame } = this.#show;
    const stored = this.#stored(slide);
    const own = this.#seen(slide, stored);
    const look = isAsTaken(style.look) ? null : style.look;
    const { edge } = style;
    const area = edge.kind === "mat" ? insideMargin(frame, edge.width * this.#unit) : { x: 0, y: 0, ...frame };
    const name = lotName(itemAt(this.#laid, index));
    // A clip moves by itself: the rule leaves it where it is, and only what a person wishes moves
    // it.
    const wish =
      stored.durationSeconds !== undefined && style.move.kind === "rule"
        ? { ...style, move: { ...style.move, kind: "still" as const } }
        : style;
    const fill = this.#plannedFill(style, own, area);
    const company = this.#company(index, slide, fill, own, area);
    this.#besideBefore = company?.others.map(({ picture }) => picture) ?? [];
    const ownAt = company?.ownAt ?? null;
    const cell = company && ownAt !== null ? itemAt(company.cells, ownAt) : edge.kind === "mat" ? area : null;
    const views = ownAt === null ? slide.views : [];
    // Where heads forbid that a frame is filled, what stands beside them is as small as it can be.
    const covers = ownAt !== null || fill.kind === "crop" || fill.kind === "stack";
    const asked = { move: wish.move, fill: covers ? ({ kind: "crop" } as const) : BLUR };
    const move = this.#move(own, name, asked, views, cell ?? area, times.seen, moments);
    const beside = company
      ? company.others.map((other, i): BesidePicture => {
          const place = itemAt(company.cells, ownAt === null || i < ownAt ? i : i + 1);
          const filling = { move: wish.move, fill: { kind: "crop" } as const };
          const moved = this.#move(other, `${name} beside ${i}`, filling, [], place, times.seen, moments);
          const subject = other.subject?.point ?? MIDDLE;
          return { picture: other.picture, cell: place, move: moved, subject, isOver: ownAt === null, enters: null };
        })
      : [];
    const enters = company?.entersOnBeats ? this.#entries(beside.length, times.standing, moments) : null;
    const isCovered = cell === null && coversFrame(move.start, frame) && coversFrame(move.end, frame);
    const ground: Ground =
      edge.kind === "mat"
        ? { kind: "colour", colour: edge.colour }
        : this.#ground(fill, look, this.#blurOf(slide, look));
    return {
      picture: own.picture,
      look,
      cell,
      pictureSize: own.size,
      move,
      beside: enters ? beside.map((one, i) => ({ ...one, enters: itemAt(enters, i) })) : beside,
      heads: [
        ...headsIn(own, move),
        ...beside.flatMap((one, i) => (company ? headsIn(itemAt(company.others, i), one.move) : [])),
      ],
      ground: isCovered ? null : ground,
      subject: own.subject?.point ?? MIDDLE,
    };
  }

  #fillOf = (style: Style): Fill => fillIn(style, this.#shape);

  /**
   * In a frame that is taller than wide, "auto" fills it with picture: with one where no head is
   * cut and the picture stays sharp, else with two of which one stands above the other.
   */
  #plannedFill(style: Style, { size, subject }: Seen, area: Rectangle): PlannedFill {
    const fill = this.#fillOf(style);
    if (fill.kind !== "auto") return fill;
    if (area.height <= area.width) return BLUR;
    const fits = coversWithHeads(size, area, subject) && coversSharply(size, area);
    return { kind: fits ? "crop" : "stack" };
  }

  /**
   * Who stands beside a slide's own picture, and where each of them does; null for a picture by
   * itself.
   */
  #company(index: number, slide: PictureSlide, fill: PlannedFill, own: Seen, area: Rectangle): Company | null {
    const more = slide.more.flatMap((other) => {
      const stored = this.#facts.seen(other.sha256);
      return stored ? [this.#seen(other, stored)] : [];
    });
    if (more.length > 0) {
      const { kind, gap, onBeats } = slide.layout;
      if (kind === "over") {
        const insets = insetCells(
          more.map(({ size }) => size),
          slide.layout,
          area,
          gap * this.#unit,
        );
        return { others: more, cells: insets, ownAt: null, entersOnBeats: onBeats };
      }
      const cells = layoutCells(kind, more.length + 1, area, gap * this.#unit);
      return { others: more, cells, ownAt: 0, entersOnBeats: onBeats };
    }
    // A frame by hand is of the whole film.
    if (slide.views.some(({ shape }) => shape === this.#shape)) return null;
    if (fill.kind === "stack") return this.#stack(slide, own, area);
    if (fill.kind !== "neighbours" || !this.#leavesRoom(own, area)) return null;
    const [before, after] = [-1, 1].map((step) => this.#neighbour(index + step, slide, own, area));
    const others = [before, after].filter((one) => one !== null && one !== undefined);
    if (others.length === 0) return null;
    const isNarrow = own.size.width / own.size.height < area.width / area.height;
    // Beside each other they would be thinner still in an upright frame.
    if (isNarrow && area.height > area.width) return null;
    const cells = layoutCells(isNarrow ? "row" : "column", others.length + 1, area, NEIGHBOUR_GAP * this.#unit);
    return { others, cells, ownAt: before ? 1 : 0, entersOnBeats: false };
  }

  /**
   * The picture above one that stands near it in the show, the next if it can be. Null where none
   * makes a pair that is better than the picture alone. O(slides).
   */
  #stack(slide: PictureSlide, own: Seen, area: Rectangle): Company | null {
    const place = this.#kept.findIndex(({ id }) => id === slide.id);
    if (place < 0) return null;
    const gap = NEIGHBOUR_GAP * this.#unit;
    // Between them only: around them they fill the frame.
    const cells = layoutCells("column", 2, grown(area, gap), gap);
    const cell = itemAt(cells, 0);
    // The pair that has just been seen does not come again the other way round.
    const isShown = this.#besideBefore.includes(own.picture);
    const others = PAIR_STEPS.filter((step) => !(isShown && step === -1))
      .flatMap((step) => this.#stillBeside(this.#kept[place + step], slide) ?? [])
      .filter(({ picture, size }) => size.width >= size.height && picture !== own.picture);
    const paired = (fits: (one: Seen) => boolean): Seen | undefined => (fits(own) ? others.find(fits) : undefined);
    const keepsHeads = ({ size, subject }: Seen): boolean => coversWithHeads(size, cell, subject);
    const staysSharp = (one: Seen): boolean => keepsHeads(one) && coversSharply(one.size, cell);
    // A soft pair is better than bands, but not better than one soft picture.
    const other = paired(staysSharp) ?? (coversWithHeads(own.size, area, own.subject) ? undefined : paired(keepsHeads));
    return other ? { others: [other], cells, ownAt: 0, entersOnBeats: true } : null;
  }

  /** Whether a picture by itself is shown whole, beside something else. */
  #leavesRoom({ size, subject }: Seen, area: Rectangle): boolean {
    return restView(size, area, subject, BLUR).zoom < 1;
  }

  /** A still picture of the same passage that leaves room on the same sides. */
  #neighbour(index: number, slide: Slide, own: Seen, area: Rectangle): Seen | null {
    const seen = this.#stillBeside(this.#laid[index]?.slide, slide);
    const isNarrow = ({ size }: Seen): boolean => size.width / size.height < area.width / area.height;
    return seen && this.#leavesRoom(seen, area) && isNarrow(seen) === isNarrow(own) ? seen : null;
  }

  /** The picture of a slide in the same passage, if it stands there by itself and is no clip. */
  #stillBeside(other: Slide | undefined, slide: Slide): Seen | null {
    if (!other || !hasPicture(other) || other.passageId !== slide.passageId || other.more.length > 0) return null;
    const stored = this.#facts.seen(other.sha256);
    return stored && stored.durationSeconds === undefined ? this.#seen(other, stored) : null;
  }

  /**
   * The first beats of a slide, one for each picture; null where there are too few of them early
   * enough.
   */
  #entries(count: number, standing: FrameSpan, { grid: { beats } }: MusicalMoments): readonly FrameSpan[] | null {
    const { frameRate } = this.#show;
    const fps = framesPerSecond(frameRate);
    const last = standing.startFrame + ALL_IN_SHARE * (standing.endFrame - standing.startFrame);
    const frames = beats
      .map((beat) => nearestFrame(beat.seconds, frameRate))
      .filter((frame) => frame > standing.startFrame && frame <= last)
      .slice(0, count);
    if (frames.length < count) return null;
    return frames.map((startFrame) => {
      const beatSeconds = lengthInSeconds({ unit: "beats", count: 1 }, startFrame / fps, beats);
      const length = Math.round(Math.min(LONGEST_ENTRY_SECONDS, beatSeconds / 2) * fps);
      return { startFrame, endFrame: startFrame + length };
    });
  }

  #move(
    { size: picture, subject }: Seen,
    name: string,
    style: Pick<Style, "move"> & { readonly fill: Fill },
    views: Slide["views"],
    area: Rectangle,
    seen: FrameSpan,
    moments: MusicalMoments,
  ): PlannedMove {
    const { standsStill, frameRate, seed } = this.#show;
    const own = views.find(({ shape }) => shape === this.#shape);
    const rest = restView(picture, area, subject, style.fill);
    const timing = style.move.withMusic
      ? (musicalTiming(seen, moments, frameRate) ?? steadyTiming(seen))
      : steadyTiming(seen);
    const between = (start: typeof rest, end: typeof rest): PlannedMove => ({
      start: shifted(placedPicture(start, picture, area), area),
      end: shifted(placedPicture(standsStill ? start : end, picture, area), area),
      ...timing,
    });
    const direction =
      own || standsStill ? null : chosenDirection(style.move, seed, name, this.#before, rest, picture, area);
    this.#before = direction;
    if (own) return between(own.start, own.end);
    if (!direction) return between(rest, rest);
    const lasting = (timing.endFrame - timing.startFrame) / framesPerSecond(frameRate);
    const { strength } = style.move;
    const { start, end } = ruledViews({
      picture,
      frame: area,
      rest,
      subject,
      direction,
      strength,
      seconds: lasting,
    });
    return between(start, end);
  }

  /**
   * A card has a ground only. Where its fill would be made of its own picture, that of a neighbour
   * stands in: of the next slide that has one, else of the one before.
   */
  #card(
    index: number,
    style: Style,
    { startFrame, endFrame }: FrameSpan,
  ): Omit<Framed, "border" | "overlay" | "graphic"> {
    const { size: frame } = this.#show;
    this.#before = null;
    const slides = this.#laid.map(({ slide }) => slide);
    const neighbour = slides.slice(index).find(hasPicture) ?? slides.slice(0, index).findLast(hasPicture);
    const whole = { x: 0, y: 0, ...frame };
    const look = isAsTaken(style.look) ? null : style.look;
    return {
      picture: null,
      look,
      cell: null,
      beside: [],
      pictureSize: frame,
      heads: [],
      move: { start: whole, end: whole, startFrame, endFrame: endFrame - 1, eased: false },
      ground: this.#ground(this.#fillOf(style), look, neighbour ? this.#blurOf(neighbour, look) : NO_GROUND),
      subject: MIDDLE,
    };
  }

  /** Of a fill; a blurred copy where another picture is no longer there. */
  #ground(fill: Fill | PlannedFill, look: Look | null, blur: Ground): Ground {
    const { size: frame } = this.#show;
    if (fill.kind === "colour") return { kind: "colour", colour: fill.colour };
    const other = fill.kind === "picture" ? this.#facts.seen(fill.sha256) : undefined;
    if (fill.kind !== "picture" || !other) return blur;
    const image = { picture: fill.sha256, of: "picture", look } as const;
    return { kind: "image", image, target: coveringFrame(other, frame) };
  }

  /**
   * A soft copy has the tone of its picture, but no levels: it has lost the tones that those are
   * measured from.
   */
  #blurOf(slide: PictureSlide, look: Look | null): Ground {
    const toned = look && { ...look, levels: 0 };
    const image = {
      picture: drawnPicture(slide.sha256, slide.turn),
      of: "fill",
      look: toned && !isAsTaken(toned) ? toned : null,
    } as const;
    const target = coveringFrame(turnedSize(this.#stored(slide), slide.turn), this.#show.size);
    return { kind: "image", image, target };
  }

  #overlay({ overlay: { kind, strength } }: Style): Framed["overlay"] {
    if (kind === "none" || strength === 0) return null;
    const { seed, frameRate } = this.#show;
    return { kind, strength, seed, framesPerSecond: framesPerSecond(frameRate) };
  }

  #graphic({ graphic }: Style): Framed["graphic"] {
    const stored = graphic.kind === "own" ? this.#facts.seen(graphic.sha256) : undefined;
    if (graphic.kind !== "own" || !stored) return null;
    const scale = (graphic.size * this.#unit) / Math.max(stored.width, stored.height);
    const [width, height] = [stored.width * scale, stored.height * scale];
    const safe = safeArea(this.#show.size, "title");
    const at = placeShares(graphic.place);
    const target = {
      x: safe.x + at.x * (safe.width - width),
      y: safe.y + at.y * (safe.height - height),
      width,
      height,
    };
    return { picture: graphic.sha256, target, opacity: graphic.opacity };
  }

  #seen({ sha256, turn, subject }: PictureSlide | MorePicture, stored: SeenMedia): Seen {
    const found = stored.subject ? turnSubject(stored.subject, turn) : null;
    return {
      picture: drawnPicture(sha256, turn),
      size: turnedSize(stored, turn),
      subject: subject ? subjectAt(subject) : found,
      heads: found?.heads ?? [],
    };
  }

  #stored({ sha256, fileName }: PictureSlide): SeenMedia {
    const stored = this.#facts.seen(sha256);
    if (stored) return stored;
    throw filmError("missing-picture", { picture: fileName });
  }

  #pixels(share: number): number {
    return Math.max(1, Math.round(share * this.#unit));
  }
}
