import type { MediaFacts } from "@humming-tide/contract";
import {
  exchangeFiles,
  hasPicture,
  type PictureSlide,
  type Slide,
  type SwappedFile,
  swapFiles,
} from "@humming-tide/core/show";
import { api } from "../api.ts";
import type { FileWithPath } from "../intake/dropped-files.ts";
import { bringIn } from "../intake/intake.ts";
import { replacedText } from "../intake/replaced-text.ts";
import { edit } from "../store/edit.ts";
import { showActions } from "../store/show-slice.ts";
import { store } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";

const say = (text: string): void => void store.dispatch(viewActions.toastShown(text));

/** Brings a file in from the person's machine, and puts it in the place of a slide's own. */
export function replaceWith(slideId: string, files: readonly FileWithPath[]): void {
  const [file] = files;
  if (!file) return;
  if (files.length > 1) say("One slide takes one file. Drop several files on Gather.");
  else void bringIn([file], { replaces: slideId });
}

/** Puts a file back that stood on the slide before. */
export function putBack(slide: Slide, file: SwappedFile): void {
  edit((show) => swapFiles(show, new Map([[slide.id, file]])));
  say(`“${file.fileName}” is back, with its framing.`);
}

/** A picture that waits takes the place of one in the film, which waits instead. */
export function exchangeWith(slide: Slide, other: Slide): void {
  edit((show) => exchangeFiles(show, slide.id, other.id));
  say(replacedText(slide, { fileName: other.fileName, kind: kindOf(other) }));
}

/** The clip in a picture's file takes the picture's place; the picture can be put back. */
export async function showMoving(slide: PictureSlide): Promise<void> {
  try {
    const facts = await api.movingPart(slide.sha256);
    store.dispatch(showActions.mediaArrived([facts]));
    edit((show) => swapFiles(show, new Map([[slide.id, facts]])));
    say(replacedText(slide, facts));
  } catch (error) {
    say(`The clip in “${slide.fileName}” cannot be used. ${(error as Error).message}`);
  }
}

const kindOf = (slide: Slide): MediaFacts["kind"] | null =>
  hasPicture(slide) ? (store.getState().show.media[slide.sha256]?.kind ?? null) : null;
