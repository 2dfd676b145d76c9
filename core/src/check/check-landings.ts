import type { FilmPlan } from "../film/index.ts";
import { framesPerSecond, type Milliseconds } from "../time/index.ts";
import { placeOfSlot } from "./check-slides.ts";
import type { Finding } from "./finding.ts";

/** A change is never further from its landing: half a frame, and what is lost in counting. */
const MOST_LANDING_ERROR_FRAMES = 0.5;
const COUNTING_FRAMES = 1e-6;

/** How well a film's changes meet their landings. */
export interface LandingSummary {
  /** Changes that have a landing. */
  readonly count: number;
  /** The largest distance; null for a film without changes. */
  readonly largestErrorFrames: number | null;
  readonly largestErrorMs: Milliseconds | null;
}

/**
 * How many changes land on the music, and how far the furthest is from its landing, in milliseconds
 * and frames; null for both where none lands. O(slots).
 */
export function landingSummary(plan: Pick<FilmPlan, "slots" | "rate">): LandingSummary {
  const errors = plan.slots.flatMap(({ landingErrorMs }) =>
    landingErrorMs === null ? [] : [Math.abs(landingErrorMs)],
  );
  if (errors.length === 0) return { count: 0, largestErrorFrames: null, largestErrorMs: null };
  const largestErrorMs = Math.max(...errors);
  return {
    count: errors.length,
    largestErrorMs,
    largestErrorFrames: (largestErrorMs / 1000) * framesPerSecond(plan.rate),
  };
}

/**
 * Changes off their landings, locks that could not be kept, and light flashes that were refused.
 */
export function checkLandings(plan: FilmPlan): Finding[] {
  const fps = framesPerSecond(plan.rate);
  const findings: Finding[] = [];
  for (const slot of plan.slots) {
    const frames = slot.landingErrorMs === null ? 0 : (Math.abs(slot.landingErrorMs) / 1000) * fps;
    if (frames > MOST_LANDING_ERROR_FRAMES + COUNTING_FRAMES)
      findings.push({
        kind: "landing",
        severity: "error",
        place: placeOfSlot(plan, slot),
        values: { slide: slot.name, frames, mostFrames: MOST_LANDING_ERROR_FRAMES },
        fixes: [],
      });
    if (slot.isFlashRefused)
      findings.push({
        kind: "flash-refused",
        severity: "hint",
        place: placeOfSlot(plan, slot),
        values: { slide: slot.name, mostInASecond: 3 },
        fixes: [{ kind: "dissolve", slideIds: [slot.slideId], seconds: 0.4 }],
      });
  }
  for (const lock of plan.unmetLocks) {
    const slot = lock.kind === "passage" ? undefined : plan.slots.find(({ slideId }) => slideId === lock.id);
    findings.push({
      kind: "lock",
      severity: "error",
      place: slot
        ? placeOfSlot(plan, slot)
        : { slotIndex: null, slideId: lock.kind === "passage" ? null : lock.id, seconds: null, outputs: [] },
      values: { lock: lock.kind, slide: slot?.name ?? null },
      fixes: [{ kind: "unlock", lock }],
    });
  }
  return findings;
}
