import { counted, wordFor } from "../language/index.ts";
import { clockText } from "../time/index.ts";
import type { FitRequest, FitResult, LockName } from "./fit-request.ts";
import type { Landing } from "./landings.ts";
import { findsAccent } from "./moment.ts";
import { HERO_LANDING_WEIGHT, LENGTH_WEIGHT, landingCost, MOMENT_ACCENT, MOMENT_WEIGHT } from "./solve-order.ts";

export interface FitMessage {
  readonly kind:
    | "agreement"
    | "left-out"
    | "repeated"
    | "no-beat"
    | "conflict"
    | "longer-than-most"
    | "beyond-material";
  /** One or two sentences: what is so, and what would change it. */
  readonly text: string;
}

/** Says in words how slides and music agree: what was left out or repeated, and which locks cannot hold together. */
export function explainFit(request: FitRequest, result: FitResult): FitMessage[] {
  const slides = request.slides.length;
  const length = clockText(result.endSeconds);
  const mean = result.endSeconds / result.slots.length;
  const messages: FitMessage[] = [
    {
      kind: "agreement",
      text: `${counted(result.slots.length, "slot")} over ${length}: ${mean.toFixed(1)} s each on average.${askedText(request, result)}`,
    },
  ];
  if (result.leftOut.length > 0) {
    messages.push({
      kind: "left-out",
      text:
        `${askFor(slides)} ${result.askedSeconds === null ? "more" : clockText(result.askedSeconds)}, ` +
        `the film has ${length}: ${result.leftOut.length} of them ` +
        `${wordFor(result.leftOut.length, "finds", "find")} no room, first those rated maybe, ` +
        "evenly over the show.",
    });
  }
  if (result.repeats > 0) {
    messages.push({
      kind: "repeated",
      text:
        `${counted(slides, "picture")} ${wordFor(slides, "does", "do")} not fill ${length} at this pace: ` +
        `${counted(result.repeats, "slot")} ${wordFor(result.repeats, "shows", "show")} a picture again. ` +
        "Add pictures, or choose a slower pace.",
    });
  }
  if (!result.steady) {
    messages.push({
      kind: "no-beat",
      text: "No steady beat was found in this music, so the pictures are spread evenly over it.",
    });
  }
  if (result.maximumFactor > 1) {
    messages.push({
      kind: "longer-than-most",
      text: "Some pictures stand longer than pictures should: locks or markers leave no other way. Add pictures, or free a lock.",
    });
  }
  if (result.beyondMaterial) {
    messages.push({
      kind: "beyond-material",
      text: "A clip has to stand longer than it lasts: nothing else fills the film. Add pictures, or let the slides lead.",
    });
  }
  if (result.conflict.length > 0) {
    messages.push({
      kind: "conflict",
      text: `${conflictText(request, result.conflict)} Free one of them; until then the film is laid without ${lockText(request, result.conflict.at(-1)!)}.`,
    });
  }
  return messages;
}

/** How what is asked for and what there is agree, where every slide asks for a time. */
function askedText({ slides }: FitRequest, { askedSeconds, endSeconds }: FitResult): string {
  if (askedSeconds === null || Math.abs(askedSeconds - endSeconds) < endSeconds * 0.01) return "";
  return ` ${askFor(slides.length)} ${clockText(askedSeconds)}.`;
}

const askFor = (slides: number): string => `${counted(slides, "picture")} ${wordFor(slides, "asks", "ask")} for`;

/** Names the locks that cannot hold together, and the rule that they break. */
export function conflictText(request: FitRequest, conflict: readonly LockName[]): string {
  if (conflict.length === 1) {
    return `${capital(lockText(request, conflict[0]!))} cannot be kept: the slides before it (or it alone) have no room.`;
  }
  const names = conflict.map((lock) => lockText(request, lock));
  return `${capital(names.slice(0, -1).join(", "))} and ${names.at(-1)!} cannot hold together: the slides between them have no room, or ask for more than they may have.`;
}

function lockText({ slides, passages }: FitRequest, { kind, id }: LockName): string {
  const place = slides.findIndex((slide) => slide.id === id) + 1;
  switch (kind) {
    case "landing":
      return `the landing of slide ${place}`;
    case "length":
      return `the length of slide ${place}`;
    case "passage": {
      const index = passages.findIndex((passage) => passage.id === id);
      const name = passages[index]?.name;
      return `the start of ${name ? `“${name}”` : `passage ${index + 1}`}`;
    }
  }
}

/** A wish that the film does not wholly meet. */
export interface UnmetWish {
  readonly kind: "length" | "landing" | "passage" | "moment";
  /** Index of the slot. */
  readonly slot: number;
  /** Its part of the film's cost. */
  readonly cost: number;
  readonly text: string;
}

/** Of less than this share off, a length is as wished: nobody sees it. */
const SEEN_OFF = 0.25;

/** Every wish that was not met, the dearest first. */
export function unmetWishes(request: FitRequest, result: FitResult): UnmetWish[] {
  const unmet: UnmetWish[] = [];
  const accents = request.music.accents
    .filter(({ strength }) => strength >= MOMENT_ACCENT)
    .map(({ seconds }) => seconds);
  for (const [k, slot] of result.slots.entries()) {
    const slide = request.slides[slot.slideIndex]!;
    const name = `Slide ${slot.slideIndex + 1}`;
    const from = slot.landing?.seconds ?? 0;
    const to = result.slots[k + 1]?.landing?.seconds ?? result.endSeconds;
    const off = Math.log((to - from) / slot.wishedSeconds);
    if (Math.abs(off) > Math.log(1 + SEEN_OFF)) {
      unmet.push({
        kind: "length",
        slot: k,
        cost: LENGTH_WEIGHT * off * off,
        text: `${name} wishes ${slot.wishedSeconds.toFixed(1)} s and has ${(to - from).toFixed(1)} s.`,
      });
    }
    if (slide.hero && slot.landing && slot.landing.kind !== "free" && slot.landing.strength < 0.75) {
      const cost = landingCost(
        { landingWeight: HERO_LANDING_WEIGHT, startsPassage: false, landingLock: null },
        slot.landing,
      );
      unmet.push({
        kind: "landing",
        slot: k,
        cost,
        text: `${name} is a hero and lands on ${landingText(slot.landing)}.`,
      });
    }
    const before = result.slots[k - 1];
    const passage = request.passages[slide.passage]!;
    if (before && slot.landing && request.slides[before.slideIndex]!.passage !== slide.passage) {
      const cost = landingCost({ landingWeight: 0, startsPassage: true, landingLock: 0 }, slot.landing);
      if (cost > 0) {
        unmet.push({
          kind: "passage",
          slot: k,
          cost,
          text: `${passage.name ? `“${passage.name}”` : `Passage ${slide.passage + 1}`} begins on ${landingText(slot.landing)}, not with a section.`,
        });
      }
    }
    if (slide.moment && !findsAccent(slide.moment, from, to, accents))
      unmet.push({
        kind: "moment",
        slot: k,
        cost: MOMENT_WEIGHT,
        text: `The moment of slide ${slot.slideIndex + 1} finds no accent.`,
      });
  }
  return unmet.sort((a, b) => b.cost - a.cost);
}

/** What a landing is, for people. */
export function landingText({ kind, name }: Pick<Landing, "kind" | "name">): string {
  switch (kind) {
    case "beat":
      return "a beat";
    case "bar":
      return "a bar start";
    case "phrase":
      return "the start of a phrase";
    case "section":
      return name ? `the start of section ${name}` : "the start of a section";
    case "accent":
      return "an accent off the beat";
    case "marker":
      return name ? `the marker “${name}”` : "a marker";
    case "even":
      return "an even half second";
    case "length":
      return "the end of a locked length";
    case "free":
      return "the place where you put it";
  }
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
