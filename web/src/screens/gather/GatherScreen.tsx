import { fitMessageText } from "@humming-tide/core/fit";
import { clockText } from "@humming-tide/core/time";
import { FolderOpen, ImagePlus, Music } from "lucide-react";
import { type DragEvent, type ReactNode, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { chosenFiles, droppedFiles } from "../../intake/dropped-files.ts";
import { bringIn, lookForLeftOver } from "../../intake/intake.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Menu, MenuItem } from "../../ui/Menu.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { ContactSheet } from "./ContactSheet.tsx";
import { gatherActions, selectGather } from "./gather-slice.ts";
import { IntakePanel } from "./IntakePanel.tsx";
import { LargeLook } from "./LargeLook.tsx";
import { LookAgainPanel } from "./LookAgainPanel.tsx";
import { NextStep } from "./NextStep.tsx";
import { SelectionBar } from "./SelectionBar.tsx";
import { SheetTools } from "./SheetTools.tsx";
import { SoundsPanel } from "./SoundsPanel.tsx";
import { CELL_WIDTHS, dropPlace, layOutSheet, type SheetLayout } from "./sheet-layout.ts";
import { useMoments } from "./use-moments.ts";

const ACCEPTED = "image/*,video/mp4,video/webm,audio/*,.heic,.heif,.avif,.mov,.m4a,.flac,.ogg,.mp3,.wav";

/** Pictures, clips and a song come in here, are culled, put in order and divided into passages. */
export function GatherScreen(): ReactNode {
  const dispatch = useAppDispatch();
  const showId = useAppSelector((state) => state.show.id)!;
  const slides = useAppSelector((state) => state.show.document!.slides);
  const scroller = useRef<HTMLDivElement>(null);
  const layout = useSheetLayout(scroller);
  const [over, setOver] = useState(false);
  useMoments();
  useEffect(() => {
    void lookForLeftOver(showId);
    return () => void dispatch(gatherActions.gatherLeft());
  }, [dispatch, showId]);
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    const sheet = scroller.current?.querySelector("[data-testid=sheet]")?.getBoundingClientRect();
    const target = sheet && layout ? dropPlace(layout, event.clientX - sheet.left, event.clientY - sheet.top) : null;
    void droppedFiles(event.dataTransfer).then((files) =>
      bringIn(files, { passageId: target?.place.passageId ?? null }),
    );
  };
  return (
    <div className="flex h-full min-h-0">
      <div
        className="relative flex min-w-0 flex-1 flex-col"
        onDragOver={(event) => {
          if (!event.dataTransfer.types.includes("Files")) return;
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={(event) => event.currentTarget.contains(event.relatedTarget as Node | null) || setOver(false)}
        onDrop={drop}
      >
        {slides.length > 0 && (
          <SheetTools>
            <BringIn />
          </SheetTools>
        )}
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto px-5 pt-3" tabIndex={-1}>
          {slides.length === 0 ? (
            <EmptyState title="Bring in pictures and a song" action={<BringIn />}>
              Drop files or whole folders here: pictures as JPEG, PNG, WebP, AVIF, HEIC, TIFF or GIF, clips as MP4, MOV
              or WebM, and one song as MP3, M4A, WAV, FLAC or OGG.
            </EmptyState>
          ) : (
            layout && <ContactSheet layout={layout} scroller={scroller} />
          )}
        </div>
        <SelectionBar />
        {over && (
          <p className="pointer-events-none absolute inset-3 z-30 flex items-center justify-center rounded-xl border-2 border-dashed border-line-strong bg-ground/80 text-xl">
            Drop to bring them in
          </p>
        )}
      </div>
      <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <SoundsPanel />
        <IntakePanel />
        <AgreementPanel />
        <NextStep />
        <SongPanel />
        <LookAgainPanel />
      </aside>
      <LargeLook />
    </div>
  );
}

/** The sheet's layout at the width that it has now; null until that is known. */
function useSheetLayout(scroller: React.RefObject<HTMLDivElement | null>): SheetLayout | null {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = scroller.current!;
    const measure = (): void => {
      const style = getComputedStyle(element);
      setWidth(element.clientWidth - Number.parseFloat(style.paddingLeft) - Number.parseFloat(style.paddingRight));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [scroller]);
  const passages = useAppSelector((state) => state.show.document!.passages);
  const slides = useAppSelector((state) => state.show.document!.slides);
  const { filter, size } = useAppSelector(selectGather);
  return useMemo(() => {
    if (width === 0) return null;
    const shown =
      filter === "all" ? slides : slides.filter((slide) => (filter === "hero" ? slide.hero : slide.rating === filter));
    return layOutSheet(passages, shown, width, CELL_WIDTHS[size]);
  }, [passages, slides, filter, size, width]);
}

/** The ways in beside dropping: files, or a folder with all that is in it. */
function BringIn(): ReactNode {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const empty = useAppSelector((state) => state.show.document!.slides.length === 0);
  const input = (
    ref: React.RefObject<HTMLInputElement | null>,
    label: string,
    more: Record<string, string>,
  ): ReactNode => (
    <input
      ref={ref}
      type="file"
      multiple
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        void bringIn(chosenFiles(event.target.files));
        event.target.value = "";
      }}
      {...more}
    />
  );
  return (
    <>
      {input(files, "Choose pictures, clips and a song", { accept: ACCEPTED })}
      {input(folder, "Choose a folder", { webkitdirectory: "" })}
      <Menu
        align="end"
        trigger={
          <Button kind="primary">
            <ImagePlus size={16} /> Bring in {empty ? "pictures and a song" : "…"}
          </Button>
        }
      >
        <MenuItem onSelect={() => files.current?.click()}>
          <span className="flex items-center gap-2">
            <ImagePlus size={15} aria-hidden /> Choose files …
          </span>
        </MenuItem>
        <MenuItem onSelect={() => folder.current?.click()}>
          <span className="flex items-center gap-2">
            <FolderOpen size={15} aria-hidden /> Choose a folder …
          </span>
        </MenuItem>
      </Menu>
    </>
  );
}

function SongPanel(): ReactNode {
  const song = useAppSelector((state) => state.show.document!.songs[0]);
  const count = useAppSelector((state) => state.show.document!.songs.length);
  const facts = useAppSelector((state) => (song ? state.show.media[song.sha256] : undefined));
  return (
    <Panel title="Song">
      {!song && <p className="text-[13px] text-soft">No song yet. Drop one anywhere on the sheet.</p>}
      {song && (
        <div className="flex items-start gap-3">
          <Music size={18} className="mt-0.5 shrink-0 text-foam" aria-hidden />
          <div className="min-w-0 text-[13px]">
            <p className="break-words">
              <bdi>{song.fileName}</bdi>
            </p>
            {facts?.kind === "song" && (
              <p className="text-quiet">
                {clockText(facts.durationSeconds)}
                {facts.tempoBpm ? `, ${facts.tempoBpm.toFixed(1)} BPM` : ", no steady beat"}
              </p>
            )}
            <p className="mt-1 text-quiet">
              {count > 1
                ? `and ${count - 1} more; another one comes in behind them.`
                : "Another song is asked about before it takes its place."}
            </p>
          </div>
        </div>
      )}
      {facts?.kind === "song" && facts.remark && (
        <div className="mt-2">
          <Notice kind="warning">{facts.remark}</Notice>
        </div>
      )}
    </Panel>
  );
}

/** Whether pictures and music agree, in words. */
function AgreementPanel(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  return (
    <Panel
      title="Slides and music"
      aside={
        plan && (
          <Link className="text-[13px] text-soft underline" to="../score">
            To the Score
          </Link>
        )
      }
    >
      {!plan && <p className="text-[13px] text-soft">{problem?.message ?? "…"}</p>}
      <ul className="flex flex-col gap-2 text-[13px]">
        {plan?.messages.map((message) => (
          <li key={fitMessageText(message)} className={message.kind === "agreement" ? "text-ink" : "text-warning"}>
            {fitMessageText(message)}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
