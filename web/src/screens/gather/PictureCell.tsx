import type { ClipFacts, PictureFacts } from "@humming-tide/contract";
import { turnedSize } from "@humming-tide/core/picture";
import { type Slide, slideName } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { type MouseEvent, memo, type ReactNode } from "react";
import { SlideImage } from "../../ui/SlideImage.tsx";
import { isSoft, shapeOf } from "./slide-facts.ts";

interface CellProps {
  slide: Slide;
  /** From 1, in the film's order. */
  number: number;
  facts: PictureFacts | ClipFacts | undefined;
  /** "19:04", empty where unknown. */
  time: string;
  selected: boolean;
  focused: boolean;
  noRoom: boolean;
  /** How many pictures there are of the same moment; 0 where there is only this one. */
  alike: number;
  /** Whether the others lie under it. */
  isStack: boolean;
  proxyText: string | null;
  width: number;
  imageHeight: number;
  onPick: (id: string, event: MouseEvent) => void;
  onOpen: (id: string) => void;
}

/**
 * One picture or clip on the contact sheet: what it shows, and in words what a person and the
 * program think of it.
 */
export const PictureCell = memo(function PictureCell(props: CellProps): ReactNode {
  const { slide, number, facts, selected, focused, width, imageHeight } = props;
  const out = slide.rating === "out";
  return (
    <div
      id={`slide-${slide.id}`}
      role="option"
      aria-selected={selected}
      data-testid="picture"
      data-slide={slide.id}
      data-file={slide.fileName}
      data-rating={slide.rating}
      style={{ width }}
      className="shrink-0 cursor-default select-none"
      onClick={(event) => props.onPick(slide.id, event)}
      onDoubleClick={() => props.onOpen(slide.id)}
    >
      <div
        style={{ height: imageHeight }}
        className={`relative overflow-hidden rounded-md bg-slide ${selected ? "ring-2 ring-ink" : ""} ${focused ? "outline-offset-3 group-focus:outline-2 group-focus:outline-foam" : ""}`}
      >
        {(facts || slide.sha256 === null) && (
          <SlideImage
            slide={slide}
            className={`size-full object-contain ${out ? "opacity-30 grayscale" : props.noRoom ? "opacity-50" : ""}`}
          />
        )}
        <div className="absolute inset-x-1 bottom-1 flex flex-wrap gap-1 text-[11px] leading-4">
          {slide.hero && <Tag strong>hero</Tag>}
          {slide.rating === "maybe" && <Tag>maybe</Tag>}
          {out && <Tag>left out</Tag>}
          {!out && props.noRoom && <Tag>no room</Tag>}
          {facts?.kind === "clip" && <Tag>clip {clockText(facts.durationSeconds)}</Tag>}
          {props.proxyText && <Tag>{props.proxyText}</Tag>}
        </div>
        <div className="absolute inset-x-1 top-1 flex justify-end gap-1 text-[11px] leading-4">
          {isSoft(facts) && <Tag warning>soft</Tag>}
          {props.alike > 1 && <Tag>{props.isStack ? `stack of ${props.alike}` : `${props.alike} alike`}</Tag>}
        </div>
      </div>
      <div className="mt-1 flex items-baseline gap-1.5 text-xs leading-4">
        <span className="shrink-0 text-soft">{number}</span>
        <bdi className="truncate text-quiet" title={slideName(slide)}>
          {slide.caption || slideName(slide)}
        </bdi>
      </div>
      <div className="flex items-center gap-1.5 truncate text-[11px] leading-4 text-quiet">
        {facts && <Facts {...props} facts={facts} />}
      </div>
      <span className="sr-only">{unseenWords(props)}</span>
    </div>
  );
});

function Facts({ facts, slide, time, width }: CellProps & { facts: PictureFacts | ClipFacts }): ReactNode {
  const size = turnedSize(facts, slide.turn);
  const longest = Math.max(size.width, size.height);
  return (
    <>
      <svg width="13" height="13" viewBox="-1 -1 15 15" aria-hidden className="shrink-0">
        <rect
          x={6.5 - (6.5 * size.width) / longest}
          y={6.5 - (6.5 * size.height) / longest}
          width={(13 * size.width) / longest}
          height={(13 * size.height) / longest}
          rx="1"
          fill="none"
          stroke="currentColor"
        />
      </svg>
      {time && <span>{time}</span>}
      {width > 130 && (
        <span className="truncate">
          {size.width} × {size.height}
        </span>
      )}
    </>
  );
}

function Tag({ children, strong, warning }: { children: ReactNode; strong?: boolean; warning?: boolean }): ReactNode {
  return (
    <span
      className={`rounded-sm px-1 ${strong ? "bg-ink font-semibold text-ground" : warning ? "bg-ground/85 text-warning" : "bg-ground/85 text-ink"}`}
    >
      {children}
    </span>
  );
}

/** For ears, what the eye sees in the picture or has no room for. */
function unseenWords({ slide, facts }: CellProps): string {
  const parts = [
    slide.sha256 === null && "card",
    slide.caption && slide.fileName,
    facts?.kind === "picture" && shapeOf(facts, slide),
  ];
  return parts.filter(Boolean).join(", ");
}
