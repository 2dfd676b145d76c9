import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { indexOfNearestBeat } from "@humming-tide/core/grid";
import { lockLanding } from "@humming-tide/core/show";
import { clockText, type FrameRate, frameStart, frames } from "@humming-tide/core/time";
import { Lock } from "lucide-react";
import { type KeyboardEvent, memo, type ReactNode } from "react";
import { mediaUrl } from "../../api.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { showActions } from "../../store/show-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { RowMusic } from "./RowMusic.tsx";
import { placeAt, type ScoreLayout, type ScoreRow, spansBetween, timeAt } from "./score-layout.ts";
import type { StartDrag } from "./use-landing-drag.ts";

interface RowProps {
  row: ScoreRow;
  layout: ScoreLayout;
  pieces: readonly Piece[];
  /** Equal exactly if the pieces look equal: a re-lay renders only the rows that it changes. */
  signature: string;
  rate: FrameRate;
  fadeStartSeconds: number;
  filmSeconds: number;
  startDrag: StartDrag;
}

/** One phrase: pictures over their slots, landings and tides between them, the music and its grid below. */
export const ScoreRowView = memo(
  function ScoreRowView({ row, layout, pieces, rate, fadeStartSeconds, filmSeconds, startDrag }: RowProps): ReactNode {
    const player = usePlayer();
    return (
      <div
        className="flex pt-1 pb-2 [contain-intrinsic-size:auto_136px] [content-visibility:auto]"
        data-testid="score-row"
      >
        <div className="w-[62px] shrink-0 pt-1 pr-3 text-right">
          <div className="font-heading text-[15px] leading-5 text-soft" title={`Bar ${Math.max(1, row.firstBar)}`}>
            {row.firstBar < 1 ? "up" : row.firstBar}
          </div>
          <div className="text-xs text-quiet">{clockText(Math.max(0, row.startSeconds))}</div>
        </div>
        <div
          className="relative min-w-0 flex-1"
          data-row-track={row.index}
          onPointerDown={(event) => {
            if (event.target !== event.currentTarget && !(event.target as HTMLElement).closest("canvas")) return;
            const box = event.currentTarget.getBoundingClientRect();
            player.seek(timeAt(layout, row.index, (event.clientX - box.left) / box.width));
          }}
        >
          <div className="relative h-[66px]">
            {pieces.map((piece) => (
              <Block key={`${piece.slot.index}-${piece.from}`} {...piece} rate={rate} />
            ))}
            {pieces
              .filter((piece) => piece.first && piece.slot.index > 0)
              .map(({ slot, from }) => (
                <Landing key={slot.index} slot={slot} share={from} rate={rate} layout={layout} startDrag={startDrag} />
              ))}
          </div>
          <RowMusic row={row} layout={layout} fadeStartSeconds={fadeStartSeconds} filmSeconds={filmSeconds} />
        </div>
      </div>
    );
  },
  (before, after) =>
    before.layout === after.layout &&
    before.signature === after.signature &&
    before.startDrag === after.startDrag &&
    before.fadeStartSeconds === after.fadeStartSeconds,
);

export interface Piece {
  readonly slot: FilmSlot;
  readonly from: number;
  readonly to: number;
  /** Whether the slot begins in this piece. */
  readonly first: boolean;
}

/** Every slot's pieces, by row. O(slots + rows). */
export function piecesByRow(plan: FilmPlan, layout: ScoreLayout): readonly (readonly Piece[])[] {
  const rows: Piece[][] = layout.rows.map(() => []);
  const filmSeconds = frameStart(frames(plan.totalFrames), plan.rate);
  for (const slot of plan.slots) {
    const to = plan.slots[slot.index + 1]?.landing?.seconds ?? filmSeconds;
    const spans = spansBetween(layout, slot.landing?.seconds ?? 0, to);
    spans.forEach((span, i) => rows[span.row]?.push({ slot, from: span.from, to: span.to, first: i === 0 }));
  }
  return rows;
}

/** What a row's pieces look like, as text. */
export const signatureOf = (pieces: readonly Piece[], rate: FrameRate): string =>
  `${rate.num}/${rate.den} ${pieces
    .map(({ slot, from, to }) => {
      const { kind, startFrame, endFrame } = slot.transitionIn;
      return `${slot.index} ${slot.slideId} ${slot.picture} ${slot.round} ${slot.locked} ${from} ${to} ${kind} ${startFrame} ${endFrame}`;
    })
    .join("|")}`;

const percent = (share: number): string => `${share * 100}%`;

/** A picture over its slot. Long slots show it more than once rather than one stretched crop. */
function Block({ slot, from, to, first, rate }: Piece & { rate: FrameRate }): ReactNode {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const selected = useAppSelector((state) => state.view.selectedSlot === slot.index);
  const select = (): void => {
    dispatch(viewActions.slotSelected(slot.index));
    player.seek(frameStart(frames(slot.startFrame), rate));
  };
  return (
    <button
      type="button"
      data-testid={first ? "slot" : "slot-continued"}
      data-slot={slot.index}
      data-space-plays
      aria-pressed={selected}
      aria-label={`Slot ${slot.index + 1}: ${slot.fileName}${slot.locked ? ", locked" : ""}`}
      title={slot.fileName}
      tabIndex={first ? 0 : -1}
      onClick={select}
      className={`absolute inset-y-0 overflow-hidden bg-slide bg-repeat-x ${first ? "rounded-l-[5px]" : ""} ${selected ? "z-[1] outline-2 outline-ink" : "outline-1 -outline-offset-1 outline-ground"} ${slot.round > 0 ? "opacity-70" : ""}`}
      style={{
        left: percent(from),
        width: `calc(${percent(to - from)} - 1px)`,
        backgroundImage: `url(${mediaUrl(slot.picture, "thumbnail")})`,
        backgroundSize: "auto 100%",
        backgroundPosition: to - from < 0.16 ? "center" : "left center",
      }}
    />
  );
}

interface LandingProps {
  slot: FilmSlot;
  share: number;
  rate: FrameRate;
  layout: ScoreLayout;
  startDrag: StartDrag;
}

/** Where one picture gives way to the next: a drop at the landing, a tide over the overlap, a lock where it is held. */
function Landing({ slot, share, rate, layout, startDrag }: LandingProps): ReactNode {
  const dispatch = useAppDispatch();
  const movable = slot.round === 0;
  const { transitionIn } = slot;
  const at = (frame: number): number => {
    const place = placeAt(layout, frameStart(frames(frame), rate));
    const here = placeAt(layout, slot.landing!.seconds);
    return place.share + (place.row - here.row);
  };
  const [left, right] =
    transitionIn.kind === "dissolve" ? [at(transitionIn.startFrame), at(transitionIn.endFrame)] : [share, share];
  const nudge = (event: KeyboardEvent): void => {
    const direction = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
    if (direction === 0 || !movable) return;
    event.preventDefault();
    event.stopPropagation();
    const beats = layout.beats.filter((beat) => !beat.imagined);
    const usable = beats.length > 0 ? beats : layout.beats;
    const target = usable[indexOfNearestBeat(usable, slot.landing!.seconds) + direction];
    const document = store.getState().show.document;
    if (target && document) dispatch(showActions.edited(lockLanding(document, slot.slideId, target.seconds)));
  };
  const bar = slot.landing!.kind === "bar";
  return (
    <>
      {transitionIn.kind === "dissolve" && (
        <svg
          aria-hidden
          viewBox="0 0 100 40"
          preserveAspectRatio="none"
          className="pointer-events-none absolute bottom-0 z-[2] h-[26px]"
          style={{ left: percent(left), width: percent(right - left) }}
        >
          <path d="M0 40C32 40 38 4 50 4s18 36 50 36z" fill="var(--ground)" fillOpacity="0.72" />
          <path
            d="M0 40C32 40 38 4 50 4s18 36 50 36"
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.4"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      )}
      <div
        role="slider"
        tabIndex={0}
        data-testid="landing"
        data-space-plays
        data-slot={slot.index}
        data-locked={slot.locked}
        data-seconds={slot.landing!.seconds}
        aria-label={`Landing of slot ${slot.index + 1}`}
        aria-valuenow={Math.round(slot.landing!.seconds * 1000) / 1000}
        aria-valuetext={`${slot.landing!.seconds.toFixed(2)} seconds, on a ${bar ? "bar start" : "beat"}${slot.locked ? ", locked" : ""}`}
        aria-disabled={!movable}
        title={movable ? "Drag from beat to beat" : "This picture is shown again here; move it where it is shown first"}
        onPointerDown={(event) => startDrag(event, slot.index)}
        onFocus={() => dispatch(viewActions.slotSelected(slot.index))}
        onKeyDown={nudge}
        className={`absolute inset-y-0 z-[3] w-[14px] -translate-x-1/2 touch-none ${movable ? "cursor-ew-resize" : "cursor-not-allowed"} group`}
        style={{ left: percent(share) }}
      >
        <span
          aria-hidden
          className={`absolute inset-y-0 left-1/2 w-[2px] -translate-x-1/2 ${slot.locked ? "bg-heather" : "bg-transparent group-hover:bg-lantern"}`}
        />
        <svg aria-hidden viewBox="0 0 12 16" className="absolute -bottom-[5px] left-1/2 w-[11px] -translate-x-1/2">
          <path
            d="M6 0c2.600 4 5 6.500 5 9.800a5 5 0 0 1-10 0C1 6.500 3.400 4 6 0z"
            fill={bar ? "var(--lantern)" : "var(--ground)"}
            stroke="var(--lantern)"
            strokeWidth="1.5"
          />
        </svg>
        {slot.locked && (
          <span className="absolute top-0.5 left-1/2 -translate-x-1/2 rounded bg-heather p-[2px] text-ground">
            <Lock size={10} strokeWidth={2.6} aria-hidden />
          </span>
        )}
      </div>
    </>
  );
}
