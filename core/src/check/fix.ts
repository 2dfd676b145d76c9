import { z } from "zod";
import { assertNever } from "../errors/index.ts";
import { applyFitChange } from "../film/index.ts";
import {
  changeMix,
  changeSlides,
  changeSong,
  changeStyle,
  removeVoice,
  type ShowDocument,
  setShapeFill,
  setView,
  styleOf,
  WORD_PLACES,
} from "../show/index.ts";
import { asSeconds } from "../time/index.ts";

const id = z.string().min(1).max(64);
const viewSchema = z.object({ centre: z.object({ x: z.number(), y: z.number() }), zoom: z.number() });

export const fixSchema = z.discriminatedUnion("kind", [
  /** The slide stands so long, whatever its pace. */
  z.object({ kind: z.literal("stand"), slideId: id, seconds: asSeconds(z.number()) }),
  z.object({ kind: z.literal("leaveOut"), slideId: id }),
  /** How the slide is seen in films of a shape, standing still. */
  z.object({ kind: z.literal("view"), slideId: id, shape: z.string(), view: viewSchema }),
  /** Frames that were put by hand are given back to the rule, in films of these shapes. */
  z.object({ kind: z.literal("frameByRule"), slideId: id, shapes: z.array(z.string()) }),
  /** All of the picture is seen, on a soft copy of itself. */
  z.object({ kind: z.literal("showWhole"), slideId: id, shapes: z.array(z.string()) }),
  /** Words stand elsewhere: those of an index, null: the caption. */
  z.object({
    kind: z.literal("moveWords"),
    slideId: id,
    words: z.number().int().nullable(),
    place: z.enum(WORD_PLACES),
  }),
  z.object({ kind: z.literal("dissolve"), slideIds: z.array(id), seconds: asSeconds(z.number()) }),
  z.object({
    kind: z.literal("unlock"),
    lock: z.object({ kind: z.enum(["landing", "length", "passage", "stays"]), id }),
  }),
  /** The music fades where the rule puts it: on a bar. */
  z.object({ kind: z.literal("fadeByRule"), songId: id }),
  z.object({ kind: z.literal("loudness"), lufs: z.number() }),
  z.object({ kind: z.literal("removeVoice"), voiceId: id }),
]);
/**
 * An edit that puts a finding right; plain data, so that it can be shown and applied as it stands.
 */
export type Fix = z.infer<typeof fixSchema>;

/** The edit that a fix is. What it names and is no longer there stays as it is. */
export function applyFix(show: ShowDocument, fix: Fix): ShowDocument {
  switch (fix.kind) {
    case "stand":
      return changeSlides(show, new Set([fix.slideId]), { length: { seconds: fix.seconds, locked: true } });
    case "leaveOut":
      return changeSlides(show, new Set([fix.slideId]), { rating: "out" });
    case "view":
      return setView(show, fix.slideId, fix.shape, { start: fix.view, end: fix.view });
    case "frameByRule":
      return framedByRule(show, fix.slideId, fix.shapes);
    case "showWhole":
      return fix.shapes.reduce(
        (edited, shape) =>
          setShapeFill(edited, { kind: "slides", slideIds: new Set([fix.slideId]) }, shape, { kind: "blur" }),
        framedByRule(show, fix.slideId, fix.shapes),
      );
    case "moveWords":
      return withWordsAt(show, fix);
    case "dissolve":
      return changeStyle(
        show,
        { kind: "slides", slideIds: new Set(fix.slideIds) },
        { transition: { kind: "dissolve", length: { unit: "seconds", count: fix.seconds } } },
      );
    case "unlock":
      return applyFitChange(show, { kind: "unlock", lock: fix.lock });
    case "fadeByRule":
      return changeSong(show, fix.songId, { fadeOutBars: null });
    case "loudness":
      return changeMix(show, { targetLufs: fix.lufs });
    case "removeVoice":
      return removeVoice(show, fix.voiceId);
    default:
      return assertNever(fix);
  }
}

function withWordsAt(show: ShowDocument, { slideId, words, place }: Extract<Fix, { kind: "moveWords" }>): ShowDocument {
  const slide = show.slides.find(({ id }) => id === slideId);
  if (!slide) return show;
  if (words !== null) {
    const moved = slide.words.map((block, i) => (i === words ? { ...block, place } : block));
    return changeSlides(show, new Set([slideId]), { words: moved });
  }
  const captions = { ...styleOf(show, slide).captions, place };
  return changeStyle(show, { kind: "slides", slideIds: new Set([slideId]) }, { captions });
}

const framedByRule = (show: ShowDocument, slideId: string, shapes: readonly string[]): ShowDocument =>
  shapes.reduce((edited, shape) => setView(edited, slideId, shape, null), show);
