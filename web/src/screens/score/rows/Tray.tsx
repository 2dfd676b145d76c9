import { useDraggable } from "@dnd-kit/core";
import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import { type Slide, slideName } from "@humming-tide/core/show";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ChevronDown, ChevronRight } from "lucide-react";
import { type KeyboardEvent, type ReactNode, useMemo, useRef, useState } from "react";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { currentSlot, selectionActions } from "../../../store/selection-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { SlideImage } from "../../../ui/SlideImage.tsx";
import { putIntoFilm } from "./use-slide-drag.ts";

const WIDTH = 84;

/**
 * Pictures of the show that the film does not show: left out by a person, or for want of room. From
 * here they are dragged into the Score.
 */
export function Tray({ plan }: { plan: FilmPlan }): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const [isOpen, setOpen] = useState(true);
  const noRoom = useMemo(() => new Set(plan.leftOut.map((index) => slides[index]?.id)), [plan.leftOut, slides]);
  const waiting = useMemo(
    () => slides.filter(({ id, rating }) => rating === "out" || noRoom.has(id)),
    [slides, noRoom],
  );
  if (waiting.length === 0) return null;
  const out = waiting.filter(({ rating }) => rating === "out").length;
  const words = [out > 0 && `${out} left out`, waiting.length > out && `${waiting.length - out} without room`];
  return (
    <section aria-label="Not in the film" className="shrink-0 border-t border-line bg-raised" data-testid="tray">
      <button
        type="button"
        aria-expanded={isOpen}
        className="flex w-full items-center gap-1.5 px-3 py-1.5 text-left text-[13px] text-soft hover:text-ink"
        onClick={() => setOpen(!isOpen)}
      >
        {isOpen ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
        Not in the film: {words.filter(Boolean).join(", ")}
        {isOpen && <span className="text-quiet">· drag one between the pictures above, or press Enter on it</span>}
      </button>
      {isOpen && <TrayStrip slides={waiting} noRoom={noRoom} />}
    </section>
  );
}

function TrayStrip({
  slides,
  noRoom,
}: {
  slides: readonly Slide[];
  noRoom: ReadonlySet<string | undefined>;
}): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const selected = useAppSelector((state) => state.selection.ids);
  const { setNodeRef, listeners } = useDraggable({ id: "tray" });
  const virtual = useVirtualizer({
    horizontal: true,
    count: slides.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => WIDTH,
    overscan: 4,
    useFlushSync: false,
  });
  const onKey = (event: KeyboardEvent, slide: Slide): void => {
    if (event.key !== "Enter" || event.ctrlKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    putAtPlace(new Set(selected.has(slide.id) ? [...selected] : [slide.id]));
  };
  return (
    <div
      ref={(element) => {
        scroller.current = element;
        setNodeRef(element);
      }}
      className="overflow-x-auto px-3 pb-2"
      onPointerDown={(event) => {
        if ((event.target as HTMLElement).closest("[data-slide]")) listeners?.["onPointerDown"]?.(event);
      }}
    >
      <div className="relative h-[54px]" style={{ width: slides.length * WIDTH }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const slide = slides[index];
          if (!slide) return null;
          return <TrayPicture key={slide.id} slide={slide} noRoom={noRoom} start={start} onKey={onKey} />;
        })}
      </div>
    </div>
  );
}

interface TrayPictureProps {
  slide: Slide;
  noRoom: ReadonlySet<string | undefined>;
  start: number;
  onKey: (event: KeyboardEvent<Element>, slide: Slide) => void;
}

/** A picture that is not in the film. */
function TrayPicture({ slide, noRoom, start, onKey }: TrayPictureProps): ReactNode {
  const selected = useAppSelector((state) => state.selection.ids);
  const dispatch = useAppDispatch();
  return (
    <button
      type="button"
      data-slide={slide.id}
      data-testid="tray-picture"
      aria-pressed={selected.has(slide.id)}
      aria-label={`${slideName(slide)}, ${noRoom.has(slide.id) ? "no room" : "left out"}. Enter puts it behind the selected picture.`}
      title={slideName(slide)}
      className={`absolute inset-y-0 overflow-hidden rounded-[5px] bg-slide ${selected.has(slide.id) ? "outline-2 outline-ink" : ""} ${noRoom.has(slide.id) ? "" : "opacity-60"}`}
      style={{ left: start, width: WIDTH - 6 }}
      onClick={(event) => {
        const shown = { slideId: slide.id, round: 0 };
        const many = event.ctrlKey || event.metaKey;
        dispatch(many ? selectionActions.toggled(shown) : selectionActions.picked(shown));
      }}
      onKeyDown={(event) => onKey(event, slide)}
    >
      <SlideImage slide={slide} className="size-full object-cover" />
    </button>
  );
}

/**
 * Behind the picture that was selected last in the film; else where each has its place in the
 * show's order.
 */
function putAtPlace(ids: ReadonlySet<string>): void {
  edit((show) => {
    const slot = currentSlot(store.getState().view.plan, store.getState().selection);
    const at = slot && !ids.has(slot.slideId) ? slot.slideIndex : show.slides.findIndex(({ id }) => ids.has(id));
    const { passageId } = itemAt(show.slides, at);
    const behind = show.slides[at + 1];
    return putIntoFilm(show, ids, { passageId, beforeId: behind?.passageId === passageId ? behind.id : null });
  });
}
