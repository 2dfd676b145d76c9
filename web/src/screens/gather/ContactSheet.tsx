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
import { itemAt } from "@humming-tide/core/presence";
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
  useRef,
  useState,
} from "react";
import { edit } from "../../store/edit.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { atPointer } from "../../ui/at-pointer.ts";
import { DraggedPictures } from "../../ui/DraggedPictures.tsx";
import { scrolledSince } from "../../ui/drag-scroll.ts";
import { gatherActions } from "./gather-slice.ts";
import { SheetRowContent, useSheetMarks } from "./SheetRowContent.tsx";
import { type Box, dropPlace, rangeOf, type SheetLayout, slidesIn } from "./sheet-layout.ts";
import { useRubberBand } from "./use-rubber-band.ts";
import { useSheetKeys } from "./use-sheet-keys.ts";

interface ContactSheetProps {
  layout: SheetLayout;
  /** The element that scrolls. */
  scroller: RefObject<HTMLDivElement | null>;
}

/**
 * A list of pictures has nothing else in it: headings lie over the sheet, and let the pointer
 * through beside their controls.
 */
const OVER_THE_SHEET =
  "pointer-events-none absolute inset-0 [&_button]:pointer-events-auto [&_input]:pointer-events-auto [&_select]:pointer-events-auto";

/**
 * All shown pictures in the film's order. Only rows in sight exist. One stop for the keyboard:
 * arrows move the focus, letters rate, Alt and arrows move what is selected; with the pointer by
 * click, range, rubber band and drag.
 */
export function ContactSheet({ layout, scroller }: ContactSheetProps): ReactNode {
  const dispatch = useAppDispatch();
  const sheet = useRef<HTMLDivElement>(null);
  const marks = useSheetMarks();
  const focusId = useAppSelector((state) => state.selection.current?.slideId ?? null);
  const { virtual, reveal } = useRowsInSight(layout, scroller);
  const open = useCallback(
    (id: string) => {
      const ids = layout.shown.map((slide) => slide.id);
      dispatch(gatherActions.largeViewSet({ ids, at: Math.max(0, ids.indexOf(id)), compare: false }));
    },
    [dispatch, layout],
  );
  const onKeyDown = useSheetKeys(layout, reveal, open);
  const onPick = useSheetPick(layout);
  const selectIn = useCallback(
    (box: Box, kept: readonly string[]) =>
      dispatch(selectionActions.selected({ ids: [...new Set([...kept, ...slidesIn(layout, box)])] })),
    [dispatch, layout],
  );
  const band = useRubberBand(sheet, selectIn);
  const drag = useSheetDrag(sheet, layout);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 7 } }));

  const rows = virtual.getVirtualItems().flatMap(({ key, index }) => {
    const row = layout.rows[index];
    return row ? [{ key, row }] : [];
  });
  const rowOf = ({ key, row }: (typeof rows)[number]): ReactNode => (
    <div
      key={key}
      className="absolute inset-x-0 flex gap-3"
      style={{ transform: `translateY(${row.y}px)`, height: row.height }}
      role="presentation"
    >
      <SheetRowContent row={row} layout={layout} marks={marks} onPick={onPick} onOpen={open} />
    </div>
  );

  return (
    <DndContext
      sensors={sensors}
      onDragStart={drag.start}
      onDragMove={drag.move}
      onDragEnd={drag.end}
      onDragCancel={drag.cancel}
    >
      <div className="relative" style={{ height: layout.height + 90 }}>
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
          className="group absolute inset-0 outline-none"
        >
          {rows.filter(({ row }) => row.kind === "slides").map(rowOf)}
          <SheetOverlays band={band.box} drag={drag} />
        </DraggableSurface>
        <div className={OVER_THE_SHEET}>{rows.filter(({ row }) => row.kind !== "slides").map(rowOf)}</div>
      </div>
      <DragOverlay dropAnimation={null} modifiers={[atPointer]}>
        {drag.ids.length > 0 && <DraggedPictures ids={drag.ids} />}
      </DragOverlay>
    </DndContext>
  );
}

interface SheetOverlaysProps {
  band: Box | null;
  drag: ReturnType<typeof useSheetDrag>;
}

/** The rubber band, and where dragged pictures would go. */
function SheetOverlays({ band, drag }: SheetOverlaysProps): ReactNode {
  return (
    <>
      {band && (
        <div
          className="pointer-events-none absolute rounded-sm border border-ink bg-ink/10"
          style={{ left: band.x, top: band.y, width: band.width, height: band.height }}
        />
      )}
      {drag.mark && (
        <div
          data-testid="drop-mark"
          className="pointer-events-none absolute rounded-full bg-ink"
          style={{ left: drag.mark.x, top: drag.mark.y, width: drag.mark.width, height: drag.mark.height }}
        />
      )}
    </>
  );
}

/** The rows that are in sight, and a way to bring a picture there. */
function useRowsInSight(layout: SheetLayout, scroller: RefObject<HTMLDivElement | null>) {
  const virtual = useVirtualizer({
    count: layout.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => itemAt(layout.rows, index).height,
    getItemKey: (index) => {
      const row = itemAt(layout.rows, index);
      return row.kind === "slides" ? `row ${itemAt(row.slides, 0).id}` : `${row.kind} ${row.passage.id}`;
    },
    overscan: 3,
    // Rows may come a moment after the scrolling; scrolling itself never waits for them.
    useFlushSync: false,
  });
  useEffect(() => virtual.measure(), [layout, virtual]);
  const reveal = useCallback(
    (id: string) => {
      const place = layout.placeOf.get(id);
      if (place !== undefined) virtual.scrollToIndex(itemAt(layout.rowOf, place), { align: "auto" });
    },
    [layout, virtual],
  );
  // What was selected on another screen is in sight here.
  const isEntered = useRef(false);
  useEffect(() => {
    if (isEntered.current) return;
    isEntered.current = true;
    const { current } = store.getState().selection;
    if (current) reveal(current.slideId);
  }, [reveal]);
  return { virtual, reveal };
}

/** A press on a picture: alone, added with Control, or all up to it with Shift. */
function useSheetPick(layout: SheetLayout): (id: string, event: MouseEvent) => void {
  const dispatch = useAppDispatch();
  return useCallback(
    (id, event) => {
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
}

interface DraggableSurfaceProps extends HTMLAttributes<HTMLDivElement> {
  surface: RefObject<HTMLDivElement | null>;
  /** A press that is on no picture. */
  onSurface: (event: ReactPointerEvent) => void;
}

/**
 * One draggable for the whole sheet instead of one a picture: which picture it is, the press itself
 * tells.
 */
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
  (event.target as HTMLElement).closest<HTMLElement>("[role=option]")?.dataset["slide"];

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
