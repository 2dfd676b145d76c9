import { counted, wordFor } from "../language/index.ts";
import { lastOf } from "../presence/index.ts";
import { clockText } from "../time/index.ts";
import type { FitMessage, NamedLock, UnmetWish } from "./explain-fit.ts";
import type { Landing } from "./landings.ts";

/** One or two sentences: what is so, and what would change it. */
export function fitMessageText(message: FitMessage): string {
  switch (message.kind) {
    case "agreement": {
      const { slots, endSeconds, asked } = message;
      const mean = (endSeconds / slots).toFixed(1);
      const askedFor = asked ? ` ${askFor(asked.slides)} ${clockText(asked.seconds)}.` : "";
      return `${counted(slots, "slot")} over ${clockText(endSeconds)}: ${mean} s each on average.${askedFor}`;
    }
    case "left-out": {
      const { slides, leftOut, endSeconds, askedSeconds, floorSeconds, quietRoom } = message;
      const longer = quietRoom ? ", longer where the music is quiet" : " and in time with the music";
      const why =
        askedSeconds === null
          ? `Seen for ${floorSeconds} seconds or more${longer}, ${roomFor(slides - leftOut)}`
          : `${askFor(slides)} ${clockText(askedSeconds)}, the film has ${clockText(endSeconds)}`;
      return (
        `${why}: ${counted(leftOut, "picture")} ${wordFor(leftOut, "is", "are")} left out. ` +
        "Near-identical pictures go first, then those rated maybe, evenly over the show."
      );
    }
    case "repeated": {
      const { slides, repeats, endSeconds } = message;
      return (
        `${counted(slides, "picture")} ${wordFor(slides, "does", "do")} not fill ${clockText(endSeconds)} ` +
        `at this pace: ${counted(repeats, "slot")} ${wordFor(repeats, "shows", "show")} a picture again. ` +
        "Add pictures, or choose a slower pace."
      );
    }
    case "no-beat":
      return "No steady beat was found in this music, so the pictures are spread evenly over it.";
    case "no-places":
      return withoutPlacesText(message);
    case "longer-than-most":
      return "Some pictures stand longer than pictures should: locks or markers leave no other way. Add pictures, or free a lock.";
    case "beyond-material":
      return "A clip has to stand longer than it lasts: nothing else fills the film. Add pictures, or let the slides lead.";
    case "cannot-stay":
      return (
        `There is no room for ${list(message.locks.map(lockText))}, even at a second each. ` +
        "Choose a longer song, or let some of them go."
      );
    case "conflict":
      return `${conflictText(message.locks)} Free one of them; until then the film is laid without ${lockText(lastOf(message.locks))}.`;
  }
}

function withoutPlacesText({ of, passage, name }: Extract<FitMessage, { kind: "no-places" }>): string {
  const where = passage === null ? "the film" : passageText({ name, passage }, "passage");
  const todo = { accents: "", taps: "Tap along on Listen, or ", markers: "Set markers on Listen, or " }[of];
  return `This music has no ${of}, so ${where} is laid as best fit. ${capital(`${todo}choose another pace.`)}`;
}

const roomFor = (slides: number): string => `${counted(slides, "picture")} ${wordFor(slides, "has", "have")} room`;
const askFor = (slides: number): string => `${counted(slides, "picture")} ${wordFor(slides, "asks", "ask")} for`;

/** Names the locks that cannot hold together, at least one, and the rule that they break. */
export function conflictText(locks: readonly NamedLock[]): string {
  const names = list(locks.map(lockText));
  if (locks.length === 1) return `${capital(names)} cannot be kept: the slides before it (or it alone) have no room.`;
  return (
    `${capital(names)} cannot hold together: ` +
    "the slides between them have no room, or ask for more than they may have."
  );
}

/** "a", "a and b", "a, b and c". */
const list = (names: readonly string[]): string =>
  names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${lastOf(names)}`;

function lockText(lock: NamedLock): string {
  if (lock.kind === "passage") return `the start of ${passageText(lock, "passage")}`;
  if (lock.kind === "stays") return `slide ${lock.slide}, which is always kept`;
  return `the ${lock.kind} of slide ${lock.slide}`;
}

const passageText = ({ name, passage }: { name: string; passage: number }, word: string): string =>
  name ? `“${name}”` : `${word} ${passage}`;

/** One sentence: what was wished, and what it has instead. */
export function unmetWishText(wish: UnmetWish): string {
  switch (wish.kind) {
    case "length":
      return `Slide ${wish.slide} wishes ${wish.wishedSeconds.toFixed(1)} s and has ${wish.seconds.toFixed(1)} s.`;
    case "landing":
      return `Slide ${wish.slide} is a hero and lands on ${landingText(wish.landing)}.`;
    case "passage":
      return `${passageText(wish, "Passage")} begins on ${landingText(wish.landing)}, not with a section.`;
    case "moment":
      return `The moment of slide ${wish.slide} finds no accent.`;
  }
}

/** What a landing is, with its article: "a beat", "the start of section B". */
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
