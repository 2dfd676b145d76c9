import type { FilmPlan } from "../film/index.ts";
import type { LockName } from "../fit/index.ts";
import { framesPerSecond } from "../time/index.ts";
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
  readonly largestErrorMs: number | null;
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

/** Changes off their landings, locks that could not be kept, and light flashes that were refused. */
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
        text: `The change to ${slot.name} is ${frames.toFixed(2)} frames away from its landing; half a frame is the most.`,
        value: frames,
        limit: MOST_LANDING_ERROR_FRAMES,
        unit: "frames",
        fixes: [],
      });
    if (slot.isFlashRefused)
      findings.push({
        kind: "flash-refused",
        severity: "hint",
        place: placeOfSlot(plan, slot),
        text: `The light flash into ${slot.name} would be the fourth within a second and is a dissolve instead (WCAG 2.3.1: no more than three).`,
        value: 4,
        limit: 3,
        unit: "flashes",
        fixes: [
          { label: "Make it a dissolve for good", fix: { kind: "dissolve", slideIds: [slot.slideId], seconds: 0.4 } },
        ],
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
      text: unmetLockText(lock, slot?.name),
      value: 1,
      limit: 0,
      unit: "times",
      fixes: [{ label: "Free it", fix: { kind: "unlock", lock } }],
    });
  }
  return findings;
}

function unmetLockText({ kind }: LockName, slide = "a slide that is not in the film"): string {
  if (kind === "stays") return `There is no room for ${slide}, which is always kept.`;
  const what = kind === "passage" ? "start of a passage" : `${kind} of ${slide}`;
  return `The lock on the ${what} is not kept: it contradicts other locks, or lies outside of the film.`;
}
