import { itemAt } from "../presence/index.ts";
import { cheapestChoice } from "./cheapest-choice.ts";
import { type ChosenOrder, type Shown, SlideChoice } from "./choose-order.ts";
import { FilmFit } from "./film-fit.ts";
import { fitError } from "./fit-errors.ts";
import type { FitRequest, FitResult } from "./fit-request.ts";
import { landingsOf, withFreeLandings } from "./landings.ts";
import { type MusicOffer, paceWish } from "./pace.ts";
import { type PlannedStarts, plannedStarts } from "./planned-starts.ts";
import { SlotWishes } from "./slot-wishes.ts";

/** Common practice: 3 to 5 s a still where nothing else is said. */
const DEFAULT_STILL_SECONDS = 4;

/**
 * Lays slides on music: which ones there is room for (choose-order.ts, cheapest-choice.ts), and the
 * cheapest way to lay them (solve-order.ts; docs/fit.md has the cost). Exact for the slides that
 * were chosen. Locks that cannot hold together are named, and the film is laid without the last of
 * them, so that there is always one to see. Same request, same result. Throws `no-slides` without
 * slides and `no-length` for a film without length.
 */
export function fitSlides(request: FitRequest): FitResult {
  const filmSeconds = request.ends.at(-1)?.seconds ?? 0;
  if (request.slides.length === 0) throw fitError("no-slides");
  if (!(filmSeconds > 0)) throw fitError("no-length", { filmSeconds });
  const offered = landingsOf(request.music, filmSeconds);
  const share = request.slidesLead ? DEFAULT_STILL_SECONDS : filmSeconds / request.slides.length;
  const offer = { music: request.music, landings: offered, endSeconds: filmSeconds };
  const asked = request.passages.map(({ pace }) => paceWish(pace, offer, share));
  const planned = plannedStarts(request, fitSlides);
  const choice = new SlideChoice(request, asked, filmSeconds, planned);
  const lay = (chosen: ChosenOrder): FitResult => fitChosen(request, offer, choice, chosen, planned);
  return cheapestChoice(request, choice, lay, offered.length);
}

/** Lays the slides of one choice. `offer` has the landings of the music alone. */
function fitChosen(
  request: FitRequest,
  offer: MusicOffer,
  choice: SlideChoice,
  chosen: ChosenOrder,
  planned: PlannedStarts,
): FitResult {
  const byHand = chosen.order.flatMap(({ slideIndex, round }) => {
    const { landingLockSeconds, landingLockExact } = itemAt(request.slides, slideIndex);
    return round === 0 && landingLockExact && landingLockSeconds !== null ? [landingLockSeconds] : [];
  });
  const landings = withFreeLandings(offer.landings, byHand, offer.endSeconds);
  const filmOf = (order: readonly Shown[]): FilmFit => {
    const share = request.slidesLead ? DEFAULT_STILL_SECONDS : choice.shareOf(order);
    const wishes = request.passages.map(({ pace }) => paceWish(pace, { ...offer, landings }, share));
    const slots = new SlotWishes(request, landings, wishes, planned, choice.heroSeconds);
    return new FilmFit(request, landings, wishes, slots);
  };
  const wanted = filmOf(chosen.order);
  const order = wanted.orderOf(chosen.order);
  // Where other slides are shown than were chosen, each has another share of what is left.
  const film = order === chosen.order ? wanted : filmOf(order);
  const solved = film.solveAsFarAsPossible(order);
  const { solution, conflict, unmet } = solved;
  const used = new Set(order.map(({ slideIndex }) => slideIndex));
  return {
    slots: film.slotsOf(solved),
    endSeconds: solution.endSeconds,
    cost: solution.cost,
    maximumFactor: solution.maximumFactor,
    beyondMaterial: solved.release.stillBefore > 0,
    askedSeconds: chosen.askedSeconds,
    leftOut: request.slides.map((_, index) => index).filter((index) => !used.has(index)),
    quietRoom: choice.wantsQuietRoom,
    repeats: order.filter(({ round }) => round > 0).length,
    conflict,
    unmetLocks: unmet,
    steady: request.music.beats.length > 0,
  };
}
