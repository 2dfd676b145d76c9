import type { DragMoveEvent, DragStartEvent } from "@dnd-kit/core";
import { changeSlides, moveSlides } from "@humming-tide/core/show";
import { useRef, useState } from "react";
import { edit } from "../../../store/edit.ts";
import { selectionActions } from "../../../store/selection-slice.ts";
import { store, useAppDispatch } from "../../../store/store.ts";
import { scrolledSince } from "../../../ui/drag-scroll.ts";
import { type ScoreDropPlace, scoreDropPlace } from "./drop-place.ts";
import type { ScorePointer } from "./score-pointer.ts";

/**
 * Dragging what is selected (or the one picture grabbed) to another place in the film, or into it
 * from the tray.
 */
export function useSlideDrag(pointer: ScorePointer) {
  const dispatch = useAppDispatch();
  const [ids, setIds] = useState<readonly string[]>([]);
  const [markSeconds, setMark] = useState<number | null>(null);
  const target = useRef<ScoreDropPlace | null>(null);
  const cancel = (): void => {
    setIds([]);
    setMark(null);
    target.current = null;
  };
  return {
    ids,
    markSeconds,
    cancel,
    start: ({ activatorEvent }: DragStartEvent): void => {
      const pressed = (activatorEvent.target as HTMLElement).closest<HTMLElement>("[data-slide]");
      const id = pressed?.dataset["slide"];
      if (!id) return;
      const { ids: selected } = store.getState().selection;
      if (!selected.has(id)) dispatch(selectionActions.picked({ slideId: id, round: 0 }));
      setIds(selected.has(id) ? [id, ...[...selected].filter((other) => other !== id)] : [id]);
    },
    move: ({ activatorEvent, delta }: DragMoveEvent): void => {
      const { plan } = store.getState().view;
      const { document: show } = store.getState().show;
      const start = activatorEvent as PointerEvent;
      if (!plan || !show) return;
      const scrolled = scrolledSince(start, document.querySelector("[data-testid=score]"));
      const at = pointer.timeUnder(start.clientX + delta.x, start.clientY + delta.y - scrolled);
      target.current = at === null ? null : scoreDropPlace(plan, show, at);
      setMark(target.current?.markSeconds ?? null);
    },
    end: (): void => {
      const place = target.current?.place;
      const moved = new Set(ids);
      cancel();
      if (place && moved.size > 0) edit((show) => putIntoFilm(show, moved, place));
    },
  };
}

/**
 * Moves slides; those that were left out, by a person or for want of room, are in the film from now
 * on.
 */
export function putIntoFilm(
  show: Parameters<typeof moveSlides>[0],
  ids: ReadonlySet<string>,
  place: Parameters<typeof moveSlides>[2],
): ReturnType<typeof moveSlides> {
  const noRoom = new Set(store.getState().view.plan?.leftOut.map((index) => show.slides[index]?.id));
  const wasOut = new Set(show.slides.filter(({ id, rating }) => ids.has(id) && rating === "out").map(({ id }) => id));
  const hadNoRoom = new Set([...ids].filter((id) => noRoom.has(id)));
  const back = changeSlides(changeSlides(show, wasOut, { rating: "keep" }), hadNoRoom, { stays: true });
  return moveSlides(back, ids, place);
}
