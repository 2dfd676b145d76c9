import { z } from "zod";

export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/);

export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/);
