import { z } from "zod";

export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/);

export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/);

/** The shape of a film, in lowest terms: "16:9". */
export const filmShapeSchema = z.string().regex(/^\d{1,5}:\d{1,5}$/);
