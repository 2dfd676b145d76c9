import { z } from "zod";
import { asFrames, asSeconds } from "../time/index.ts";
import { fixSchema } from "./fix.ts";

const placeSchema = z.object({
  slotIndex: z.number().int().nullable(),
  slideId: z.string().nullable(),
  seconds: asSeconds(z.number()).nullable(),
  /** Names of the outputs that it concerns; empty: all. */
  outputs: z.array(z.string()),
});

/** A kind of finding with what was measured, and the limits that it is beyond. */
const kindOf = <Kind extends string, Values extends z.ZodRawShape>(kind: Kind, values: Values) =>
  z.object({
    kind: z.literal(kind),
    values: z.object(values),
    /**
     * "error": the film is not fit to be handed over; "warning": somebody should look; "hint": good
     * to know.
     */
    severity: z.enum(["error", "warning", "hint"]),
    /**
     * Of the film: the slot's index and id where it concerns one, seconds where it can be seen or
     * heard.
     */
    place: placeSchema,
    /**
     * It is not in the show as it is laid, but in the films of the outputs that the place names.
     */
    onlyInOutputs: z.boolean().optional(),
    /** What puts it right, the best first. */
    fixes: z.array(fixSchema),
  });

/** `slide` and `name` are what a person calls a slide or a file. */
export const findingSchema = z.discriminatedUnion("kind", [
  kindOf("lock", {
    lock: z.enum(["landing", "length", "passage", "stays"]),
    /** Null for a passage, and where the slide is not in the film. */
    slide: z.string().nullable(),
  }),
  kindOf("landing", { slide: z.string(), frames: asFrames(z.number()), mostFrames: asFrames(z.number()) }),
  kindOf("slide-short", { slide: z.string(), seconds: asSeconds(z.number()), leastSeconds: asSeconds(z.number()) }),
  kindOf("words-short", {
    slide: z.string(),
    seenSeconds: asSeconds(z.number()),
    neededSeconds: asSeconds(z.number()),
    wordsPerMinute: z.number(),
  }),
  kindOf("enlarged", {
    slide: z.string(),
    width: z.number(),
    height: z.number(),
    times: z.number(),
    mostTimes: z.number(),
    /** The output in which it is largest, and its size. */
    output: z.string(),
    outputWidth: z.number(),
    outputHeight: z.number(),
  }),
  kindOf("head-cut", { slide: z.string(), outputs: z.array(z.string()) }),
  kindOf("words-empty", { slide: z.string(), isCard: z.boolean() }),
  kindOf("words-on-face", { slide: z.string(), words: z.string(), outputs: z.array(z.string()) }),
  kindOf("subject-cut", { slide: z.string(), outputs: z.array(z.string()) }),
  kindOf("bars", { slide: z.string(), edges: z.string(), share: z.number() }),
  kindOf("narrow-gap", { slide: z.string(), output: z.string(), share: z.number(), leastShare: z.number() }),
  kindOf("media-missing", { name: z.string(), use: z.string() }),
  kindOf("media-changed", { name: z.string(), use: z.string() }),
  kindOf("music-cut", {
    endSeconds: asSeconds(z.number()),
    fadeSeconds: asSeconds(z.number()),
    leastSeconds: asSeconds(z.number()),
  }),
  kindOf("fade-off-bar", {
    startSeconds: asSeconds(z.number()),
    offSeconds: asSeconds(z.number()),
    isTrimmed: z.boolean(),
  }),
  kindOf("flashes", {
    fromSeconds: asSeconds(z.number()),
    toSeconds: asSeconds(z.number()),
    isRed: z.boolean(),
    /** Of a field of view. */
    share: z.number(),
    mostInASecond: z.number(),
    /** The clip that it may lie in. */
    clip: z.string().nullable(),
  }),
  kindOf("flash-refused", { slide: z.string(), mostInASecond: z.number() }),
  kindOf("loudness", {
    /** Null for silence. */
    lufs: z.number().nullable(),
    /** Null where none is wished. */
    wishedLufs: z.number().nullable(),
    softestLufs: z.number(),
    loudestLufs: z.number(),
  }),
  kindOf("true-peak", { dbtp: z.number(), highestDbtp: z.number() }),
  kindOf("sound", { remark: z.string() }),
]);
/** Something about a film that a person should know before it is handed over. */
export type Finding = z.infer<typeof findingSchema>;
export type Severity = Finding["severity"];
export type FindingOf<Kind extends Finding["kind"]> = Extract<Finding, { kind: Kind }>;

const RANK: Readonly<Record<Severity, number>> = { error: 0, warning: 1, hint: 2 };

/** The gravest first; those alike in the order of the film, what concerns all of it at the end. */
export function sortedFindings(findings: readonly Finding[]): Finding[] {
  const at = ({ place }: Finding): number => place.seconds ?? Number.POSITIVE_INFINITY;
  return [...findings].sort((a, b) => {
    if (a.severity !== b.severity) return RANK[a.severity] - RANK[b.severity];
    return at(a) === at(b) ? 0 : at(a) - at(b);
  });
}
