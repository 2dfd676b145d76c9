import { z } from "zod";
import { fixSchema } from "./fix.ts";

/** What a check can find. */
export const FINDING_KINDS = [
  "lock",
  "landing",
  "slide-short",
  "words-short",
  "enlarged",
  "subject-cut",
  "bars",
  "media-missing",
  "media-changed",
  "music-cut",
  "fade-off-bar",
  "flashes",
  "flash-refused",
  "loudness",
  "true-peak",
  "sound",
] as const;

export const findingSchema = z.object({
  kind: z.enum(FINDING_KINDS),
  /** "error": the film is not fit to be handed over; "warning": somebody should look; "hint": good to know. */
  severity: z.enum(["error", "warning", "hint"]),
  /** Of the film: the slot's index and id where it concerns one, seconds where it can be seen or heard. */
  place: z.object({
    slotIndex: z.number().int().nullable(),
    slideId: z.string().nullable(),
    seconds: z.number().nullable(),
    /** Names of the outputs that it concerns; empty: all. */
    outputs: z.array(z.string()),
  }),
  /** The rule, the value and the likely cause, as a sentence or two. */
  text: z.string(),
  /** What was measured, and the limit that it is beyond. */
  value: z.number(),
  limit: z.number(),
  unit: z.enum(["frames", "s", "times", "share", "flashes", "LUFS", "dBTP", "files"]),
  fixes: z.array(z.object({ label: z.string(), fix: fixSchema })),
});
/** Something about a film that a person should know before it is handed over. */
export type Finding = z.infer<typeof findingSchema>;
export type Severity = Finding["severity"];

const RANK: Readonly<Record<Severity, number>> = { error: 0, warning: 1, hint: 2 };

/** The gravest first; those alike in the order of the film, what concerns all of it at the end. */
export function sortedFindings(findings: readonly Finding[]): Finding[] {
  const at = ({ place }: Finding): number => place.seconds ?? Number.POSITIVE_INFINITY;
  return [...findings].sort((a, b) => {
    if (a.severity !== b.severity) return RANK[a.severity] - RANK[b.severity];
    return at(a) === at(b) ? 0 : at(a) - at(b);
  });
}
