import type { FilmPlan } from "@humming-tide/core/film";
import { clockText, frameStart, type Seconds } from "@humming-tide/core/time";
import { type MouseEvent, type ReactNode, useCallback, useRef } from "react";
import { mediaUrl } from "../../api.ts";
import { useFilmClock } from "../../stage/player-context.tsx";
import { type FilmPiece, type FilmRow, filmRows, ROW_SECONDS } from "./film-rows.ts";

interface FilmColumnProps {
  name: string;
  plan: FilmPlan;
  rows: number;
  /** Slides that the other film does not show. */
  only: ReadonlySet<string>;
  /** Whether the stage shows this film. */
  isShown: boolean;
  /** Plays this film from a place. */
  onPlace: (seconds: Seconds) => void;
}

/** One of two films, in rows of the same time as the other. */
export function FilmColumn({ name, plan, rows, only, isShown, onPlace }: FilmColumnProps): ReactNode {
  return (
    <section aria-label={name} className="min-w-0 flex-1" data-testid="film-column">
      <h2
        className={`sticky top-0 z-[2] truncate bg-ground pt-3 pb-1 pl-9 font-heading text-[17px] ${isShown ? "text-ink" : "text-soft"}`}
      >
        {name}
        {isShown && <span className="ml-2 font-sans text-xs text-quiet">on the stage</span>}
      </h2>
      <div className="relative ml-9 flex flex-col gap-2">
        {filmRows(plan, rows).map((row) => (
          <RowOfFilm key={row.startSeconds} row={row} plan={plan} only={only} onPlace={onPlace} />
        ))}
        {isShown && <Playhead rows={rows} />}
      </div>
    </section>
  );
}

/** Height of a row with its gap, in pixels; the playhead is placed by it. */
const ROW_HEIGHT = 74;
const ROW_GAP = 8;

interface RowOfFilmProps extends Pick<FilmColumnProps, "plan" | "only" | "onPlace"> {
  row: FilmRow;
}

function RowOfFilm({ row, plan, only, onPlace }: RowOfFilmProps): ReactNode {
  const { startSeconds, pieces, sections } = row;
  // By key the row plays from its beginning, by pointer from the slot that was hit.
  const open = (event: MouseEvent): void => {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    const share = event.detail === 0 ? 0 : (event.clientX - left) / width;
    const hit = event.detail === 0 ? undefined : pieces.find(({ to }) => to > share);
    onPlace(hit ? frameStart(hit.slot.startFrame, plan.rate) : startSeconds);
  };
  return (
    <div className="relative" style={{ height: ROW_HEIGHT }}>
      <span className="absolute right-full bottom-5 pr-1.5 text-[11px] text-quiet tabular-nums">
        {clockText(startSeconds)}
      </span>
      <div className="relative h-4 overflow-hidden text-[11px] leading-4 text-soft">
        {sections.map(({ at, name }) => (
          <span
            key={at}
            className="absolute top-0 max-w-[40%] truncate border-l border-line-strong bg-ground pl-1"
            style={{ left: `${100 * at}%` }}
          >
            {name}
          </span>
        ))}
      </div>
      <button
        type="button"
        data-testid="film-row"
        data-space-plays
        aria-label={rowText(row, only)}
        disabled={pieces.length === 0}
        onClick={open}
        className="relative block h-[58px] w-full rounded bg-raised"
      >
        {pieces.map((piece) => (
          <PieceOfFilm key={piece.slot.index} piece={piece} isOnly={only.has(piece.slot.slideId)} />
        ))}
      </button>
    </div>
  );
}

/** What a row shows, and what of it only this film shows. */
function rowText({ startSeconds, pieces }: FilmRow, only: ReadonlySet<string>): string {
  const begun = pieces.filter(({ isFirst }) => isFirst).map(({ slot }) => slot);
  const alone = begun.filter(({ slideId }) => only.has(slideId)).map(({ name }) => name);
  const slots = begun.map(({ index }) => index + 1).join(", ");
  return (
    `From ${clockText(startSeconds)}${slots === "" ? "" : `: slots ${slots}`}` +
    (alone.length === 0 ? "" : `; only in this film: ${alone.join(", ")}`)
  );
}

interface PieceOfFilmProps {
  piece: FilmPiece;
  isOnly: boolean;
}

function PieceOfFilm({ piece: { slot, from, to, isFirst }, isOnly }: PieceOfFilmProps): ReactNode {
  return (
    <span
      title={`Slot ${slot.index + 1}: ${slot.name}${isOnly ? ", only in this film" : ""}${slot.locked ? ", locked" : ""}`}
      data-testid="film-piece"
      className={`absolute inset-y-0 overflow-hidden bg-slide bg-cover bg-center outline-1 -outline-offset-1 outline-ground ${isFirst ? "rounded-l-[5px]" : ""}`}
      style={{
        left: `${100 * from}%`,
        width: `calc(${100 * (to - from)}% - 1px)`,
        ...(slot.picture !== null && { backgroundImage: `url(${mediaUrl(slot.picture, "thumbnail")})` }),
      }}
    >
      {isOnly && <span className="absolute inset-x-0 bottom-0 h-[5px] bg-ink" />}
    </span>
  );
}

/** Where the film is, moved without rendering the page again. */
function Playhead({ rows }: { rows: number }): ReactNode {
  const line = useRef<HTMLDivElement>(null);
  const show = useCallback(
    (seconds: number) => {
      const row = Math.min(rows - 1, Math.floor(seconds / ROW_SECONDS));
      const share = Math.min(1, seconds / ROW_SECONDS - row);
      if (!line.current) return;
      line.current.style.top = `${row * (ROW_HEIGHT + ROW_GAP)}px`;
      line.current.style.left = `${100 * share}%`;
    },
    [rows],
  );
  useFilmClock(show);
  return (
    <div
      ref={line}
      aria-hidden
      className="pointer-events-none absolute w-[2px] bg-ink"
      style={{ height: ROW_HEIGHT }}
    />
  );
}
