import type { Severity } from "@humming-tide/core/check";
import { present } from "@humming-tide/core/presence";
import { type FrameRate, frameStart } from "@humming-tide/core/time";
import { MessageSquareText, TriangleAlert } from "lucide-react";
import type { CSSProperties, MouseEvent, ReactNode } from "react";
import { mediaUrl } from "../../../api.ts";
import { usePlayer } from "../../../stage/player-context.tsx";
import { openShow } from "../../../store/open-show.ts";
import { selectionActions } from "../../../store/selection-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { CardFace } from "../../../ui/SlideImage.tsx";
import type { Piece } from "./row-pieces.ts";

interface PictureBlockProps extends Piece {
  rate: FrameRate;
  onOpen: () => void;
}

/** Narrower, the middle of a picture says more than its left. */
const NARROW_SHARE = 0.16;

/** A picture once, in its shape; the rest of a long slot is the same picture, larger and dark. */
const pictureOnce = (url: string, share: number): CSSProperties => ({
  backgroundImage: `url(${url}), linear-gradient(rgb(0 0 0 / 0.6) 0 0), url(${url})`,
  backgroundSize: "auto 100%, 100% 100%, cover",
  backgroundPosition: `${share < NARROW_SHARE ? "center" : "left"} center, 0 0, center`,
  backgroundRepeat: "no-repeat",
});

/** A picture over its slot. */
export function PictureBlock({ slot, from, to, first, rate, onOpen }: PictureBlockProps): ReactNode {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const selected = useAppSelector((state) => state.selection.ids.has(slot.slideId));
  const card = useAppSelector((state) =>
    slot.picture === null ? present(state.show.document).slides[slot.slideIndex] : undefined,
  );
  const finding = useAppSelector((state) => state.check.bySlot[slot.index]);
  const { slideId, round } = slot;
  const isSpokenOf = useAppSelector((state) => state.client.openBySlide[slideId] === true) && round === 0;
  const select = (event: MouseEvent): void => {
    const { anchorId } = store.getState().selection;
    const slides = openShow().slides;
    if (event.ctrlKey || event.metaKey) dispatch(selectionActions.toggled({ slideId, round }));
    else if (event.shiftKey && anchorId !== null) {
      const [a, b] = [anchorId, slideId].map((id) => slides.findIndex((slide) => slide.id === id)) as [number, number];
      const ids = slides.slice(Math.min(a, b), Math.max(a, b) + 1).filter((slide) => slide.rating !== "out");
      dispatch(selectionActions.selected({ ids: ids.map(({ id }) => id), current: { slideId, round } }));
    } else {
      dispatch(selectionActions.picked({ slideId, round }));
      player.seek(frameStart(slot.startFrame, rate));
    }
  };
  return (
    <button
      type="button"
      data-testid={first ? "slot" : "slot-continued"}
      data-slot={slot.index}
      data-slide={slideId}
      data-space-plays
      aria-pressed={selected}
      aria-label={`Slot ${slot.index + 1}: ${slot.name}${slot.locked ? ", locked" : ""}${finding === "error" || finding === "warning" ? ", worth a look" : ""}${isSpokenOf ? ", the client has said something" : ""}`}
      title={slot.name}
      tabIndex={first ? 0 : -1}
      onClick={select}
      onDoubleClick={onOpen}
      className={`absolute inset-y-0 overflow-hidden bg-slide ${first ? "rounded-l-[5px]" : ""} ${selected ? "z-[1] outline-2 outline-ink" : "outline-1 -outline-offset-1 outline-ground"} ${round > 0 ? "opacity-70" : ""}`}
      style={{
        left: `${from * 100}%`,
        width: `calc(${(to - from) * 100}% - 1px)`,
        ...(slot.picture !== null && pictureOnce(mediaUrl(slot.picture, "thumbnail"), to - from)),
      }}
    >
      <BlockSigns first={first} finding={finding} isSpokenOf={isSpokenOf} />
      {card && <CardFace slide={card} className="size-full" />}
    </button>
  );
}

interface BlockSignsProps {
  first: boolean;
  finding: Severity | undefined;
  isSpokenOf: boolean;
}

/** Something to look at, and something that the client said. */
function BlockSigns({ first, finding, isSpokenOf }: BlockSignsProps): ReactNode {
  return (
    <>
      {first && (finding === "error" || finding === "warning") && (
        <TriangleAlert
          size={15}
          aria-hidden
          className={`absolute top-0.5 right-0.5 rounded-sm bg-ground/85 p-px ${finding === "error" ? "text-error" : "text-warning"}`}
        />
      )}
      {first && isSpokenOf && (
        <MessageSquareText
          size={15}
          aria-hidden
          className="absolute top-0.5 left-0.5 rounded-sm bg-ground/85 p-px text-ink"
        />
      )}
    </>
  );
}
