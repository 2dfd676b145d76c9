import { itemAt } from "../presence/index.ts";
import type { EntranceState } from "./entrance.ts";
import type { WordsPart } from "./frame-plan.ts";
import { clamp, type Rectangle, type Size } from "./geometry.ts";
import type { DrawnWords, Surface2D, WordPiece } from "./surface.ts";

/** Letters that appear one after the other: so many at a time, each by a fade. */
const LETTERS_AT_A_TIME = 4;
/** Words that open slowly begin so much narrower than they are. */
const TRACK = 0.07;

/** Lays drawn words on a surface, standing, scrolling or appearing. O(letters that appear). */
export function drawWords<Image>(
  surface: Surface2D<Image>,
  size: Size,
  part: WordsPart,
  { pieces, height }: DrawnWords<Image>,
  alpha: number,
): void {
  const { scrolled, entrance, placement } = part;
  const down = scrolled === null ? 0 : size.height - scrolled * (size.height + height);
  /** Draws what lies in `from` of a piece, in pixels of the film, at another place. */
  const lay = (piece: WordPiece<Image>, from: Rectangle, to: Rectangle, own: number): void => {
    const top = to.y + down;
    if (own <= 0 || from.width <= 0 || from.height <= 0 || top >= size.height || top + to.height <= 0) return;
    const { image, target } = piece;
    const [across, along] = [image.width / target.width, image.height / target.height];
    surface.globalAlpha = alpha * part.alpha * own;
    surface.drawImage(
      image.image,
      (from.x - target.x) * across,
      (from.y - target.y) * along,
      from.width * across,
      from.height * along,
      placement.scale * to.x + placement.x,
      placement.scale * top + placement.y,
      placement.scale * to.width,
      placement.scale * to.height,
    );
  };
  const middle = entrance?.kind === "track" ? middleOf(pieces) : 0;
  for (const piece of pieces) {
    if (entrance) drawAppearing(piece, entrance, middle, lay);
    else lay(piece, piece.target, piece.target, 1);
  }
}

type Lay<Image> = (piece: WordPiece<Image>, from: Rectangle, to: Rectangle, alpha: number) => void;

function drawAppearing<Image>(piece: WordPiece<Image>, entrance: EntranceState, middle: number, lay: Lay<Image>): void {
  const { target, role, line, cuts } = piece;
  const share = entrance.lines[line] ?? 1;
  if (role === "ornament") {
    drawOrnament(piece, entrance, lay);
    return;
  }
  if (role === "ground") {
    lay(piece, target, target, Math.max(entrance.ornament, ...entrance.lines));
    return;
  }
  if (entrance.kind === "track") {
    const factor = 1 - TRACK * (1 - entrance.whole);
    const moved = (x: number): number => middle + factor * (x - middle);
    if (role === "letters")
      for (const slice of slices(target, cuts)) {
        const centre = slice.x + slice.width / 2;
        lay(piece, slice, { ...slice, x: moved(centre) - slice.width / 2 }, 1);
      }
    // Soft shapes may be drawn together; nobody sees that they are narrower.
    else lay(piece, target, { ...target, x: moved(target.x), width: factor * target.width }, 1);
    return;
  }
  if (entrance.kind === "letters") {
    const all = slices(target, cuts);
    for (const [i, slice] of all.entries()) {
      const come = share * (all.length + LETTERS_AT_A_TIME) - i;
      lay(piece, slice, slice, clamp(come / LETTERS_AT_A_TIME, 0, 1));
    }
    return;
  }
  if (entrance.kind === "rise") {
    // As if they came up from behind an edge below their line.
    const shown = share * target.height;
    lay(piece, { ...target, height: shown }, { ...target, y: target.y + target.height - shown, height: shown }, 1);
    return;
  }
  lay(piece, target, target, share);
}

/** A rule draws from its middle outwards. */
function drawOrnament<Image>(piece: WordPiece<Image>, { kind, ornament }: EntranceState, lay: Lay<Image>): void {
  const { target } = piece;
  if (kind !== "rule") {
    lay(piece, target, target, ornament);
    return;
  }
  const isUpright = target.height > 2 * target.width;
  const seen = isUpright
    ? { ...target, y: target.y + ((1 - ornament) / 2) * target.height, height: ornament * target.height }
    : { ...target, x: target.x + ((1 - ornament) / 2) * target.width, width: ornament * target.width };
  lay(piece, seen, seen, 1);
}

/** A piece cut between its letters. */
function slices(target: Rectangle, cuts: readonly number[]): Rectangle[] {
  const edges = [target.x, ...cuts, target.x + target.width];
  return edges.slice(1).map((edge, i) => ({ ...target, x: itemAt(edges, i), width: edge - itemAt(edges, i) }));
}

/** Of all letters. */
function middleOf<Image>(pieces: readonly WordPiece<Image>[]): number {
  const letters = pieces.filter(({ role }) => role === "letters").map(({ target }) => target);
  const left = Math.min(...letters.map(({ x }) => x));
  const right = Math.max(...letters.map(({ x, width }) => x + width));
  return (left + right) / 2;
}
