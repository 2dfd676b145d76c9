/** How slides look: transitions, moves, fills, letters, layouts. */
export { FIRST_LAYOUT, LAYOUT_KINDS, type Layout, layoutSchema } from "./layout.ts";
export {
  type CaptionStyle,
  FILM_FONTS,
  type FilmFont,
  type Letters,
  WORD_KINDS,
  WORD_PLACES,
  type WordPlace,
  type Words,
  wordsSchema,
} from "./letters.ts";
export { type Edge, type Graphic, LOOK_KINDS, type Look, OVERLAY_KINDS, type Overlay } from "./looks.ts";
export {
  AS_ABOVE,
  type DrawnTransition,
  FIRST_CAPTIONS,
  FIRST_LETTERS,
  FIRST_LOOKS,
  FIRST_STYLE,
  type Fill,
  fillIn,
  MOVE_KINDS,
  type MoveWish,
  PUSH_DIRECTIONS,
  type Style,
  type StyleWishes,
  styleSchema,
  styleWishesSchema,
  styleWith,
  type TransitionWish,
  TURN_DIRECTIONS,
  VARIED_KINDS,
  WIPE_DIRECTIONS,
  withShapeFill,
} from "./style.ts";
