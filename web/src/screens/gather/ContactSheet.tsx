import {
  DndContext,
  type DragMoveEvent,
  DragOverlay,
  type DragStartEvent,
  PointerSensor,
  useDraggable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { moveSlides, type SlidePlace } from "@humming-tide/core/show";
import { useVirtualizer } from "@tanstack/react-virtual";
import {
  type HTMLAttributes,
  type MouseEvent,
  type ReactNode,
  type PointerEvent as ReactPointerEvent,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { edit } from "../../store/edit.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { atPointer } from "../../ui/at-pointer.ts";
import { DraggedPictures } from "../../ui/DraggedPictures.tsx";
import { scrolledSince } from "../../ui/drag-scroll.ts";
import { gatherActions, selectGather } from "./gather-slice.ts";
import { PassageHeading } from "./PassageHeading.tsx";
import { PictureCell } from "./PictureCell.tsx";
import { type Box, dropPlace, rangeOf, type SheetLayout, slidesIn } from "./sheet-layout.ts";
import { seenFacts, slideSeconds, timeText } from "./slide-facts.ts";
import { useRubberBand } from "./use-rubber-band.ts";
import { useSheetKeys } from "./use-sheet-keys.ts";

interface ContactSheetProps {
  layout: SheetLayout;
  /** The element that scrolls. */
  scroller: RefObject<HTMLDivElement | null>;
}

/**
 * All shown pictures in the film's order. Only rows in sight exist. One stop for the keyboard: arrows move the focus, letters rate,
 * Alt and arrows move what is selected; with the pointer by click, range, rubber band and drag.
 */
export function ContactSheet({ layout, scroller }: ContactSheetProps): ReactNode {
  const dispatch = useAppDispatch();
  const sheet = useRef<HTMLDivElement>(null);
  const show = useAppSelector((state) => state.show.document)!;
  const media = useAppSelector((state) => state.show.media);
  const { ids: selected, current } = useAppSelector((state) => state.selection);
  const focusId = current?.slideId ?? null;
  const moments = useAppSelector((state) => selectGather(state).moments);
  const proxies = useAppSelector((state) => state.view.proxies);
  const leftOut = useAppSelector((state) => state.view.plan?.leftOut);
  const numbers = useMemo(() => new Map(show.slides.map(({ id }, index) => [id, index])), [show.slides]);
  const noRoom = useMemo(() => new Set(leftOut), [leftOut]);
  const alike = useMemo(() => new Map(moments.flatMap((group) => group.map((id) => [id, group.length]))), [moments]);
  const virtual = useVirtualizer({
    count: layout.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => layout.rows[index]!.height,
    getItemKey: (index) => {
      const row = layout.rows[index]!;
      return row.kind === "slides" ? `row ${row.slides[0]!.id}` : `${row.kind} ${row.passage.id}`;
    },
    overscan: 3,
    // Rows may come a moment after the scrolling; scrolling itself never waits for them.
    useFlushSync: false,
  });
  useEffect(() => virtual.measure(), [layout, virtual]);

  const reveal = useCallback(
    (id: string) => {
      const place = layout.placeOf.get(id);
      if (place !== undefined) virtual.scrollToIndex(layout.rowOf[place]!, { align: "auto" });
    },
    [layout, virtual],
  );
  const open = useCallback(
    (id: string) => {
      const ids = layout.shown.map((slide) => slide.id);
      dispatch(gatherActions.lookedAt({ ids, at: Math.max(0, ids.indexOf(id)), compare: false }));
    },
    [dispatch, layout],
  );
  const onKeyDown = useSheetKeys(layout, reveal, open);
  const onPick = useCallback(
    (id: string, event: MouseEvent) => {
      if (event.ctrlKey || event.metaKey) {
        dispatch(selectionActions.toggled({ slideId: id, round: 0 }));
        return;
      }
      const anchor = layout.placeOf.get(store.getState().selection.anchorId ?? "");
      const place = layout.placeOf.get(id);
      if (event.shiftKey && anchor !== undefined && place !== undefined) {
        dispatch(
          selectionActions.selected({ ids: rangeOf(layout, anchor, place), current: { slideId: id, round: 0 } }),
        );
      } else {
        dispatch(selectionActions.picked({ slideId: id, round: 0 }));
      }
    },
    [dispatch, layout],
  );
  const selectIn = useCallback(
    (box: Box, kept: readonly string[]) =>
      dispatch(selectionActions.selected({ ids: [...new Set([...kept, ...slidesIn(layout, box)])] })),
    [dispatch, layout],
  );
  const band = useRubberBand(sheet, selectIn);
  const drag = useSheetDrag(sheet, layout);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 7 } }));

  return (
    <DndContext
      sensors={sensors}
      onDragStart={drag.start}
      onDragMove={drag.move}
      onDragEnd={drag.end}
      onDragCancel={drag.cancel}
    >
      <DraggableSurface
        surface={sheet}
        role="listbox"
        aria-multiselectable
        aria-label="Pictures in the order of the film"
        aria-activedescendant={focusId ? `slide-${focusId}` : undefined}
        tabIndex={0}
        data-testid="sheet"
        data-sortable
        onKeyDown={onKeyDown}
        onSurface={band.start}
        className="group relative outline-none"
        style={{ height: layout.height + 90 }}
      >
        {virtual.getVirtualItems().map((item) => {
          const row = layout.rows[item.index];
          if (!row) return null;
          return (
            <div
              key={item.key}
              className="absolute inset-x-0 flex gap-3"
              style={{ transform: `translateY(${row.y}px)`, height: row.height }}
              role="presentation"
            >
              {row.kind === "passage" && <PassageHeading passage={row.passage} count={row.count} />}
              {row.kind === "empty" && (
                <p className="mt-1 mb-4 flex-1 rounded-md border border-dashed border-line px-4 py-3 text-[13px] text-quiet">
                  No pictures here yet. Drag some here, or drop files from a folder.
                </p>
              )}
              {row.kind === "slides" &&
                row.slides.map((slide) => {
                  const index = numbers.get(slide.id)!;
                  const facts = seenFacts(media, slide);
                  return (
                    <PictureCell
                      key={slide.id}
                      slide={slide}
                      number={index + 1}
                      facts={facts}
                      time={timeText(slideSeconds(media, show, slide))}
                      selected={selected.has(slide.id)}
                      focused={focusId === slide.id}
                      noRoom={noRoom.has(index)}
                      alike={alike.get(slide.id) ?? 0}
                      proxyText={facts?.kind === "clip" ? proxyText(proxies[facts.sha256]) : null}
                      width={layout.cellWidth}
                      imageHeight={layout.imageHeight}
                      onPick={onPick}
                      onOpen={open}
                    />
                  );
                })}
            </div>
          );
        })}
        {band.box && (
          <div
            className="pointer-events-none absolute rounded-sm border border-ink bg-ink/10"
            style={{ left: band.box.x, top: band.box.y, width: band.box.width, height: band.box.height }}
          />
        )}
        {drag.mark && (
          <div
            data-testid="drop-mark"
            className="pointer-events-none absolute rounded-full bg-ink"
            style={{ left: drag.mark.x, top: drag.mark.y, width: drag.mark.width, height: drag.mark.height }}
          />
        )}
      </DraggableSurface>
      <DragOverlay dropAnimation={null} modifiers={[atPointer]}>
        {drag.ids.length > 0 && <DraggedPictures ids={drag.ids} />}
      </DragOverlay>
    </DndContext>
  );
}

interface DraggableSurfaceProps extends HTMLAttributes<HTMLDivElement> {
  surface: RefObject<HTMLDivElement | null>;
  /** A press that is on no picture. */
  onSurface: (event: ReactPointerEvent) => void;
}

/** One draggable for the whole sheet instead of one a picture: which picture it is, the press itself tells. */
function DraggableSurface({ surface, onSurface, ...rest }: DraggableSurfaceProps): ReactNode {
  const { setNodeRef, listeners } = useDraggable({ id: "sheet" });
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: its role comes with the other properties
    <div
      ref={(element) => {
        surface.current = element;
        setNodeRef(element);
      }}
      onPointerDown={(event) => {
        if ((event.target as HTMLElement).closest("[role=option]")) listeners?.["onPointerDown"]?.(event);
        else onSurface(event);
      }}
      {...rest}
    />
  );
}

const pictureAt = (event: Event): string | undefined =>
  (event.target as HTMLElement).closest<HTMLElement>("[role=option]")?.dataset["id"];

function proxyText(proxy: { state: string; progress: number } | undefined): string | null {
  if (!proxy || proxy.state === "done") return null;
  if (proxy.state === "failed") return "cannot be played";
  return proxy.state === "running" ? `preparing ${Math.round(proxy.progress * 100)} %` : "waiting to be prepared";
}

/** Dragging what is selected (or the one picture grabbed) to a place between others. */
function useSheetDrag(sheet: RefObject<HTMLDivElement | null>, layout: SheetLayout) {
  const dispatch = useAppDispatch();
  const [ids, setIds] = useState<readonly string[]>([]);
  const [mark, setMark] = useState<Box | null>(null);
  const target = useRef<SlidePlace | null>(null);
  const cancel = (): void => {
    setIds([]);
    setMark(null);
    target.current = null;
  };
  return {
    ids,
    mark,
    cancel,
    start: ({ activatorEvent }: DragStartEvent): void => {
      const id = pictureAt(activatorEvent);
      if (!id) return;
      const { ids: selected } = store.getState().selection;
      if (!selected.has(id)) dispatch(selectionActions.picked({ slideId: id, round: 0 }));
      setIds(selected.has(id) ? [id, ...[...selected].filter((other) => other !== id)] : [id]);
    },
    move: ({ activatorEvent, delta }: DragMoveEvent): void => {
      const box = sheet.current?.getBoundingClientRect();
      const start = activatorEvent as PointerEvent;
      if (!box) return;
      // The sheet's box has moved by as much as was scrolled.
      const scrolled = scrolledSince(start, sheet.current?.parentElement ?? null);
      const found = dropPlace(layout, start.clientX + delta.x - box.left, start.clientY + delta.y - scrolled - box.top);
      target.current = found?.place ?? null;
      setMark(found?.mark ?? null);
    },
    end: (): void => {
      const place = target.current;
      const moved = new Set(ids);
      cancel();
      if (place && moved.size > 0) edit((show) => moveSlides(show, moved, place));
    },
  };
}
