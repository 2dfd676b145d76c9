/**
 * Units as types. A value of one unit cannot be given where another one is meant: frames are no
 * seconds. A plain number can be given anywhere, so that arithmetic and literals read as usual;
 * what comes out of it has a unit again where its name says so.
 */

declare const unit: unique symbol;
/** The property is never there: it only tells one unit from another. */
type Unit<Name extends string> = number & { readonly [unit]?: Name };

/** A time or a length in seconds. */
export type Seconds = Unit<"seconds">;
/** A time or a length in thousandths of a second. */
export type Milliseconds = Unit<"milliseconds">;
/** A whole number of frames of the film: a count, or a place counted from 0 at its start. */
export type Frames = Unit<"frames">;
/** A whole number of samples of one channel. */
export type Samples = Unit<"samples">;
