import { z } from "zod";

/** What a studio is called and looks like on the pages of its clients. */
const name = z.string().trim().max(80);
/** Of buttons and marks; null: the program's own. */
const accent = z
  .string()
  .regex(/^#[0-9a-f]{6}$/i, "A colour like #f2b04c")
  .nullable();

export const studioIdentitySchema = z.object({
  name,
  accent,
  /** A picture as a data address (PNG with alpha); null: there is none. */
  logo: z.string().startsWith("data:image/png;base64,").nullable(),
});
export type StudioIdentity = z.infer<typeof studioIdentitySchema>;

export const changeStudioSchema = z.object({ name, accent });
export type ChangeStudio = z.infer<typeof changeStudioSchema>;

/** Of a studio that nobody has said anything about. */
export const FIRST_IDENTITY: StudioIdentity = { name: "", accent: null, logo: null };

/** The most bytes that a logo may have as it comes. */
export const LARGEST_LOGO_BYTES = 8 * 1024 * 1024;
