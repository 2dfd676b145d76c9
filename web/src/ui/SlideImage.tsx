import { luma } from "@humming-tide/core/numeric";
import { drawnPicture } from "@humming-tide/core/picture";
import { hasPicture, type Slide, slideName } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { mediaUrl } from "../api.ts";

interface SlideImageProps {
  slide: Slide;
  file?: "thumbnail" | "working";
  /** What it shows, in words; empty where something beside it says so already. */
  alt?: string;
  className?: string;
  style?: React.CSSProperties | undefined;
}

/** What a slide shows, wherever one is listed: its picture, or of a card what it says. */
export function SlideImage({ slide, file = "thumbnail", alt = "", className = "", style }: SlideImageProps): ReactNode {
  if (!hasPicture(slide)) return <CardFace slide={slide} className={className} />;
  return (
    <img
      src={mediaUrl(drawnPicture(slide.sha256, slide.turn), file)}
      alt={alt}
      draggable={false}
      decoding="async"
      className={className}
      style={style}
    />
  );
}

/** A card in small: its first line, on its colour. */
export function CardFace({ slide, className = "" }: { slide: Slide; className?: string }): ReactNode {
  const { fill } = slide.style;
  const colour = fill?.kind === "colour" ? fill.colour : "#0d1f26";
  const line = slideName(slide).replace(/^“|”$/g, "");
  return (
    <span
      className={`flex items-center justify-center overflow-hidden p-1 text-center outline outline-1 -outline-offset-1 outline-line font-heading text-[11px] leading-tight ${isLight(colour) ? "text-black" : "text-white"} ${className}`}
      style={{ backgroundColor: colour }}
    >
      <bdi className="line-clamp-3">{line}</bdi>
    </span>
  );
}

const isLight = (colour: string): boolean => {
  const [red, green, blue] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16)) as [
    number,
    number,
    number,
  ];
  return luma(red, green, blue) > 140;
};
