import type { ShowPlace, ShowSummary } from "@humming-tide/contract";
import { counted } from "@humming-tide/core/language";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, type RefObject, useDeferredValue, useLayoutEffect, useRef, useState } from "react";
import { CARD_TEXT_PIXELS, ShowCard } from "./ShowCard.tsx";
import { UnreadableCard } from "./UnreadableCard.tsx";

const COLUMNS = 3;
const GAP_PIXELS = 24;
const FIRST_WIDTH_PIXELS = 1096;

interface ShowGridProps {
  shows: readonly ShowSummary[];
  scroller: RefObject<HTMLElement | null>;
  onPut: (show: ShowSummary, place: ShowPlace) => void;
  onChanged: () => void;
}

/**
 * The cards of the shelf, three in a row. Only rows that are near the visible part are in the page,
 * however many shows there are.
 */
export function ShowGrid({ shows, scroller, onPut, onChanged }: ShowGridProps): ReactNode {
  const list = useRef<HTMLUListElement>(null);
  const [place, setPlace] = useState({ width: FIRST_WIDTH_PIXELS, top: 0 });
  useLayoutEffect(() => {
    const { current } = list;
    if (!current) return;
    const measure = (): void => {
      const next = { width: current.clientWidth, top: current.offsetTop };
      setPlace((now) => (now.width === next.width && now.top === next.top ? now : next));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(current);
    // What stands above the list moves it: a notice comes and goes.
    if (current.parentElement) observer.observe(current.parentElement);
    return () => observer.disconnect();
  }, []);
  const cardWidth = (place.width - GAP_PIXELS * (COLUMNS - 1)) / COLUMNS;
  const cardHeight = Math.round((cardWidth * 9) / 16) + CARD_TEXT_PIXELS;
  const rowCount = Math.ceil(shows.length / COLUMNS);
  const virtual = useVirtualizer({
    count: rowCount,
    getScrollElement: () => scroller.current,
    estimateSize: () => cardHeight + GAP_PIXELS,
    scrollMargin: place.top,
    overscan: 2,
    useFlushSync: false,
  });
  useLayoutEffect(() => virtual.measure(), [cardHeight, virtual]);
  // Cards that come into sight are made in slices between which the page scrolls on.
  const items = useDeferredValue(virtual.getVirtualItems());
  return (
    <ul
      ref={list}
      className="relative"
      style={{ height: virtual.getTotalSize() }}
      aria-label={counted(shows.length, "show")}
    >
      {items.flatMap(({ index, start }) =>
        shows
          .slice(index * COLUMNS, (index + 1) * COLUMNS)
          .map((show, column) => (
            <GridCell
              key={show.id}
              show={show}
              shows={shows}
              index={index}
              column={column}
              start={start}
              place={place}
              cardWidth={cardWidth}
              cardHeight={cardHeight}
              onPut={onPut}
              onChanged={onChanged}
            />
          )),
      )}
    </ul>
  );
}

interface GridCellProps {
  show: ShowSummary;
  shows: readonly ShowSummary[];
  index: number;
  column: number;
  start: number;
  place: { width: number; top: number };
  cardWidth: number;
  cardHeight: number;
  onPut: (show: ShowSummary, place: ShowPlace) => void;
  onChanged: () => void;
}

/** One card at its place in the grid. */
function GridCell({
  show,
  shows,
  index,
  column,
  start,
  place,
  cardWidth,
  cardHeight,
  onPut,
  onChanged,
}: GridCellProps): ReactNode {
  return (
    <li
      aria-setsize={shows.length}
      aria-posinset={index * COLUMNS + column + 1}
      className="absolute"
      style={{
        top: start - place.top,
        left: column * (cardWidth + GAP_PIXELS),
        width: cardWidth,
        height: cardHeight,
      }}
    >
      {show.problem === null ? (
        <ShowCard show={show} onPut={onPut} onChanged={onChanged} />
      ) : (
        <UnreadableCard show={show} onPut={onPut} onChanged={onChanged} />
      )}
    </li>
  );
}
