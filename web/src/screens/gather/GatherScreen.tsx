import { fitMessageText } from "@humming-tide/core/fit";
import { present } from "@humming-tide/core/presence";
import { hasPicture } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { FolderOpen, ImagePlus, ImageUp, Music } from "lucide-react";
import { type ReactNode, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { CardMenu } from "../../cards/CardMenu.tsx";
import { ALL_FILES } from "../../intake/accepted-files.ts";
import { chosenFiles } from "../../intake/dropped-files.ts";
import { bringIn, lookForLeftOver } from "../../intake/intake.ts";
import { DropHint } from "../../replace/DropHint.tsx";
import { useFileDrop } from "../../replace/use-file-drop.ts";
import { SongLibraryDialog } from "../../song-library/SongLibraryDialog.tsx";
import { useOpenShow, useShowId } from "../../store/open-show.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Menu, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { ContactSheet } from "./ContactSheet.tsx";
import { CullingHintsPanel } from "./CullingHintsPanel.tsx";
import { gatherActions, selectGather } from "./gather-slice.ts";
import { IntakePanel } from "./IntakePanel.tsx";
import { LargeView } from "./LargeView.tsx";
import { NextStep } from "./NextStep.tsx";
import { RetouchedPanel } from "./RetouchedPanel.tsx";
import { SelectionBar } from "./SelectionBar.tsx";
import { SheetTools } from "./SheetTools.tsx";
import { SoundsPanel } from "./SoundsPanel.tsx";
import { CELL_WIDTHS, dropPlace, layOutSheet, type SheetLayout } from "./sheet-layout.ts";
import { qualityOf } from "./slide-facts.ts";
import { folded, stacksOf } from "./stacks.ts";
import { useMoments } from "./use-moments.ts";

/** Beside it, files go between two pictures. */
const MIDDLE_OF_PICTURE = 0.5;

/** Pictures, clips and a song come in here, are culled, put in order and divided into passages. */
export function GatherScreen(): ReactNode {
  const dispatch = useAppDispatch();
  const showId = useShowId();
  const slides = useOpenShow((show) => show.slides);
  const hasPictures = slides.some(hasPicture);
  const scroller = useRef<HTMLDivElement>(null);
  const layout = useSheetLayout(scroller);
  useMoments();
  useEffect(() => {
    void lookForLeftOver(showId);
    return () => void dispatch(gatherActions.gatherLeft());
  }, [dispatch, showId]);
  const drop = useFileDrop({
    middle: MIDDLE_OF_PICTURE,
    beside: (files, { clientX, clientY }) => {
      const sheet = scroller.current?.querySelector("[data-testid=sheet]")?.getBoundingClientRect();
      const target = sheet && layout ? dropPlace(layout, clientX - sheet.left, clientY - sheet.top) : null;
      void bringIn(files, { passageId: target?.place.passageId ?? null });
    },
  });
  return (
    <div className="flex h-full min-h-0">
      <div className="relative flex min-w-0 flex-1 flex-col" {...drop.handlers}>
        {hasPictures && (
          <SheetTools>
            <NewCard />
            <BringIn />
          </SheetTools>
        )}
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto px-5 pt-3" tabIndex={-1}>
          {!hasPictures && <EmptySheet />}
          {slides.length > 0 && layout && <ContactSheet layout={layout} scroller={scroller} />}
        </div>
        <SelectionBar />
        <DropHint
          over={drop.over}
          beside={!hasPictures ? "Drop to bring in" : "Drop to bring in; on the middle of a picture, to replace it"}
        />
      </div>
      <GatherSide />
      <LargeView />
    </div>
  );
}

/** Sounds, files on their way in, what to do next. */
function GatherSide(): ReactNode {
  return (
    <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
      <RetouchedPanel />
      <SoundsPanel />
      <IntakePanel />
      <AgreementPanel />
      <NextStep />
      <SongPanel />
      <CullingHintsPanel />
    </aside>
  );
}

/** What can be brought in, before anything was. */
function EmptySheet(): ReactNode {
  return (
    <EmptyState title="Bring in pictures and a song" action={<BringIn />}>
      Drop files or whole folders here: pictures as JPEG, PNG, WebP, AVIF, HEIC, TIFF, GIF or RAW, clips as MP4, MOV or
      WebM, and one song as MP3, M4A, WAV, FLAC or OGG.
    </EmptyState>
  );
}

/** The sheet's layout at the width that it has now; null until that is known. */
function useSheetLayout(scroller: React.RefObject<HTMLDivElement | null>): SheetLayout | null {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = present(scroller.current);
    const measure = (): void => {
      const style = getComputedStyle(element);
      setWidth(element.clientWidth - Number.parseFloat(style.paddingLeft) - Number.parseFloat(style.paddingRight));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [scroller]);
  const passages = useOpenShow((show) => show.passages);
  const slides = useOpenShow((show) => show.slides);
  const { filter, size, moments, foldsAlike } = useAppSelector(selectGather);
  const media = useAppSelector((state) => state.show.media);
  return useMemo(() => {
    if (width === 0) return null;
    const shown =
      filter === "all" ? slides : slides.filter((slide) => (filter === "hero" ? slide.hero : slide.rating === filter));
    const seen = foldsAlike
      ? folded(
          shown,
          stacksOf(moments, shown, (slide) => qualityOf(media, slide)),
        )
      : shown;
    return layOutSheet(passages, seen, width, CELL_WIDTHS[size]);
  }, [passages, slides, filter, size, width, moments, foldsAlike, media]);
}

/** A card before the picture that was selected last, or before the first. */
function NewCard(): ReactNode {
  const dispatch = useAppDispatch();
  const slides = useOpenShow((show) => show.slides);
  const currentId = useAppSelector((state) => state.selection.current?.slideId);
  const slide = slides.find(({ id }) => id === currentId) ?? slides[0];
  if (!slide) return null;
  return <CardMenu slide={slide} onAdded={(slideId) => dispatch(selectionActions.picked({ slideId, round: 0 }))} />;
}

/** The ways in beside dropping: files, or a folder with all that is in it. */
function BringIn(): ReactNode {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const empty = useAppSelector((state) => !present(state.show.document).slides.some(hasPicture));
  const retouched = useRef<HTMLInputElement>(null);
  const input = (
    ref: React.RefObject<HTMLInputElement | null>,
    label: string,
    more: Record<string, string>,
    target: Parameters<typeof bringIn>[1] = {},
  ): ReactNode => (
    <input
      ref={ref}
      type="file"
      multiple
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(event) => {
        void bringIn(chosenFiles(event.target.files), target);
        event.target.value = "";
      }}
      {...more}
    />
  );
  return (
    <>
      {input(files, "Choose pictures, clips and a song", { accept: ALL_FILES })}
      {input(folder, "Choose a folder", { webkitdirectory: "" })}
      {input(retouched, "Choose retouched pictures", { webkitdirectory: "" }, { retouched: true })}
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
        {!empty && (
          <>
            <MenuLine />
            <MenuItem onSelect={() => retouched.current?.click()}>
              <span className="flex items-center gap-2">
                <ImageUp size={15} aria-hidden /> Retouched pictures …
              </span>
            </MenuItem>
          </>
        )}
      </Menu>
    </>
  );
}

function SongPanel(): ReactNode {
  const song = useAppSelector((state) => present(state.show.document).songs[0]);
  const count = useOpenShow((show) => show.songs.length);
  const facts = useAppSelector((state) => (song ? state.show.media[song.sha256] : undefined));
  const [isLibraryOpen, setLibraryOpen] = useState(false);
  return (
    <Panel
      title="Song"
      aside={
        <Button kind="quiet" className="-mr-3" onClick={() => setLibraryOpen(true)}>
          From the library …
        </Button>
      }
    >
      {isLibraryOpen && <SongLibraryDialog onClose={() => setLibraryOpen(false)} />}
      {!song && (
        <p className="text-[13px] text-soft">
          No song yet. Drop one anywhere on the sheet, or take one from the library.
        </p>
      )}
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
