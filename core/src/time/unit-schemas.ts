import type { z } from "zod";
import type { Frames, Milliseconds, Seconds } from "./units.ts";

/** What is read by a schema of numbers, as a unit. The schema stays as it is. */
type Reads<Unit> = (schema: z.ZodType<number, number>) => z.ZodType<Unit, Unit>;

/** A schema of numbers whose results are seconds. */
export const asSeconds: Reads<Seconds> = (schema) => schema;
/** A schema of numbers whose results are thousandths of a second. */
export const asMilliseconds: Reads<Milliseconds> = (schema) => schema;
/** A schema of numbers whose results are frames of the film. */
export const asFrames: Reads<Frames> = (schema) => schema;
