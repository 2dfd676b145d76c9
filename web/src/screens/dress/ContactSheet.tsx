import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { drawFrame, imagesIn, planFrame } from "@humming-tide/core/picture";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { filmFonts } from "../../stage/film-fonts.ts";
import { stageGrain } from "../../stage/stage-grain.ts";
import { StageImages } from "../../stage/stage-images.ts";
import { StageScratch, surfaceOf } from "../../stage/stage-surface.ts";
import { StageWords } from "../../stage/stage-words.ts";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { frameAlone } from "./dressed.ts";

const WIDTH = 232;
const SHEET_WIDTH = 1040;

interface ContactSheetProps {
  film: FilmPlan;
  /** Those of one passage. */
  slots: readonly FilmSlot[];
  passageName: string;
  onChoose: (slot: FilmSlot) => void;
  onClose: () => void;
}

/** All slides of a passage as they will look in the film, each in its middle. */
export function ContactSheet({ film, slots, passageName, onChoose, onClose }: ContactSheetProps): ReactNode {
  return (
    <DialogBox open onClose={onClose} title={passageName} width={SHEET_WIDTH}>
      <ol className="grid grid-cols-4 gap-3" data-testid="contact-sheet">
        {slots.map((slot) => (
          <li key={slot.index}>
            <button
              type="button"
              className="block w-full text-left outline-offset-2 hover:outline hover:outline-line-strong"
              onClick={() => onChoose(slot)}
            >
              <SlotPicture film={film} slot={slot} />
              <span className="mt-1 block truncate text-[13px] text-soft">{slot.name}</span>
            </button>
          </li>
        ))}
      </ol>
    </DialogBox>
  );
}

/** Drawn when it comes in sight, and again when a picture or font arrives. */
function SlotPicture({ film, slot }: { film: FilmPlan; slot: FilmSlot }): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [isSeen, setIsSeen] = useState(false);
  const height = Math.round((WIDTH * film.size.height) / film.size.width);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => entry?.isIntersecting && setIsSeen(true));
    if (canvas.current) watch.observe(canvas.current);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    if (!isSeen) return;
    const images = new StageImages();
    const words = new StageWords();
    const scratch = new StageScratch();
    const frame = planFrame(film, frameAlone(film, slot));
    const draw = (): void => {
      const context = canvas.current?.getContext("2d", { alpha: false });
      if (!context) return;
      images.preload(imagesIn(frame));
      const scale = context.canvas.width / film.size.width;
      context.setTransform(scale, 0, 0, scale, 0, 0);
      drawFrame(surfaceOf(context), frame, {
        images: images.get,
        grain: stageGrain,
        words: words.for(scale),
        scratch: scratch.for(context.canvas.width, context.canvas.height, film.size.width, film.size.height),
      });
    };
    const sources = [images, words, filmFonts];
    for (const source of sources) source.addEventListener("arrived", draw);
    draw();
    return () => {
      for (const source of sources) source.removeEventListener("arrived", draw);
      images.close();
    };
  }, [film, slot, isSeen]);
  return <canvas ref={canvas} width={2 * WIDTH} height={2 * height} className="w-full rounded-sm bg-black" />;
}
