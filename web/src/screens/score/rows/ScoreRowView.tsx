import type { ArrangedMusic } from "@humming-tide/core/arrange";
import { clockText, type FrameRate } from "@humming-tide/core/time";
import { type CSSProperties, memo, type ReactNode } from "react";
import { usePlayer } from "../../../stage/player-context.tsx";
import { MARGIN_WIDTH, PASSAGE_LANE, type RowSize, rowHeight } from "../layout/row-size.ts";
import { type ScoreLayout, type ScoreRow, timeAt } from "../layout/score-layout.ts";
import { useTurn } from "../layout/turns.ts";
import { type RowSound, soundSignature } from "../sound/row-sound.ts";
import { LandingHandle } from "./LandingHandle.tsx";
import { PassageEdge } from "./PassageEdge.tsx";
import { PictureBlock } from "./PictureBlock.tsx";
import { RowMusic } from "./RowMusic.tsx";
import { type RowContent, signatureOf } from "./row-pieces.ts";
import { SoundLanes } from "./SoundLanes.tsx";
import type { EdgeDrags } from "./use-edge-drag.ts";

interface RowProps {
  row: ScoreRow;
  layout: ScoreLayout;
  content: RowContent;
  sound: RowSound;
  size: RowSize;
  music: ArrangedMusic;
  /** Of the section that plays where the row begins. */
  section: string;
  rate: FrameRate;
  fadeStartSeconds: number;
  filmSeconds: number;
  drags: EdgeDrags;
  onOpen: () => void;
}

/**
 * One phrase: pictures over their slots, landings and tides between them, the music and its grid
 * below.
 */
export const ScoreRowView = memo(
  function ScoreRowView(props: RowProps): ReactNode {
    const { row, layout, content, sound, size, music, section, rate, fadeStartSeconds, filmSeconds, drags, onOpen } =
      props;
    const player = usePlayer();
    const isFilled = useTurn();
    return (
      <div className="flex" style={{ height: rowHeight(size) }} data-testid="score-row" data-row={row.index}>
        <RowMargin row={row} section={section} />
        <div
          className="relative min-w-0 flex-1"
          data-row-track={row.index}
          onPointerDown={(event) => {
            if (event.target !== event.currentTarget && !(event.target as HTMLElement).closest("canvas")) return;
            const box = event.currentTarget.getBoundingClientRect();
            player.seek(timeAt(layout, row.index, (event.clientX - box.left) / box.width));
          }}
        >
          {isFilled && (
            <>
              <div className="relative" style={{ height: PASSAGE_LANE }}>
                {content.passages.map((mark) => (
                  <PassageEdge key={mark.passageId} mark={mark} drags={drags} />
                ))}
              </div>
              <RowPictures
                content={content}
                height={size.pictures}
                layout={layout}
                rate={rate}
                drags={drags}
                onOpen={onOpen}
              />
              <RowMusic
                row={row}
                layout={layout}
                size={size}
                music={music}
                fadeStartSeconds={fadeStartSeconds}
                filmSeconds={filmSeconds}
              />
              {(size.level > 0 || sound.blocks.length > 0) && <SoundLanes sound={sound} size={size} drags={drags} />}
            </>
          )}
        </div>
      </div>
    );
  },
  (before, after) =>
    before.layout === after.layout &&
    before.row === after.row &&
    before.size === after.size &&
    before.music === after.music &&
    before.section === after.section &&
    signatureOf(before.content, before.rate) === signatureOf(after.content, after.rate) &&
    soundSignature(before.sound) === soundSignature(after.sound) &&
    before.drags === after.drags &&
    before.onOpen === after.onOpen &&
    before.fadeStartSeconds === after.fadeStartSeconds,
);

/** The number of the row's first bar, its time, and its section. */
function RowMargin({ row, section }: Pick<RowProps, "row" | "section">): ReactNode {
  return (
    <div className="shrink-0 pr-3 text-right" style={{ width: MARGIN_WIDTH, paddingTop: PASSAGE_LANE - 3 }}>
      <div className="font-heading text-[15px] leading-5 text-soft" title={`Bar ${Math.max(1, row.firstBar)}`}>
        {row.firstBar < 1 ? "up" : row.firstBar}
      </div>
      <div className="text-xs leading-4 text-quiet">{clockText(Math.max(0, row.startSeconds))}</div>
      {section && (
        <div className="truncate text-xs leading-4 text-foam" title={`Section ${section}`}>
          {section}
        </div>
      )}
    </div>
  );
}

interface RowPicturesProps extends Pick<RowProps, "content" | "layout" | "rate" | "drags" | "onOpen"> {
  /** In pixels. */
  height: number;
}

/** Pictures over their slots, where landings were before a change, and the landings themselves. */
function RowPictures({ content, height, layout, rate, drags, onOpen }: RowPicturesProps): ReactNode {
  return (
    <div className="relative" style={{ height, "--picture-height": `${height + 5}px` } as CSSProperties}>
      {content.pieces.map((piece) => (
        <PictureBlock key={`${piece.slot.index}-${piece.from}`} {...piece} rate={rate} onOpen={onOpen} />
      ))}
      {content.ghosts.map((share) => (
        <span
          key={share}
          aria-hidden
          data-testid="was-here"
          className="pointer-events-none absolute inset-y-0 z-[2] border-l-2 border-dotted border-ink/70"
          style={{ left: `${share * 100}%` }}
        />
      ))}
      {content.pieces
        .filter((piece) => piece.first && piece.slot.index > 0)
        .map(({ slot, from }) => (
          <LandingHandle
            key={`${slot.slideId} ${slot.round}`}
            slot={slot}
            share={from}
            rate={rate}
            layout={layout}
            moved={slot.round === 0 && content.moved.has(slot.slideId)}
            drags={drags}
          />
        ))}
    </div>
  );
}
