import type { ReactNode } from "react";
import { useOpenShow } from "../store/open-show.ts";
import { SlideImage } from "./SlideImage.tsx";

/**
 * What hangs at the pointer while slides are dragged: the first of them, and how many there are.
 */
export function DraggedPictures({ ids }: { ids: readonly string[] }): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const first = slides.find((slide) => slide.id === ids[0]);
  if (!first) return null;
  return (
    <div className="relative w-[120px]">
      <SlideImage slide={first} className="h-[90px] w-full rounded-md bg-slide object-contain opacity-90 shadow-xl" />
      {ids.length > 1 && (
        <span className="absolute -top-2 -right-2 rounded-full bg-ink px-2 py-0.5 text-xs font-semibold text-ground">
          {ids.length}
        </span>
      )}
    </div>
  );
}
