import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import type { ShowDocument, Slide } from "@humming-tide/core/show";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type MouseEvent, memo, type ReactNode, useCallback, useEffect, useMemo, useRef } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { selectionActions } from "../../store/selection-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { SlideImage } from "../../ui/SlideImage.tsx";
import { frameAlone, isDressedByHand } from "./dressed.ts";

const ITEM_WIDTH = 88;

interface SlideStripProps {
  plan: FilmPlan;
  show: ShowDocument;
  /** The slot under the playhead. */
  current: FilmSlot;
}

/**
 * All slides of the film in a row, with the passages that they belong to. A press goes to one; with
 * Shift or Ctrl several are selected, and dressed together.
 */
export function SlideStrip({ plan, show, current }: SlideStripProps): ReactNode {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const { ids, anchorId } = useAppSelector((state) => state.selection);
  const scroller = useRef<HTMLDivElement>(null);
  const { slots } = plan;
  const row = useVirtualizer({
    horizontal: true,
    count: slots.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ITEM_WIDTH,
    overscan: 4,
  });
  useEffect(() => row.scrollToIndex(current.index, { align: "auto" }), [row, current.index]);
  const names = useMemo(() => passageStarts(show, slots), [show, slots]);
  const press = useCallback(
    (slot: FilmSlot, event: MouseEvent): void => {
      const shown = { slideId: slot.slideId, round: slot.round };
      if (event.shiftKey && anchorId !== null) {
        dispatch(selectionActions.selected({ ids: between(slots, anchorId, slot), current: shown }));
      } else if (event.ctrlKey || event.metaKey) dispatch(selectionActions.toggled(shown));
      else dispatch(selectionActions.picked(shown));
      player.seek((frameAlone(plan, slot) * plan.rate.den) / plan.rate.num);
    },
    [anchorId, dispatch, plan, player, slots],
  );
  return (
    <div ref={scroller} className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden" data-testid="slide-strip">
      <ol aria-label="Slides of the film" className="relative h-[92px]" style={{ width: row.getTotalSize() }}>
        {row.getVirtualItems().map(({ index, start }) => {
          const slot = itemAt(slots, index);
          const slide = itemAt(show.slides, slot.slideIndex);
          return (
            <li key={index} className="absolute top-0" style={{ left: start, width: ITEM_WIDTH }}>
              <StripItem
                slot={slot}
                slide={slide}
                passageName={names.get(index) ?? null}
                isCurrent={index === current.index}
                isSelected={ids.has(slot.slideId)}
                onPress={press}
              />
            </li>
          );
        })}
      </ol>
    </div>
  );
}

interface StripItemProps {
  slot: FilmSlot;
  slide: Slide;
  /** Where a passage begins: what it is called. */
  passageName: string | null;
  isCurrent: boolean;
  isSelected: boolean;
  onPress: (slot: FilmSlot, event: MouseEvent) => void;
}

const StripItem = memo(function StripItem(props: StripItemProps): ReactNode {
  const { slot, slide, passageName, isCurrent, isSelected, onPress } = props;
  const byHand = isDressedByHand(slide);
  return (
    <>
      <p className="h-5 overflow-visible pl-1 text-[12px] leading-5 whitespace-nowrap text-soft">
        {passageName !== null && <span className="border-l border-line-strong pl-1.5">{passageName}</span>}
      </p>
      <button
        type="button"
        aria-current={isCurrent ? "true" : undefined}
        aria-pressed={isSelected}
        aria-label={`${slot.name}${byHand ? ", dressed by hand" : ""}`}
        title={slot.name}
        onClick={(event) => onPress(slot, event)}
        className="group relative mx-1 block rounded outline-offset-2 hover:outline hover:outline-line-strong aria-current:outline-2 aria-current:outline-ink aria-pressed:outline-2 aria-pressed:outline-accent"
      >
        <SlideImage slide={slide} className="h-[54px] w-20 rounded object-cover" />
        {byHand && <span className="absolute right-1 bottom-1 size-2.5 rounded-full border border-ground bg-ink" />}
      </button>
    </>
  );
});

/** Passages by the index of the slot that begins them; one without a name is told by its number. */
function passageStarts({ passages, slides }: ShowDocument, slots: readonly FilmSlot[]): Map<number, string> {
  const starts = new Map<number, string>();
  let before: string | null = null;
  for (const { index, slideIndex } of slots) {
    const { passageId } = itemAt(slides, slideIndex);
    if (passageId !== before) {
      const number = passages.findIndex(({ id }) => id === passageId);
      starts.set(index, passages[number]?.name || `Passage ${number + 1}`);
    }
    before = passageId;
  }
  return starts;
}

/** The slides from one to another, both included, in the order of the film. */
function between(slots: readonly FilmSlot[], anchorId: string, to: FilmSlot): string[] {
  const anchor = slots.find(({ slideId }) => slideId === anchorId) ?? to;
  const [first, last] = [Math.min(anchor.index, to.index), Math.max(anchor.index, to.index)];
  return [...new Set(slots.slice(first, last + 1).map(({ slideId }) => slideId))];
}
