import { valueFor } from "@humming-tide/core/presence";
import { type MouseEvent, type ReactNode, useMemo } from "react";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { selectGather } from "./gather-slice.ts";
import { PassageHeading } from "./PassageHeading.tsx";
import { PictureCell } from "./PictureCell.tsx";
import type { SheetLayout } from "./sheet-layout.ts";
import { seenFacts, slideSeconds, timeText } from "./slide-facts.ts";

/** What cells say of their slides, gathered once for the whole sheet. */
export interface SheetMarks {
  /** Index of each slide in the show, by id. */
  readonly numbers: ReadonlyMap<string, number>;
  /** Indices of slides that the film has no room for. */
  readonly noRoom: ReadonlySet<number>;
  /** How many pictures show a slide's moment, by id; only where they are two or more. */
  readonly alike: ReadonlyMap<string, number>;
}

export function useSheetMarks(): SheetMarks {
  const slides = useOpenShow((show) => show.slides);
  const moments = useAppSelector((state) => selectGather(state).moments);
  const leftOut = useAppSelector((state) => state.view.plan?.leftOut);
  const numbers = useMemo(() => new Map(slides.map(({ id }, index) => [id, index])), [slides]);
  const noRoom = useMemo(() => new Set(leftOut), [leftOut]);
  const alike = useMemo(() => new Map(moments.flatMap((group) => group.map((id) => [id, group.length]))), [moments]);
  return { numbers, noRoom, alike };
}

interface SheetRowContentProps {
  row: SheetLayout["rows"][number];
  layout: SheetLayout;
  marks: SheetMarks;
  onPick: (id: string, event: MouseEvent) => void;
  onOpen: (id: string) => void;
}

/**
 * What stands in a row of the contact sheet: a passage's heading, its pictures, or that it has
 * none.
 */
export function SheetRowContent({ row, ...rest }: SheetRowContentProps): ReactNode {
  if (row.kind === "passage") return <PassageHeading passage={row.passage} slides={row.slides} />;
  if (row.kind === "slides") return <PictureCells slides={row.slides} {...rest} />;
  return (
    <p className="mt-1 mb-4 flex-1 rounded-md border border-dashed border-line px-4 py-3 text-[13px] text-quiet">
      No pictures here yet. Drag some here, or drop files from a folder.
    </p>
  );
}

interface PictureCellsProps extends Omit<SheetRowContentProps, "row"> {
  slides: Extract<SheetLayout["rows"][number], { kind: "slides" }>["slides"];
}

function PictureCells({ slides, layout, marks, onPick, onOpen }: PictureCellsProps): ReactNode {
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  const { ids: selected, current } = useAppSelector((state) => state.selection);
  const proxies = useAppSelector((state) => state.view.proxies);
  const isStack = useAppSelector((state) => selectGather(state).foldsAlike);
  return slides.map((slide) => {
    const index = valueFor(marks.numbers, slide.id);
    const facts = seenFacts(media, slide);
    return (
      <PictureCell
        key={slide.id}
        slide={slide}
        number={index + 1}
        facts={facts}
        time={timeText(slideSeconds(media, show, slide))}
        selected={selected.has(slide.id)}
        focused={current?.slideId === slide.id}
        noRoom={marks.noRoom.has(index)}
        alike={marks.alike.get(slide.id) ?? 0}
        isStack={isStack}
        proxyText={facts?.kind === "clip" ? proxyText(proxies[facts.sha256]) : null}
        width={layout.cellWidth}
        imageHeight={layout.imageHeight}
        onPick={onPick}
        onOpen={onOpen}
      />
    );
  });
}

function proxyText(proxy: { state: string; progress: number } | undefined): string | null {
  if (!proxy || proxy.state === "done") return null;
  if (proxy.state === "failed") return "cannot be played";
  return proxy.state === "running" ? `preparing ${Math.round(proxy.progress * 100)} %` : "waiting to be prepared";
}
