import { clockText } from "@humming-tide/core/time";
import { type PointerEvent, type ReactNode, useState } from "react";

export interface SeekChapter {
  readonly title: string;
  readonly startSeconds: number;
  readonly endSeconds: number;
}

/**
 * The film as a waterline with a stroke for every slide, and the names of its chapters over it:
 * press or drag to go there. The keys of a slider work where it has the focus.
 */
export function SeekLine({
  seconds,
  lengthSeconds,
  chapters,
  slideSeconds,
  onSeek,
  children,
}: {
  seconds: number;
  lengthSeconds: number;
  chapters: readonly SeekChapter[];
  /** Where slides begin. */
  slideSeconds: readonly number[];
  onSeek: (seconds: number) => void;
  /** Marks along the line. */
  children?: ReactNode;
}): ReactNode {
  const [hovered, setHovered] = useState<number | null>(null);
  const share = (place: number): string => `${(100 * place) / Math.max(lengthSeconds, 0.001)}%`;
  const placeOf = (event: PointerEvent<HTMLElement>): number => {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    return Math.max(0, Math.min(1, (event.clientX - left) / width)) * lengthSeconds;
  };
  return (
    <div>
      <ChapterNames chapters={chapters} seconds={seconds} share={share} />
      <div
        className="relative h-7 touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          onSeek(placeOf(event));
        }}
        onPointerMove={(event) => {
          setHovered(placeOf(event));
          if (event.buttons > 0) onSeek(placeOf(event));
        }}
        onPointerLeave={() => setHovered(null)}
      >
        <SeekStrokes share={share} seconds={seconds} slideSeconds={slideSeconds} chapters={chapters} />
        {children}
        <span
          className="pointer-events-none absolute top-0.5 h-6 w-[3px] -translate-x-1/2 rounded-full bg-ink"
          style={{ left: share(seconds) }}
        />
        {hovered !== null && (
          <span
            className="pointer-events-none absolute bottom-7 -translate-x-1/2 rounded bg-ground/90 px-1.5 text-[12px] text-ink"
            style={{ left: `clamp(1rem, ${share(hovered)}, calc(100% - 1rem))` }}
          >
            {clockText(hovered)}
          </span>
        )}
        <input
          type="range"
          aria-label="Place in the film"
          aria-valuetext={`${clockText(seconds)} of ${clockText(lengthSeconds)}`}
          min={0}
          max={lengthSeconds}
          step="any"
          value={seconds}
          onChange={(event) => onSeek(Number(event.target.value))}
          className="pointer-events-none absolute inset-x-0 top-0 h-7 w-full appearance-none rounded bg-transparent [&::-moz-range-thumb]:opacity-0 [&::-webkit-slider-thumb]:appearance-none"
        />
      </div>
    </div>
  );
}

interface SeekStrokesProps {
  share: (place: number) => string;
  seconds: number;
  slideSeconds: readonly number[];
  chapters: readonly SeekChapter[];
}

/** The line itself, how far the film is, and a stroke for every slide. */
function SeekStrokes({ share, seconds, slideSeconds, chapters }: SeekStrokesProps): ReactNode {
  return (
    <>
      <span className="pointer-events-none absolute inset-x-0 top-[15px] h-px bg-white/30" />
      <span
        className="pointer-events-none absolute left-0 top-[14px] h-[3px] bg-ink"
        style={{ width: share(seconds) }}
      />
      {slideSeconds.map((place) => (
        <span
          key={place}
          className={`pointer-events-none absolute w-px ${place <= seconds ? "bg-ink" : "bg-white/45"} ${chapters.some(({ startSeconds }) => startSeconds === place) ? "top-1 h-3.5" : "top-2.5 h-2"}`}
          style={{ left: share(place) }}
        />
      ))}
    </>
  );
}

interface ChapterNamesProps {
  chapters: readonly SeekChapter[];
  seconds: number;
  share: (place: number) => string;
}

/** The names of chapters over the line; a narrow page shows only the one that plays. */
function ChapterNames({ chapters, seconds, share }: ChapterNamesProps): ReactNode {
  return (
    <>
      {chapters.length > 0 && (
        <div aria-hidden className="flex h-5 text-[12px]">
          {chapters.map(({ title, startSeconds, endSeconds }) => (
            <span
              key={startSeconds}
              title={title}
              className={`min-w-0 truncate pr-2 ${seconds >= startSeconds && seconds < endSeconds ? "text-ink max-sm:!w-full" : "text-soft max-sm:hidden"}`}
              style={{ width: share(endSeconds - startSeconds) }}
            >
              {title}
            </span>
          ))}
        </div>
      )}
    </>
  );
}
