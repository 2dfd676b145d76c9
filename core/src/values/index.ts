/** Small values that several rooms share, with the bounds that they are checked by. */
export { type FilmLength, lengthSchema } from "./film-length.ts";
export { frameRateSchema, frameSizeSchema } from "./frame.ts";
export { DEFAULT_ACCENTS_PER_PHRASE, MOST_ACCENTS_PER_PHRASE, type Pace, paceSchema } from "./pace.ts";
export { type Point, pointSchema, type View, viewSchema } from "./point.ts";
export { colourSchema, filmShapeSchema, sha256Schema } from "./text-forms.ts";
