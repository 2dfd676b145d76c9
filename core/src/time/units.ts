/** Units as types, so that a number of frames cannot be passed where seconds are meant. */

declare const unit: unique symbol;
type Unit<Name extends string> = number & { readonly [unit]: Name };

/** A time or a length in seconds. */
export type Seconds = Unit<"seconds">;
/** A whole number of frames, counted from 0 at the start of the film. */
export type Frames = Unit<"frames">;

/** Marks a number as seconds. */
export const seconds = (value: number): Seconds => value as Seconds;
/** Marks a number as frames. */
export const frames = (value: number): Frames => value as Frames;
