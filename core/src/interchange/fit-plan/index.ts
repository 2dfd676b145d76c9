import { z } from "zod";
import { type FilmPlan, paceText, type WayOut } from "../../film/index.ts";
import { unmetWishText } from "../../fit/index.ts";
import type { MusicAnalysis } from "../../music/index.ts";
import { itemAt } from "../../presence/index.ts";
import type { ShowDocument } from "../../show/index.ts";
import { asSeconds } from "../../time/index.ts";
import { filmReportSchema, filmSlots } from "../film-report/index.ts";
import type { MusicJson } from "../music-json/index.ts";

const lockSchema = z.object({ kind: z.enum(["landing", "length", "passage", "stays"]), id: z.string() });

/**
 * A laid film without pictures or sound: slots as in the film report, with what the solver knows of
 * each.
 */
export const fitPlanSchema = z.object({
  fps: filmReportSchema.shape.fps,
  durationSeconds: asSeconds(z.number().positive()),
  slots: z
    .array(
      filmReportSchema.shape.slots.element.extend({
        slideId: z.string(),
        round: z.number().int().nonnegative(),
        landing: z.string().nullable(),
        landingStrength: z.number().min(0).max(1).nullable(),
        wishedSeconds: asSeconds(z.number().positive()),
        locked: z.boolean(),
      }),
    )
    .min(1),
  lead: z.enum(["song", "slides", "length"]),
  pace: z.string(),
  cost: z.number().nonnegative(),
  leftOut: z.array(z.string()),
  repeats: z.number().int().nonnegative(),
  unmetLocks: z.array(lockSchema),
  unmetWishes: z.array(z.object({ kind: z.string(), slot: z.number().int(), cost: z.number(), text: z.string() })),
  waysOut: z.array(z.object({ text: z.string(), cost: z.number(), change: z.looseObject({ kind: z.string() }) })),
});
export type FitPlanJson = z.infer<typeof fitPlanSchema>;

/**
 * Where each slide lands as plain data, with what was left out, what was not met and the ways out:
 * what `humming-tide fit` writes. Frames count from 0; the end of a slot is exclusive.
 */
export function fitPlanJson(show: ShowDocument, plan: FilmPlan, ways: readonly WayOut[]): FitPlanJson {
  const slots = filmSlots(plan);
  return {
    fps: { num: plan.rate.num, den: plan.rate.den },
    durationSeconds: (plan.totalFrames * plan.rate.den) / plan.rate.num,
    slots: plan.slots.map((slot, i) => ({
      ...itemAt(slots, i),
      slideId: slot.slideId,
      round: slot.round,
      landing: slot.landing?.kind ?? null,
      landingStrength: slot.landing?.strength ?? null,
      wishedSeconds: slot.wishedSeconds,
      locked: slot.locked,
    })),
    lead: show.lead.kind,
    pace: paceText(show.pace),
    cost: plan.cost,
    leftOut: plan.leftOut.map((index) => itemAt(show.slides, index).id),
    repeats: plan.repeats,
    unmetLocks: plan.unmetLocks.map((lock) => ({ ...lock })),
    unmetWishes: plan.unmetWishes.map((wish) => ({
      kind: wish.kind,
      slot: wish.slot,
      cost: wish.cost,
      text: unmetWishText(wish),
    })),
    waysOut: ways.map(({ text, cost, change }) => ({ text, cost, change: { ...change } })),
  };
}

/** An analysis file as the analysis that it was written from; bars cannot be compared with it. */
export function musicAnalysisOf({ file: _file, ...music }: MusicJson): MusicAnalysis {
  return { ...music, texture: null };
}
