import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { rectSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { moveSlide, removeSlides, type Slide } from "@humming-tide/core/show";
import { X } from "lucide-react";
import { memo, type ReactNode, useCallback } from "react";
import { mediaUrl } from "../../api.ts";
import { showActions } from "../../store/show-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";

/** All pictures in the film's order. Dragged with the pointer, or lifted with Space and moved with the arrows. */
export function ContactSheet(): ReactNode {
  const dispatch = useAppDispatch();
  const slides = useAppSelector((state) => state.show.document!.slides);
  const leftOut = useAppSelector((state) => state.view.plan?.leftOut);
  const sensors = useSensors(
    // A click selects; only a pull of a few pixels is a drag.
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const end = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const toIndex = slides.findIndex((slide) => slide.id === over.id);
    dispatch(showActions.edited(moveSlide(store.getState().show.document!, String(active.id), toIndex)));
  };
  const remove = useCallback(
    (id: string) => {
      dispatch(showActions.edited(removeSlides(store.getState().show.document!, new Set([id]))));
    },
    [dispatch],
  );
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={end}>
      <SortableContext items={slides.map((slide) => slide.id)} strategy={rectSortingStrategy}>
        <ol className="grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-3">
          {slides.map((slide, index) => (
            <Picture
              key={slide.id}
              slide={slide}
              index={index}
              leftOut={leftOut?.includes(index) ?? false}
              onRemove={remove}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

interface PictureProps {
  slide: Slide;
  index: number;
  leftOut: boolean;
  onRemove: (id: string) => void;
}

const Picture = memo(function Picture({ slide, index, leftOut, onRemove }: PictureProps): ReactNode {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: slide.id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`group relative ${isDragging ? "z-10 opacity-80" : ""}`}
      data-testid="picture"
      data-file={slide.fileName}
    >
      <div
        {...attributes}
        {...listeners}
        data-sortable
        aria-label={`${index + 1}: ${slide.fileName}${leftOut ? ", not in the film" : ""}`}
        onKeyDown={(event) => {
          if (event.key === "Delete") onRemove(slide.id);
          else listeners?.["onKeyDown"]?.(event);
        }}
        className="cursor-grab overflow-hidden rounded-md bg-slide"
      >
        <img
          src={mediaUrl(slide.sha256, "thumbnail")}
          alt=""
          draggable={false}
          loading="lazy"
          className={`aspect-[4/3] w-full object-contain ${leftOut ? "opacity-40" : ""}`}
        />
      </div>
      <div className="mt-1 flex items-baseline gap-1.5 text-xs text-quiet">
        <span className="text-soft">{index + 1}</span>
        <span className="truncate" title={slide.fileName}>
          {leftOut ? "not in the film" : slide.fileName}
        </span>
      </div>
      <button
        type="button"
        aria-label={`Take ${slide.fileName} out of the show`}
        onClick={() => onRemove(slide.id)}
        className="absolute top-1 right-1 rounded bg-ground/80 p-1 text-ink opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
      >
        <X size={14} />
      </button>
    </li>
  );
});
