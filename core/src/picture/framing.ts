import type { Fill } from "../show/index.ts";
import type { Point, View } from "../values/index.ts";
import { clamp, MIDDLE, type Rectangle, type Size, shifted } from "./geometry.ts";
import type { Subject } from "./subject.ts";

/**
 * How much of a picture may be cropped away to cover the frame: 16 % of one side, just enough for a
 * 3:2 photograph in a 16:9 film. More than that is shown whole beside a fill, so that no subject is
 * cut off unseen.
 */
export const LARGEST_CROP = 0.16;
/**
 * Where it is known what must stay in view, and it does: 27 %, enough for a 4:3 photograph in a
 * 16:9 film.
 */
export const LARGEST_KNOWN_CROP = 0.27;
/** More pixels of the film on a pixel of the picture look soft. Common practice. */
export const MOST_ENLARGED = 1.5;
/** However long a slide stands, it goes no farther: pictures have only so many pixels. */
export const LARGEST_ZOOM = 1.22;
/**
 * Where the subject comes to lie in the frame if it can: in the middle, and a little above it.
 * Common practice.
 */
const SUBJECT_PLACE: Point = { x: 0.5, y: 0.42 };
/**
 * Where nothing is known: of what is cropped from the height, this share goes from the top, since
 * heads are nearer to it than feet to the bottom.
 */
const TOP_SHARE = 0.35;

/** What shows all of a picture: 1 where it has the frame's shape, else less. */
export const wholeZoom = (picture: Size, frame: Size): number =>
  Math.min(frame.width / picture.width, frame.height / picture.height) /
  Math.max(frame.width / picture.width, frame.height / picture.height);

/** Where the whole picture lies for a view, in pixels of the frame; it may reach beyond it. */
export function placedPicture({ centre, zoom }: View, picture: Size, frame: Size): Rectangle {
  const scale = zoom * Math.max(frame.width / picture.width, frame.height / picture.height);
  const [width, height] = [picture.width * scale, picture.height * scale];
  return { x: frame.width / 2 - centre.x * width, y: frame.height / 2 - centre.y * height, width, height };
}

/** The view that places a picture there; the inverse of `placedPicture`. */
export function viewOf(placed: Rectangle, picture: Size, frame: Size): View {
  const cover = Math.max(frame.width / picture.width, frame.height / picture.height);
  return {
    centre: { x: (frame.width / 2 - placed.x) / placed.width, y: (frame.height / 2 - placed.y) / placed.height },
    zoom: placed.width / (picture.width * cover),
  };
}

/** The view of a picture that lies in a part of the frame, as `viewOf` has it for the whole. */
export const viewIn = (placed: Rectangle, picture: Size, area: Rectangle): View =>
  viewOf(shifted(placed, { x: -area.x, y: -area.y }), picture, area);

/**
 * What a view shows of a picture, in shares of it; beyond 0 and 1 where the frame shows more than
 * the picture.
 */
export function seenPart(view: View, picture: Size, frame: Size): Rectangle {
  const placed = placedPicture(view, picture, frame);
  return {
    x: -placed.x / placed.width,
    y: -placed.y / placed.height,
    width: frame.width / placed.width,
    height: frame.height / placed.height,
  };
}

/**
 * A view of this zoom that has a place of the picture as near as can be to where a subject belongs.
 * It shows nothing beside the picture.
 */
export function viewAround(point: Point, zoom: number, picture: Size, frame: Size): View {
  const part = seenPart({ centre: MIDDLE, zoom }, picture, frame);
  const along = (place: number, shown: number, wanted: number): number =>
    shown >= 1 ? 0.5 : clamp(place + (0.5 - wanted) * shown, shown / 2, 1 - shown / 2);
  return {
    centre: {
      x: along(point.x, part.width, SUBJECT_PLACE.x),
      y: along(point.y, part.height, SUBJECT_PLACE.y),
    },
    zoom,
  };
}

/**
 * Moves a view by as little as can be so that all of a region is seen; where it is larger than the
 * view, its middle.
 */
export function keepingInView(view: View, region: Rectangle, picture: Size, frame: Size): View {
  const part = seenPart(view, picture, frame);
  const along = (centre: number, shown: number, from: number, length: number): number => {
    if (shown >= 1) return centre;
    const wanted = length >= shown ? from + length / 2 : clamp(centre, from + length - shown / 2, from + shown / 2);
    return clamp(wanted, shown / 2, 1 - shown / 2);
  };
  return {
    centre: {
      x: along(view.centre.x, part.width, region.x, region.width),
      y: along(view.centre.y, part.height, region.y, region.height),
    },
    zoom: view.zoom,
  };
}

/** Whether all of a region is seen; a thousandth of the picture is forgiven. */
export function showsRegion(view: View, region: Rectangle, picture: Size, frame: Size): boolean {
  const part = seenPart(view, picture, frame);
  return (
    region.x >= part.x - 1e-3 &&
    region.y >= part.y - 1e-3 &&
    region.x + region.width <= part.x + part.width + 1e-3 &&
    region.y + region.height <= part.y + part.height + 1e-3
  );
}

/** Whether a picture can cover a frame with all its heads in view; true where none was found. */
export const coversWithHeads = (picture: Size, frame: Size, subject: Subject | null): boolean =>
  !subject?.heads?.length || showsRegion(coveringView(picture, frame, subject), subject.region, picture, frame);

/** Whether a picture that covers a frame stays sharp, wherever its move goes. */
export const coversSharply = (picture: Size, frame: Size): boolean =>
  Math.max(frame.width / picture.width, frame.height / picture.height) * LARGEST_ZOOM <= MOST_ENLARGED;

/** Covers the frame, with as much of the subject as can be seen. */
const coveringView = (picture: Size, frame: Size, subject: Subject | null): View =>
  subject
    ? keepingInView(viewAround(subject.point, 1, picture, frame), subject.region, picture, frame)
    : unknownView(picture, frame);

/**
 * The view of a picture that stands still, by rule: it covers the frame where little is lost and
 * the subject stays in view, otherwise it is shown whole; with the fill "crop" it covers the frame
 * unless that would cut a head. O(1).
 */
export function restView(picture: Size, frame: Size, subject: Subject | null, fill: Fill): View {
  const whole = wholeZoom(picture, frame);
  const around = coveringView(picture, frame, subject);
  if (fill.kind === "crop")
    return subject?.heads?.length ? keepingHeads(around, subject.region, picture, frame) : around;
  const lost = 1 - whole;
  const isKept = subject !== null && showsRegion(around, subject.region, picture, frame);
  if (subject ? isKept && lost <= LARGEST_KNOWN_CROP : lost <= LARGEST_CROP) return around;
  return { centre: MIDDLE, zoom: whole };
}

/** Smaller than the frame by as little as heads need; a picture full of heads is shown whole. */
function keepingHeads(covering: View, region: Rectangle, picture: Size, frame: Size): View {
  if (showsRegion(covering, region, picture, frame)) return covering;
  const part = seenPart({ centre: MIDDLE, zoom: 1 }, picture, frame);
  const needed = Math.min(part.width / region.width, part.height / region.height);
  const zoom = Math.max(wholeZoom(picture, frame), Math.min(1, needed));
  const middle = { x: region.x + region.width / 2, y: region.y + region.height / 2 };
  return keepingInView(viewAround(middle, zoom, picture, frame), region, picture, frame);
}

function unknownView(picture: Size, frame: Size): View {
  const { height } = seenPart({ centre: MIDDLE, zoom: 1 }, picture, frame);
  return { centre: { x: 0.5, y: height >= 1 ? 0.5 : (1 - height) * TOP_SHARE + height / 2 }, zoom: 1 };
}
