import { itemAt, present } from "@humming-tide/core/presence";
import type { LevelPoint } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { type KeyboardEvent, type ReactNode, type PointerEvent as ReactPointerEvent, useRef } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { Button } from "../../ui/Button.tsx";
import { followPointer } from "../../ui/follow-pointer.ts";
import { HIGHEST_DECIBELS, LOWEST_DECIBELS, levelAt, wholeCurve, withMoved, withPoint } from "./level-points.ts";
import { useListenSong } from "./listen-song.tsx";

const LINES = [0, -12, -24] as const;
const KEY_DECIBELS = 0.5;
const KEY_SECONDS = 0.1;
const HEIGHT = 88;

const yOf = (decibels: number): number =>
  (HEIGHT * (HIGHEST_DECIBELS - decibels)) / (HIGHEST_DECIBELS - LOWEST_DECIBELS);

/** Where an arrow key puts a point; null for other keys. */
function steppedBy(key: string, { seconds, decibels }: LevelPoint): LevelPoint | null {
  switch (key) {
    case "ArrowUp":
      return { seconds, decibels: decibels + KEY_DECIBELS };
    case "ArrowDown":
      return { seconds, decibels: decibels - KEY_DECIBELS };
    case "ArrowLeft":
      return { seconds: seconds - KEY_SECONDS, decibels };
    case "ArrowRight":
      return { seconds: seconds + KEY_SECONDS, decibels };
    default:
      return null;
  }
}

/** The song's level over its whole length: points joined by straight lines in decibels. */
export function LevelCurve(): ReactNode {
  const { song, analysis, change, draft } = useListenSong();
  const lane = useRef<SVGSVGElement>(null);
  const { level } = song;
  const duration = analysis.durationSeconds;
  const shareOf = (seconds: number): number => (100 * seconds) / duration;
  const pointAt = (event: { clientX: number; clientY: number }): LevelPoint => {
    const box = present(lane.current).getBoundingClientRect();
    const share = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
    const down = Math.max(0, Math.min(1, (event.clientY - box.top) / box.height));
    const decibels = HIGHEST_DECIBELS - down * (HIGHEST_DECIBELS - LOWEST_DECIBELS);
    return { seconds: share * duration, decibels: Math.round(2 * decibels) / 2 };
  };
  const add = (point: LevelPoint): void => change((current) => ({ level: withPoint(current.level, point) }));
  const moved = (index: number, to: LevelPoint) => (): { level: LevelPoint[] } => ({
    level: withMoved(level, index, to, duration),
  });
  const remove = (index: number): void => change(({ level: points }) => ({ level: points.toSpliced(index, 1) }));
  const drag = (event: ReactPointerEvent<SVGCircleElement>, index: number): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    let hasMoved = false;
    followPointer(event.currentTarget, event.pointerId, {
      move: (at) => {
        hasMoved = true;
        draft(moved(index, pointAt(at)));
      },
      end: (last) => {
        draft(null);
        if (last && hasMoved) change(moved(index, pointAt(last)));
      },
    });
  };
  const onKey = (event: KeyboardEvent, index: number): void => {
    const to = steppedBy(event.key, itemAt(level, index));
    if (event.key === "Delete" || event.key === "Backspace") remove(index);
    else if (to) change(moved(index, to), `level ${index}`);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const line = wholeCurve(level, duration);
  return (
    <section aria-label="Level">
      <LevelHeading level={level} onAdd={add} onClear={() => change(() => ({ level: [] }))} />
      <svg
        ref={lane}
        role="group"
        aria-label="Level curve"
        data-testid="level-curve"
        className="w-full touch-none overflow-visible rounded-md bg-raised"
        style={{ height: HEIGHT }}
        onDoubleClick={(event) => add(pointAt(event))}
      >
        <DecibelLines />
        <LevelLines line={line} shareOf={shareOf} />
        {level.map((point, index) => (
          <LevelDot
            // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the order, which dragging keeps.
            key={index}
            point={point}
            number={index + 1}
            x={`${shareOf(point.seconds)}%`}
            y={yOf(point.decibels)}
            onPress={(event) => drag(event, index)}
            onKey={(event) => onKey(event, index)}
          />
        ))}
      </svg>
    </section>
  );
}

interface LevelLinesProps {
  line: readonly LevelPoint[];
  shareOf: (seconds: number) => number;
}

/** The curve: straight lines between neighbouring points. */
function LevelLines({ line, shareOf }: LevelLinesProps): ReactNode {
  return (
    <>
      {line.slice(1).map((point, i) => (
        <line
          key={`${itemAt(line, i).seconds} ${point.seconds}`}
          x1={`${shareOf(itemAt(line, i).seconds)}%`}
          y1={yOf(itemAt(line, i).decibels)}
          x2={`${shareOf(point.seconds)}%`}
          y2={yOf(point.decibels)}
          strokeWidth="2"
          className="stroke-foam"
        />
      ))}
    </>
  );
}

interface LevelHeadingProps {
  level: readonly LevelPoint[];
  onAdd: (point: LevelPoint) => void;
  onClear: () => void;
}

/** What a press does here, and the two ways to begin. */
function LevelHeading({ level, onAdd, onClear }: LevelHeadingProps): ReactNode {
  const player = usePlayer();
  return (
    <div className="mb-1 flex items-center justify-between gap-3">
      <h2 className="text-[15px]">Level</h2>
      <span className="text-[13px] text-quiet">
        {level.length === 0 ? "as it was recorded; a double click sets a point" : "drag a point; Delete removes it"}
      </span>
      <span className="flex gap-1">
        <Button
          kind="quiet"
          onClick={() => onAdd({ seconds: player.filmSeconds(), decibels: levelAt(level, player.filmSeconds()) })}
        >
          Point at the playhead
        </Button>
        <Button kind="quiet" disabled={level.length === 0} onClick={onClear}>
          As recorded
        </Button>
      </span>
    </div>
  );
}

/** Lines across the lane, by which the curve is read. */
function DecibelLines(): ReactNode {
  return LINES.map((decibels) => (
    <g key={decibels}>
      <line x1="0" x2="100%" y1={yOf(decibels)} y2={yOf(decibels)} className="stroke-line" />
      <text x="6" y={yOf(decibels) - 3} className="fill-quiet text-[11px]">
        {decibels} dB
      </text>
    </g>
  ));
}

interface LevelDotProps {
  point: LevelPoint;
  /** From 1. */
  number: number;
  x: string;
  y: number;
  onPress: (event: ReactPointerEvent<SVGCircleElement>) => void;
  onKey: (event: KeyboardEvent) => void;
}

/** A point of the curve, taken hold of by pointer and keys. */
function LevelDot({ point, number, x, y, onPress, onKey }: LevelDotProps): ReactNode {
  const text = `${point.decibels.toFixed(1)} dB at ${clockText(point.seconds)}`;
  return (
    <circle
      cx={x}
      cy={y}
      r="6"
      strokeWidth="2"
      role="slider"
      tabIndex={0}
      aria-label={`Point ${number} of the level`}
      aria-valuemin={LOWEST_DECIBELS}
      aria-valuemax={HIGHEST_DECIBELS}
      aria-valuenow={point.decibels}
      aria-valuetext={text}
      className="cursor-grab fill-raised stroke-foam focus:fill-foam"
      onPointerDown={onPress}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={onKey}
    >
      <title>{text}</title>
    </circle>
  );
}
