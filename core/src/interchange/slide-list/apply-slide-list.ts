import { itemAt, lastOf } from "../../presence/index.ts";
import { AS_ABOVE, dividePassages, hasPicture, type ShowDocument, type Slide, showError } from "../../show/index.ts";
import type { SlideListProblem, SlideListRow } from "./read-slide-list.ts";

export interface AppliedSlideList {
  readonly show: ShowDocument;
  /** Slides that a line named. */
  readonly matched: number;
  readonly problems: readonly SlideListProblem[];
}

/**
 * Takes captions, ratings and heroes of a list over into a show, and with `takeOrder` its order and
 * passages too: slides in the order of the lines, then those that no line names; a passage begins
 * where the passage's name changes, and stays in one run, which later lines of that name join. A
 * card stays before the slide that it stands before, or at the end of its passage. A line finds its
 * slide by file name: exactly, else without regard to case, accents' spelling and folders; the same
 * name again takes the next slide of that name. Lines that find none are problems. Throws
 * `order-locked`.
 */
export function applySlideList(
  show: ShowDocument,
  rows: readonly SlideListRow[],
  { takeOrder }: { readonly takeOrder: boolean },
): AppliedSlideList {
  if (takeOrder && show.orderLocked) {
    throw showError("order-locked");
  }
  const find = slideFinder(show.slides.filter(hasPicture));
  const named: { slide: Slide; passage: string | null }[] = [];
  const problems: SlideListProblem[] = [];
  for (const row of rows) {
    const slide = find(row.file);
    if (!slide) {
      problems.push({
        line: row.line,
        message: `No picture of the show is named "${row.file}", or a line before took it.`,
      });
      continue;
    }
    const { caption, rating, hero } = row;
    named.push({
      slide: {
        ...slide,
        caption: caption ?? slide.caption,
        rating: rating ?? slide.rating,
        hero: hero ?? slide.hero,
      },
      passage: row.passage,
    });
  }
  const changed = new Map(named.map(({ slide }) => [slide.id, slide]));
  const inPlace = { ...show, slides: show.slides.map((slide) => changed.get(slide.id) ?? slide) };
  return { show: takeOrder ? inListOrder(inPlace, named) : inPlace, matched: named.length, problems };
}

function slideFinder(slides: readonly Slide[]): (name: string) => Slide | undefined {
  const queues = new Map<string, Slide[]>();
  const taken = new Set<string>();
  const loose = (name: string): string => `loose ${lastOf(name.split(/[/\\]/)).normalize("NFC").toLowerCase()}`;
  for (const slide of slides) {
    for (const key of [slide.fileName, loose(slide.fileName)]) {
      const queue = queues.get(key);
      if (queue) queue.push(slide);
      else queues.set(key, [slide]);
    }
  }
  return (name) => {
    for (const key of [name, loose(name)]) {
      const slide = queues.get(key)?.find(({ id }) => !taken.has(id));
      if (!slide) continue;
      taken.add(slide.id);
      return slide;
    }
    return undefined;
  };
}

function inListOrder(show: ShowDocument, named: readonly { slide: Slide; passage: string | null }[]): ShowDocument {
  const settings = new Map(show.passages.map((passage) => [passage.name, passage.style]));
  const nameOf = new Map(show.passages.map((passage) => [passage.id, passage.name]));
  // Runs by name, in the order in which names first appear; a line without a passage goes on with
  // the one before.
  const runs = new Map<string, Slide[]>();
  let current = nameOf.get(named[0]?.slide.passageId ?? "") ?? "";
  const place = (slide: Slide, name: string): void => {
    const run = runs.get(name);
    if (run) run.push(slide);
    else runs.set(name, [slide]);
  };
  for (const { slide, passage } of named) {
    current = passage ?? current;
    place(slide, current);
  }
  const listed = new Set(named.map(({ slide }) => slide.id));
  const isCard = (slide: Slide): boolean => !hasPicture(slide);
  for (const slide of show.slides)
    if (!listed.has(slide.id) && !isCard(slide)) place(slide, nameOf.get(slide.passageId) ?? "");
  // From behind, so that cards that follow one another keep their order.
  for (const [at, card] of [...show.slides.entries()].reverse()) {
    if (!isCard(card)) continue;
    const next = show.slides[at + 1];
    const run = [...runs.values()].find((slides) => next && slides.includes(next));
    if (run && next && next.passageId === card.passageId) run.splice(run.indexOf(next), 0, card);
    else place(card, nameOf.get(card.passageId) ?? "");
  }
  const beginnings = [...runs].map(([name, run]) => ({ slideId: itemAt(run, 0).id, name }));
  const divided = dividePassages({ ...show, slides: [...runs.values()].flat() }, beginnings);
  return {
    ...divided,
    passages: divided.passages.map((passage) => ({ ...passage, style: settings.get(passage.name) ?? AS_ABOVE })),
  };
}
