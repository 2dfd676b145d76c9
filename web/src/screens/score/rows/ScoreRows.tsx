import { DndContext, DragOverlay, PointerSensor, useDraggable, useSensor, useSensors } from "@dnd-kit/core";
import { type ArrangedMusic, sectionNames } from "@humming-tide/core/arrange";
import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { useVirtualizer } from "@tanstack/react-virtual";
import {
  type ReactNode,
  type RefObject,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { useNavigate } from "react-router";
import { DropHint } from "../../../replace/DropHint.tsx";
import { useFileDrop } from "../../../replace/use-file-drop.ts";
import { currentSlot } from "../../../store/selection-slice.ts";
import { store, useAppSelector } from "../../../store/store.ts";
import { atPointer } from "../../../ui/at-pointer.ts";
import { DraggedPictures } from "../../../ui/DraggedPictures.tsx";
import { useThemed } from "../../../ui/use-theme-change.ts";
import { MARGIN_WIDTH, PASSAGE_LANE, ROWS_TOP, type RowSize } from "../layout/row-size.ts";
import { placeAt, type ScoreLayout } from "../layout/score-layout.ts";
import { NO_SOUND, soundOfRows } from "../sound/row-sound.ts";
import { useScoreKeys } from "../use-score-keys.ts";
import { landingStyles } from "./landing-shapes.ts";
import { Playhead } from "./Playhead.tsx";
import { contentOfRows } from "./row-pieces.ts";
import { lanesOf, type RowPlaces, rowPlaces } from "./row-places.ts";
import { ScoreRowView } from "./ScoreRowView.tsx";
import { scorePointer } from "./score-pointer.ts";
import { Tray } from "./Tray.tsx";
import { useEdgeDrags } from "./use-edge-drag.ts";
import { useSlideDrag } from "./use-slide-drag.ts";

interface ScoreRowsProps {
  plan: FilmPlan;
  music: ArrangedMusic;
  layout: ScoreLayout;
  size: RowSize;
  /** Watches how much room there is for the rows; returns what ends that. */
  measure: (scroller: HTMLElement | null) => (() => void) | undefined;
}

/**
 * All rows of the film, of which only those in sight exist, and the tray under them, from which
 * pictures can be dragged in.
 */
export function ScoreRows(newest: ScoreRowsProps): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useRef<HTMLDivElement>(null);
  const { size, measure } = newest;
  const holdScroller = useCallback(
    (element: HTMLDivElement | null) => {
      scroller.current = element;
      return measure(element);
    },
    [measure],
  );
  const { plan, music, layout, show, moves } = useDrawnTogether(newest);
  const { content, sounds } = useRowContents({ plan, layout, show, moves, hasSound: size.level > 0 });
  const sections = useMemo(() => sectionsOfRows(music, layout), [music, layout]);
  const places = usePlaces(size, sounds.map(lanesOf).join());
  const pointer = useMemo(() => scorePointer(rows, layout, places), [layout, places]);
  const drags = useEdgeDrags(pointer, layout);
  const slideDrag = useSlideDrag(pointer);
  const { virtual, reveal } = useRowsInSight(scroller, layout, places);
  const navigate = useNavigate();
  const open = useCallback(() => void navigate("../dress"), [navigate]);
  useScoreKeys({ layout, scroller, reveal, open });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 7 } }));
  const mark = slideDrag.markSeconds === null ? null : placeAt(layout, slideDrag.markSeconds);
  const styles = useThemed(landingStyles);
  return (
    <DndContext
      sensors={sensors}
      autoScroll={AUTO_SCROLL}
      onDragStart={slideDrag.start}
      onDragMove={slideDrag.move}
      onDragEnd={slideDrag.end}
      onDragCancel={slideDrag.cancel}
    >
      <FileDropArea>
        <div
          ref={holdScroller}
          className="relative min-h-0 flex-1 overflow-y-auto pr-4 pl-1"
          data-testid="score"
          data-slots={plan.slots.length}
          data-rows={layout.rows.length}
        >
          <style>{styles}</style>
          <DraggableRows rows={rows} height={lastOf(places.tops)}>
            {virtual.getVirtualItems().map((item) => {
              const row = layout.rows[item.index];
              const shown = content[item.index];
              if (!row || !shown || !places.sizes[item.index]) return null;
              return (
                <div key={item.key} className="absolute inset-x-0" style={{ top: places.tops[item.index] }}>
                  <ScoreRowView
                    row={row}
                    layout={layout}
                    content={shown}
                    sound={itemAt(sounds, item.index)}
                    size={itemAt(places.sizes, item.index)}
                    music={music}
                    section={itemAt(sections, item.index)}
                    rate={plan.rate}
                    fadeStartSeconds={plan.sound.fadeOut.startSeconds}
                    filmSeconds={plan.sound.lengthSeconds}
                    drags={drags}
                    onOpen={open}
                  />
                </div>
              );
            })}
            <Playhead layout={layout} places={places} rows={rows} reveal={reveal} />
            {mark && (
              <DropMark
                top={(places.tops[mark.row] ?? 0) + PASSAGE_LANE - 3}
                height={size.pictures + 6}
                share={mark.share}
              />
            )}
          </DraggableRows>
        </div>
      </FileDropArea>
      <Tray plan={plan} />
      <DragOverlay dropAnimation={null} modifiers={[atPointer]}>
        {slideDrag.ids.length > 0 && <DraggedPictures ids={slideDrag.ids} />}
      </DragOverlay>
    </DndContext>
  );
}

interface RowContentsWish extends ReturnType<typeof useDrawnTogether> {
  readonly hasSound: boolean;
}

/** What each row shows: its pictures, and its lanes of sound where they are open. */
function useRowContents({ plan, layout, show, moves, hasSound }: Omit<RowContentsWish, "music">) {
  const content = useMemo(() => contentOfRows(plan, layout, show, moves), [plan, layout, show, moves]);
  const sounds = useMemo(
    () => (hasSound ? soundOfRows(plan, layout, show) : layout.rows.map(() => NO_SOUND)),
    [hasSound, plan, layout, show],
  );
  return { content, sounds };
}

/** The rows that are in sight, and a way to bring one there. */
function useRowsInSight(scroller: RefObject<HTMLDivElement | null>, layout: ScoreLayout, places: RowPlaces) {
  const virtual = useVirtualizer({
    count: layout.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (row) => (places.tops[row + 1] ?? 0) - (places.tops[row] ?? 0),
    overscan: 2,
    paddingStart: ROWS_TOP,
    // Rows may come a moment after the scrolling; scrolling itself never waits for them.
    useFlushSync: false,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows of another height are measured again
  useEffect(() => virtual.measure(), [places, layout, virtual]);
  const reveal = useCallback((row: number) => virtual.scrollToIndex(row, { align: "auto" }), [virtual]);
  // What was selected on another screen is in sight here.
  const isEntered = useRef(false);
  useEffect(() => {
    if (isEntered.current) return;
    isEntered.current = true;
    const { selection, view } = store.getState();
    const slot = view.plan && currentSlot(view.plan, selection);
    if (slot) reveal(placeAt(layout, slot.landing?.seconds ?? 0).row);
  }, [layout, reveal]);
  return { virtual, reveal };
}

/** Rows over which files of the machine can be dropped: on a picture they take its place. */
function FileDropArea({ children }: { children: ReactNode }): ReactNode {
  const drop = useFileDrop({ middle: 1 });
  return (
    <div className="relative flex min-h-0 flex-1 flex-col" {...drop.handlers}>
      {children}
      <DropHint over={drop.over} beside="Drop a file on a picture to replace it" />
    </div>
  );
}

/**
 * All that rows are made of changes together, and may take a few slices of time: the pointer comes
 * first.
 */
function useDrawnTogether({ plan, music, layout }: ScoreRowsProps) {
  const show = present(useAppSelector((state) => state.show.draft ?? state.show.document));
  const moves = useAppSelector((state) => state.view.moved);
  return useDeferredValue(useMemo(() => ({ plan, music, layout, show, moves }), [plan, music, layout, show, moves]));
}

/**
 * Where rows are, by how many lanes of sound each has. While something is dragged they keep their
 * heights, so that nothing moves away under the pointer.
 */
function usePlaces(size: RowSize, lanes: string): RowPlaces {
  const isHeld = useAppSelector((state) => state.show.draft !== null);
  const [heldLanes, setHeldLanes] = useState(lanes);
  if (!isHeld && heldLanes !== lanes) setHeldLanes(lanes);
  return useMemo(() => rowPlaces(size, heldLanes.split(",").map(Number)), [size, heldLanes]);
}

/** Where what is dragged would go. */
function DropMark({ top, height, share }: { top: number; height: number; share: number }): ReactNode {
  return (
    <div
      data-testid="drop-mark"
      className="pointer-events-none absolute z-[5] w-[4px] -translate-x-1/2 rounded-full bg-ink"
      style={{ top, height, left: `calc(${MARGIN_WIDTH}px + (100% - ${MARGIN_WIDTH}px) * ${share})` }}
    />
  );
}

/** Only near its upper and lower edge: a share of its height. */
const AUTO_SCROLL = { threshold: { x: 0, y: 0.06 } };

interface DraggableRowsProps {
  rows: RefObject<HTMLDivElement | null>;
  height: number;
  children: ReactNode;
}

/** One draggable for all pictures: which one it is, the press itself tells. */
function DraggableRows({ rows, height, children }: DraggableRowsProps): ReactNode {
  const { setNodeRef, listeners } = useDraggable({ id: "score" });
  return (
    <div
      ref={(element) => {
        rows.current = element;
        setNodeRef(element);
      }}
      className="relative"
      style={{ height, marginTop: ROWS_TOP }}
      onPointerDown={(event) => {
        if ((event.target as HTMLElement).closest("[data-slide]")) listeners?.["onPointerDown"]?.(event);
      }}
    >
      {children}
    </div>
  );
}

/** The name of the section that plays at the beginning of each row. */
function sectionsOfRows(music: ArrangedMusic, layout: ScoreLayout): string[] {
  const names = sectionNames(music.sections);
  return layout.rows.map(
    ({ startSeconds }) =>
      names[music.sections.findLastIndex((section) => section.startSeconds <= startSeconds + 0.05)] ?? "",
  );
}
