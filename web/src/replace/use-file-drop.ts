import { type DragEvent, useState } from "react";
import { droppedFiles, type FileWithPath } from "../intake/dropped-files.ts";
import { store } from "../store/store.ts";
import { replaceWith } from "./replace-file.ts";

/** A slide under files that are dragged over the page. */
interface SlideUnder {
  readonly slideId: string;
  readonly name: string;
  /** Of its picture, in the window; null where the whole surface is the picture. */
  readonly box: DOMRect | null;
}

interface FileDropWish {
  /** The share of a picture, around its middle, on which a file replaces it. */
  readonly middle: number;
  /** The slide of the whole surface, where it shows one alone. */
  readonly slideId?: string;
  /** Takes files that were dropped beside pictures; without it they are not taken. */
  readonly beside?: (
    files: readonly FileWithPath[],
    at: { readonly clientX: number; readonly clientY: number },
  ) => void;
}

/**
 * Files of the machine that are dropped on a picture take its place. Slides are found by
 * `data-slide`.
 */
export function useFileDrop({ middle, slideId, beside }: FileDropWish) {
  /** Null: nothing is dragged here; "beside": no picture is under the pointer. */
  const [over, setOver] = useState<SlideUnder | "beside" | null>(null);
  const under = (event: DragEvent): SlideUnder | null =>
    event.dataTransfer.items.length > 1
      ? null
      : slideId === undefined
        ? slideUnder(event, middle)
        : slideOf(slideId, null);
  return {
    over,
    handlers: {
      onDragOver: (event: DragEvent): void => {
        if (!event.dataTransfer.types.includes("Files")) return;
        const next = under(event) ?? "beside";
        setOver((now) => (sameTarget(now, next) ? now : next));
        if (next === "beside" && !beside) return;
        event.preventDefault();
      },
      onDragLeave: (event: DragEvent): void => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(null);
      },
      onDrop: (event: DragEvent): void => {
        setOver(null);
        const target = under(event);
        if (!target && !beside) return;
        event.preventDefault();
        const { clientX, clientY } = event;
        void droppedFiles(event.dataTransfer).then((files) => {
          // A folder counts as one thing until it is read.
          if (target && files.length === 1) replaceWith(target.slideId, files);
          else beside?.(files, { clientX, clientY });
        });
      },
    },
  };
}

const sameTarget = (a: SlideUnder | "beside" | null, b: SlideUnder | "beside"): boolean =>
  a === b || (typeof a === "object" && typeof b === "object" && a?.slideId === b.slideId);

function slideUnder(event: DragEvent, middle: number): SlideUnder | null {
  const picture = (event.target as HTMLElement).closest<HTMLElement>("[data-slide]");
  const id = picture?.dataset["slide"];
  if (!picture || !id) return null;
  const box = picture.getBoundingClientRect();
  const share = (event.clientX - box.left) / box.width;
  return Math.abs(share - 0.5) <= middle / 2 ? slideOf(id, box) : null;
}

function slideOf(slideId: string, box: DOMRect | null): SlideUnder | null {
  const slide = store.getState().show.document?.slides.find(({ id }) => id === slideId);
  return slide && slide.sha256 !== null ? { slideId, name: slide.fileName, box } : null;
}
