import type { LevelPoint } from "@humming-tide/core/show";
import { piecewiseLinear } from "@humming-tide/core/sound";
import { clockText } from "@humming-tide/core/time";
import { type KeyboardEvent, type ReactNode, type PointerEvent as ReactPointerEvent, useRef } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { Button } from "../../ui/Button.tsx";
import { useListenSong } from "./listen-song.tsx";

/** What the lane shows; a point may be moved within it. Lower than this a song is hardly heard beside anything. */
const HIGHEST_DECIBELS = 6;
const LOWEST_DECIBELS = -36;
const LINES = [0, -12, -24] as const;
const KEY_DECIBELS = 0.5;
const KEY_SECONDS = 0.1;
/** Points keep at least this distance, so that each can be taken hold of. */
const CLOSEST_SECONDS = 0.05;
const HEIGHT = 88;

/** The song's level over its whole length: points joined by straight lines in decibels. */
export function LevelCurve(): ReactNode {
  const { song, analysis, change, draft } = useListenSong();
  const player = usePlayer();
  const lane = useRef<SVGSVGElement>(null);
  const { level } = song;
  const duration = analysis.durationSeconds;
  const yOf = (decibels: number): number =>
    (HEIGHT * (HIGHEST_DECIBELS - decibels)) / (HIGHEST_DECIBELS - LOWEST_DECIBELS);
  const shareOf = (seconds: number): number => (100 * seconds) / duration;
  const pointAt = (event: { clientX: number; clientY: number }): LevelPoint => {
    const box = lane.current!.getBoundingClientRect();
    const share = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
    const down = Math.max(0, Math.min(1, (event.clientY - box.top) / box.height));
    const decibels = HIGHEST_DECIBELS - down * (HIGHEST_DECIBELS - LOWEST_DECIBELS);
    return { seconds: share * duration, decibels: Math.round(2 * decibels) / 2 };
  };
  const add = (point: LevelPoint): void =>
    change(({ level: points }) => ({
      level: [...points.filter(({ seconds }) => Math.abs(seconds - point.seconds) >= CLOSEST_SECONDS), point].sort(
        (a, b) => a.seconds - b.seconds,
      ),
    }));
  /** A point at another place, between its neighbours. */
  const moved = (index: number, to: LevelPoint) => (): { level: LevelPoint[] } => {
    const [before, after] = [level[index - 1], level[index + 1]];
    const lowest = before ? before.seconds + CLOSEST_SECONDS : 0;
    const highest = after ? after.seconds - CLOSEST_SECONDS : duration;
    const seconds = Math.max(lowest, Math.min(highest, to.seconds));
    const decibels = Math.max(LOWEST_DECIBELS, Math.min(HIGHEST_DECIBELS, to.decibels));
    return { level: level.with(index, { seconds, decibels }) };
  };
  const remove = (index: number): void => change(({ level: points }) => ({ level: points.toSpliced(index, 1) }));
  const drag = (event: ReactPointerEvent<SVGCircleElement>, index: number): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const dot = event.currentTarget;
    dot.setPointerCapture(event.pointerId);
    let last: LevelPoint | null = null;
    const move = (at: PointerEvent): void => {
      last = pointAt(at);
      draft(moved(index, last));
    };
    const finish = (keep: boolean) => (): void => {
      dot.removeEventListener("pointermove", move);
      window.removeEventListener("keydown", escape);
      draft(null);
      if (keep && last) change(moved(index, last));
      last = null;
    };
    const escape = (key: globalThis.KeyboardEvent): void => {
      if (key.key === "Escape") finish(false)();
    };
    dot.addEventListener("pointermove", move);
    dot.addEventListener("pointerup", finish(true), { once: true });
    dot.addEventListener("pointercancel", finish(false), { once: true });
    window.addEventListener("keydown", escape);
  };
  const onKey = (event: KeyboardEvent, index: number): void => {
    const point = level[index]!;
    const step = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key];
    if (event.key === "Delete" || event.key === "Backspace") remove(index);
    else if (step) {
      const to = {
        seconds: point.seconds + step[0]! * KEY_SECONDS,
        decibels: point.decibels + step[1]! * KEY_DECIBELS,
      };
      change(moved(index, to), `level ${index}`);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const line = level.length
    ? [{ seconds: 0, decibels: level[0]!.decibels }, ...level, { seconds: duration, decibels: level.at(-1)!.decibels }]
    : [
        { seconds: 0, decibels: 0 },
        { seconds: duration, decibels: 0 },
      ];
  return (
    <section aria-label="Level">
      <div className="mb-1 flex items-center justify-between gap-3">
        <h2 className="text-[15px]">Level</h2>
        <span className="text-[13px] text-quiet">
          {level.length === 0 ? "as it was recorded; a double click sets a point" : "drag a point; Delete removes it"}
        </span>
        <span className="flex gap-1">
          <Button
            kind="quiet"
            onClick={() => add({ seconds: player.filmSeconds(), decibels: levelAt(level, player.filmSeconds()) })}
          >
            Point at the playhead
          </Button>
          <Button kind="quiet" disabled={level.length === 0} onClick={() => change(() => ({ level: [] }))}>
            As recorded
          </Button>
        </span>
      </div>
      <svg
        ref={lane}
        role="group"
        aria-label="Level curve"
        data-testid="level-curve"
        className="w-full touch-none overflow-visible rounded-md bg-raised"
        style={{ height: HEIGHT }}
        onDoubleClick={(event) => add(pointAt(event))}
      >
        {LINES.map((decibels) => (
          <g key={decibels}>
            <line x1="0" x2="100%" y1={yOf(decibels)} y2={yOf(decibels)} className="stroke-line" />
            <text x="6" y={yOf(decibels) - 3} className="fill-quiet text-[11px]">
              {decibels} dB
            </text>
          </g>
        ))}
        {line.slice(1).map((point, i) => (
          <line
            key={`${line[i]!.seconds} ${point.seconds}`}
            x1={`${shareOf(line[i]!.seconds)}%`}
            y1={yOf(line[i]!.decibels)}
            x2={`${shareOf(point.seconds)}%`}
            y2={yOf(point.decibels)}
            strokeWidth="2"
            className="stroke-foam"
          />
        ))}
        {level.map((point, index) => (
          <circle
            // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the order, which dragging keeps.
            key={index}
            cx={`${shareOf(point.seconds)}%`}
            cy={yOf(point.decibels)}
            r="6"
            strokeWidth="2"
            role="slider"
            tabIndex={0}
            aria-label={`Point ${index + 1} of the level`}
            aria-valuemin={LOWEST_DECIBELS}
            aria-valuemax={HIGHEST_DECIBELS}
            aria-valuenow={point.decibels}
            aria-valuetext={`${point.decibels.toFixed(1)} dB at ${clockText(point.seconds)}`}
            className="cursor-grab fill-raised stroke-foam focus:fill-foam"
            onPointerDown={(event) => drag(event, index)}
            onDoubleClick={(event) => event.stopPropagation()}
            onKeyDown={(event) => onKey(event, index)}
          >
            <title>{`${point.decibels.toFixed(1)} dB at ${clockText(point.seconds)}`}</title>
          </circle>
        ))}
      </svg>
    </section>
  );
}

/** Decibels of the curve at a time, to the half. */
function levelAt(level: readonly LevelPoint[], seconds: number): number {
  const [first, last] = [level[0], level.at(-1)];
  if (!first || !last) return 0;
  const decibels = piecewiseLinear(
    level,
    (point) => point.seconds,
    (point) => point.decibels,
    Math.max(first.seconds, Math.min(last.seconds, seconds)),
  );
  return Math.round(2 * decibels) / 2;
}
