import type { ClipFacts, PictureFacts } from "@humming-tide/contract";
import { turnedSize } from "@humming-tide/core/picture";
import { itemAt, present, valueFor } from "@humming-tide/core/presence";
import { changeSlides, hasPicture, type Slide, slideName } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { RotateCcw, RotateCw, X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type KeyboardEvent, type ReactNode, useState } from "react";
import { mediaUrl } from "../../api.ts";
import { letterOf, useLetters } from "../../keys/letters.ts";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { cull, cullKey, rate, toggleHero, turn } from "../../store/slide-actions.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { SlideImage } from "../../ui/SlideImage.tsx";
import { useTypedText } from "../../ui/use-typed-text.ts";
import { gatherActions, selectGather } from "./gather-slice.ts";
import { isSoft, momentText, seenFacts, shapeOf, slideSeconds } from "./slide-facts.ts";
import { stackOf } from "./stack-of.ts";
import { chosenOf } from "./stacks.ts";

/** Pictures side by side when comparing. */
const BESIDE = 3;
/** Neighbours to each side in the strip below. */
const STRIP = 5;

/**
 * One picture large, with its neighbours: to judge, to rate one after another, and to compare those
 * of the same moment.
 */
export function LargeView(): ReactNode {
  const dispatch = useAppDispatch();
  const view = useAppSelector((state) => selectGather(state).largeView);
  const slides = useOpenShow((show) => show.slides);
  const close = (): void => {
    if (view) dispatch(selectionActions.picked({ slideId: itemAt(view.ids, view.at), round: 0 }));
    dispatch(gatherActions.largeViewSet(null));
  };
  const known = new Map(slides.map((slide) => [slide.id, slide]));
  const ids = view?.ids.filter((id) => known.has(id)) ?? [];
  if (!view || ids.length === 0) return null;
  const at = Math.min(view.at, ids.length - 1);
  const go = (to: number): void =>
    void dispatch(gatherActions.largeViewSet({ ...view, ids, at: Math.max(0, Math.min(ids.length - 1, to)) }));
  const slide = valueFor(known, itemAt(ids, at));
  const compare = (isBeside: boolean): void =>
    void dispatch(gatherActions.largeViewSet({ ...view, compare: isBeside }));
  const onKeyDown = (event: KeyboardEvent): void => {
    const isTyping = (event.target as HTMLElement).closest("input, textarea") !== null;
    const moves = { next: () => go(at + 1), back: () => go(at - 1), compare: () => compare(!view.compare) };
    if (!isTyping && !largeViewKey(event, slide.id, moves)) return;
    if (!isTyping) event.preventDefault();
    event.stopPropagation();
  };
  const from = Math.max(0, Math.min(at, ids.length - BESIDE));
  const shown = view.compare ? ids.slice(from, from + BESIDE) : [slide.id];
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onKeyDown={onKeyDown}
          data-testid="large-view"
          className="fixed inset-0 z-40 flex flex-col bg-ground"
        >
          <LargeViewHeader
            slide={slide}
            place={`${at + 1} of ${ids.length}`}
            compares={view.compare}
            onCompare={compare}
            onClose={close}
          />
          <div className="flex min-h-0 flex-1 gap-2 bg-stage p-3">
            {shown.map((id) => (
              <Picture
                key={id}
                slide={valueFor(known, id)}
                current={view.compare && id === slide.id}
                onPick={() => go(ids.indexOf(id))}
              />
            ))}
          </div>
          <Judgement slide={slide} />
          <Strip ids={ids} at={at} known={known} onGo={go} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface LargeViewMoves {
  readonly next: () => void;
  readonly back: () => void;
  readonly compare: () => void;
}

/** Whether the key was one of the large view's: arrows go on, letters rate, turn and compare. */
function largeViewKey(event: KeyboardEvent, slideId: string, { next, back, compare }: LargeViewMoves): boolean {
  const ids = new Set([slideId]);
  const letter = letterOf(event);
  const what = cullKey(letter);
  if (event.key === "ArrowRight") next();
  else if (event.key === "ArrowLeft") back();
  else if (what) {
    cull(ids, what);
    if (what !== "hero") next();
  } else if (letter === "turn") turn(ids, event.shiftKey ? -1 : 1);
  else if (letter === "compare") compare();
  else if (letter === "choose") return choose(slideId, next);
  else return false;
  return true;
}

/** Keeps a picture and leaves out those that are alike; false where there are none. */
function choose(slideId: string, next: () => void): boolean {
  const stack = stackOf(slideId);
  if (!stack) return false;
  edit((show) => chosenOf(show, stack, slideId));
  next();
  return true;
}

interface LargeViewHeaderProps {
  slide: Slide;
  /** Among those that are looked at: "3 of 20". */
  place: string;
  compares: boolean;
  onCompare: (compares: boolean) => void;
  onClose: () => void;
}

/** Which picture it is, and how many are shown. */
function LargeViewHeader({ slide, place, compares, onCompare, onClose }: LargeViewHeaderProps): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const letters = useLetters();
  return (
    <header className="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
      <Dialog.Title className="truncate font-heading text-[17px]">
        {slides.indexOf(slide) + 1}: <bdi>{slideName(slide)}</bdi>
      </Dialog.Title>
      <span className="shrink-0 text-[13px] text-quiet">{place}</span>
      <span className="flex-1" />
      <Choice
        label="How many pictures are shown"
        value={compares ? "compare" : "one"}
        options={[
          { value: "one", label: "One" },
          { value: "compare", label: "Compare neighbours", hint: letters.compare.toUpperCase() },
        ]}
        onChange={(value) => onCompare(value === "compare")}
      />
      <IconButton label="Back to the sheet (Escape)" onClick={onClose}>
        <X size={18} />
      </IconButton>
    </header>
  );
}

function Picture({ slide, current, onPick }: { slide: Slide; current: boolean; onPick: () => void }): ReactNode {
  const facts = useAppSelector((state) => seenFacts(state.show.media, slide));
  const proxy = useAppSelector((state) => (slide.sha256 === null ? undefined : state.view.proxies[slide.sha256]));
  const [zoom, setZoom] = useState<{ x: number; y: number } | null>(null);
  if (hasPicture(slide) && facts?.kind === "clip" && proxy?.state === "done") {
    return (
      // biome-ignore lint/a11y/useMediaCaption: a clip of the person's own, played to judge it
      <video
        controls
        src={mediaUrl(slide.sha256, "proxy")}
        poster={mediaUrl(slide.sha256, "working")}
        className={`min-w-0 flex-1 ${current ? "outline-2 outline-ink" : ""}`}
      />
    );
  }
  return (
    <button
      type="button"
      aria-label={zoom ? "Show it whole" : "Show this place at full size"}
      onClick={(event) => {
        if (!current && event.detail === 0) onPick();
        const box = event.currentTarget.getBoundingClientRect();
        setZoom(zoom ? null : { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height });
      }}
      onFocus={onPick}
      className={`relative min-w-0 flex-1 overflow-hidden ${zoom ? "cursor-zoom-out" : "cursor-zoom-in"} ${current ? "outline-2 outline-ink" : ""}`}
    >
      <SlideImage
        slide={slide}
        file="working"
        alt={slide.caption || slideName(slide)}
        className="absolute inset-0 size-full object-contain"
        style={zoom ? { transform: "scale(3)", transformOrigin: `${zoom.x * 100}% ${zoom.y * 100}%` } : undefined}
      />
    </button>
  );
}

function Judgement({ slide }: { slide: Slide }): ReactNode {
  const letters = useLetters();
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  const facts = seenFacts(media, slide);
  const ids = new Set([slide.id]);
  const marked = (on: boolean): string => (on ? "border-ink! bg-ink! text-ground!" : "");
  return (
    <div className="flex shrink-0 items-center gap-2 border-t border-line px-4 py-2">
      <Button
        aria-pressed={slide.rating === "keep"}
        className={marked(slide.rating === "keep")}
        onClick={() => rate(ids, "keep")}
      >
        Keep
      </Button>
      <Button
        aria-pressed={slide.rating === "maybe"}
        className={marked(slide.rating === "maybe")}
        onClick={() => rate(ids, "maybe")}
      >
        Maybe
      </Button>
      <Button
        aria-pressed={slide.rating === "out"}
        className={marked(slide.rating === "out")}
        onClick={() => rate(ids, "out")}
      >
        Leave out
      </Button>
      <Button aria-pressed={slide.hero} className={marked(slide.hero)} onClick={() => toggleHero(ids)}>
        Hero
      </Button>
      <IconButton label="Turn to the left" onClick={() => turn(ids, -1)}>
        <RotateCcw size={16} />
      </IconButton>
      <IconButton label={`Turn to the right (${letters.turn.toUpperCase()})`} onClick={() => turn(ids, 1)}>
        <RotateCw size={16} />
      </IconButton>
      <CaptionField key={slide.id} slide={slide} />
      <p className="shrink-0 text-right text-xs leading-4 text-quiet">
        {facts && factsText(facts, slide)}
        <br />
        {facts && slideSeconds(media, show, slide) !== null && momentText(present(slideSeconds(media, show, slide)))}
        {facts?.camera && `, ${facts.camera}`}
      </p>
    </div>
  );
}

function factsText(facts: PictureFacts | ClipFacts, slide: Slide): string {
  const { width, height } = turnedSize(facts, slide.turn);
  const parts = [`${width} × ${height}`, shapeOf(facts, slide)];
  if (facts.kind === "clip") {
    const rate = facts.frameRate.num / facts.frameRate.den;
    parts.push(
      clockText(facts.durationSeconds),
      `${Number(rate.toFixed(3))} frames a second${facts.variableRate ? " (varying)" : ""}`,
      facts.sound ? "with sound" : "without sound",
    );
  }
  if (isSoft(facts)) parts.push("soft");
  if ((facts?.subject?.openEyes ?? 1) < 1) parts.push("someone’s eyes seem closed");
  return parts.join(", ");
}

function CaptionField({ slide }: { slide: Slide }): ReactNode {
  const { text, type, commit } = useTypedText(slide.caption, (caption) =>
    edit((show) => changeSlides(show, new Set([slide.id]), { caption })),
  );
  return (
    <input
      aria-label="Caption"
      placeholder="Caption"
      value={text}
      maxLength={2000}
      onChange={(event) => type(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      className="mx-2 min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2.5 py-1 text-[14px]"
    />
  );
}

function Strip({
  ids,
  at,
  known,
  onGo,
}: {
  ids: readonly string[];
  at: number;
  known: ReadonlyMap<string, Slide>;
  onGo: (to: number) => void;
}): ReactNode {
  const from = Math.max(0, Math.min(at - STRIP, ids.length - 2 * STRIP - 1));
  return (
    <div className="flex h-[84px] shrink-0 justify-center gap-2 border-t border-line px-4 py-2">
      {ids.slice(from, from + 2 * STRIP + 1).map((id, index) => {
        const slide = valueFor(known, id);
        return (
          <button
            key={id}
            type="button"
            aria-label={slideName(slide)}
            aria-current={from + index === at}
            onClick={() => onGo(from + index)}
            className={`w-[92px] overflow-hidden rounded bg-slide ${from + index === at ? "outline-2 outline-ink" : "opacity-70 hover:opacity-100"}`}
          >
            <SlideImage
              slide={slide}
              className={`size-full object-contain ${slide.rating === "out" ? "opacity-30 grayscale" : ""}`}
            />
          </button>
        );
      })}
    </div>
  );
}
