import { isSeen } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import { counted } from "@humming-tide/core/language";
import { shapeOf } from "@humming-tide/core/picture";
import {
  canGatherOnSlide,
  copyStyle,
  gatherOnSlide,
  type ShowDocument,
  type StyleLevel,
  slideName,
} from "@humming-tide/core/show";
import { Copy, LayoutGrid } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { usePlayer } from "../../stage/player-context.tsx";
import { Stage } from "../../stage/Stage.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { edit } from "../../store/edit.ts";
import { currentSlot } from "../../store/selection-slice.ts";
import { useAppSelector } from "../../store/store.ts";
import { stylePart } from "../../style/style-part.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { CardMenu } from "./CardMenu.tsx";
import { frameAlone, heldAt, useSlotAtPlayhead } from "./dressed.ts";
import { FramingPanel, GroundPanel, type HeldEnd } from "./FramingPanel.tsx";
import { LandingPanel } from "./LandingPanel.tsx";
import { LayoutPanel } from "./LayoutPanel.tsx";
import { CaptionsPanel, LettersPanel } from "./LettersPanel.tsx";
import { EdgePanel, GraphicPanel, LookPanel, OverlayPanel } from "./LookPanels.tsx";
import { MovePanel } from "./MovePanel.tsx";
import { filmIn, OutputStrip, outputSizes, type SeenBy } from "./OutputStrip.tsx";
import { StageOverlay } from "./StageOverlay.tsx";
import { TransitionPanel } from "./TransitionPanel.tsx";
import { useDressKeys } from "./use-dress-keys.ts";
import { WordsPanel } from "./WordsPanel.tsx";

/** How pictures are framed, how they move and follow one another: for the show, a passage, or the slides that are selected. */
export function DressScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const show = useAppSelector((state) => state.show.document)!;
  // The plan follows the document within moments; until it does, what was seen before stays.
  const [together, setTogether] = useState<{ plan: FilmPlan; show: ShowDocument } | null>(null);
  const belongs = plan?.slots.every(({ slideId, slideIndex }) => show.slides[slideIndex]?.id === slideId) ?? false;
  if (plan && belongs && (together?.plan !== plan || together.show !== show)) setTogether({ plan, show });
  const seen = plan ? (belongs ? { plan, show } : together) : null;
  if (!seen) {
    return (
      <EmptyState
        title="No film to dress yet"
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {problem?.message ?? "Fitting the slides …"}
      </EmptyState>
    );
  }
  return <DressedFilm plan={seen.plan} show={seen.show} />;
}

type LevelKind = StyleLevel["kind"];
type Part = "picture" | "change" | "look" | "words";

const PARTS: readonly { value: Part; label: string; hint: string }[] = [
  { value: "picture", label: "Picture", hint: "Framing and moves" },
  { value: "change", label: "Change", hint: "Transitions and how they land" },
  { value: "look", label: "Look", hint: "Tone, border, overlay and graphic" },
  { value: "words", label: "Words", hint: "Titles, captions and letters" },
];

function DressedFilm({ plan, show }: { plan: FilmPlan; show: ShowDocument }): ReactNode {
  const player = usePlayer();
  const media = useAppSelector((state) => state.show.media);
  const selection = useAppSelector((state) => state.selection);
  const atPlayhead = useSlotAtPlayhead(plan);
  const [levelKind, setLevelKind] = useState<LevelKind>(selection.ids.size > 0 ? "slides" : "show");
  const [shape, setShape] = useState(() => shapeOf(plan.size));
  const [held, setHeld] = useState<HeldEnd>(null);
  const [safeAreas, setSafeAreas] = useState(false);
  const [part, setPart] = useState<Part>("picture");
  const choosePart = (next: Part): void => {
    setHeld(null);
    setPart(next);
  };
  const seen = useCallback<SeenBy>(
    (sha256) => {
      const facts = media[sha256];
      return isSeen(facts) ? facts : undefined;
    },
    [media],
  );
  const film = useMemo(() => {
    const size = outputSizes(plan).find((other) => shapeOf(other) === shape) ?? plan.size;
    return filmIn(show, plan, seen, size);
  }, [show, plan, seen, shape]);

  const selected = currentSlot(plan, selection);
  // What was selected on the Score is shown first; from then on the playhead says which slide it is.
  const [first] = useState(() => selected && (frameAlone(plan, selected) * plan.rate.den) / plan.rate.num);
  useEffect(() => {
    if (first !== undefined) player.seek(first);
  }, [player, first]);
  /** A slide to go to as soon as the film is laid again. */
  const [wanted, setWanted] = useState<{ readonly slideId: string; readonly before: FilmPlan } | null>(null);
  useEffect(() => {
    if (!wanted || wanted.before === plan) return;
    const slot = plan.slots.find(({ slideId }) => slideId === wanted.slideId);
    if (!slot) return;
    player.seek((frameAlone(plan, slot) * plan.rate.den) / plan.rate.num);
    setWanted(null);
  }, [plan, player, wanted]);
  useDressKeys(plan, () => setSafeAreas((on) => !on));

  const slot = film.slots[atPlayhead.index]!;
  const slide = show.slides[slot.slideIndex]!;
  const passage = show.passages.find(({ id }) => id === slide.passageId)!;
  const many = selection.ids.size > 1 && selection.ids.has(slide.id);
  const isClip = (sha256: string): boolean => media[sha256]?.kind === "clip";
  const slideIds = useMemo(() => (many ? selection.ids : new Set([slide.id])), [many, selection.ids, slide.id]);
  const level: StyleLevel =
    levelKind === "show"
      ? { kind: "show" }
      : levelKind === "passage"
        ? { kind: "passage", passageId: passage.id }
        : { kind: "slides", slideIds };
  const single = levelKind === "slides" && !many;
  const hold = (end: HeldEnd): void => {
    player.pause();
    if (end) player.seek((frameAlone(plan, atPlayhead) * plan.rate.den) / plan.rate.num);
    setHeld(end);
  };
  const shownHeld = single ? held : null;
  const onStage = shownHeld ? heldAt(film, slot.index, shownHeld) : film;
  const passageName = passage.name || `Passage ${show.passages.indexOf(passage) + 1}`;
  const shortened = plan.slots.filter(({ isTransitionShortened }) => isTransitionShortened).length;
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col" data-film>
        <div className="min-h-0 flex-1">
          <Stage plan={onStage}>
            <StageOverlay
              plan={film}
              slot={slot}
              slide={slide}
              single={single}
              ring={part === "picture" && slot.picture !== null}
              held={shownHeld}
              safeAreas={safeAreas}
            />
          </Stage>
        </div>
        <Transport track={plan} />
        <OutputStrip
          show={show}
          plan={plan}
          seen={seen}
          chosen={shapeOf(film.size)}
          slotIndex={slot.index}
          onChoose={setShape}
        />
      </div>
      <aside className="w-[340px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <header className="sticky top-0 z-10 border-b border-line bg-raised px-4 py-2">
          <p className="truncate text-[13px] text-quiet" title={slideName(slide)}>
            {many ? `${counted(slideIds.size, "slide")}, now ${slideName(slide)}` : slideName(slide)}
          </p>
          <div className="-ml-2.5 flex items-center">
            <Choice
              label="Apply to"
              value={levelKind}
              options={[
                { value: "slides", label: many ? counted(slideIds.size, "slide") : "This slide" },
                { value: "passage", label: "Its passage", hint: passageName },
                { value: "show", label: "The show" },
              ]}
              onChange={(next) => {
                setHeld(null);
                setLevelKind(next);
              }}
            />
          </div>
          {levelKind === "passage" && <p className="truncate text-[13px] text-soft">{passageName}</p>}
          <div className="-ml-2.5 flex items-center justify-between">
            <Choice label="What of it" value={part} options={PARTS} onChange={choosePart} />
            <CardMenu
              slide={slide}
              onAdded={(id) => {
                setLevelKind("slides");
                choosePart("words");
                setWanted({ slideId: id, before: plan });
              }}
            />
          </div>
          {levelKind === "slides" && many && (
            <Button
              kind="quiet"
              className="-ml-3"
              onClick={() => edit((document) => copyStyle(document, slide.id, slideIds))}
            >
              <Copy size={14} aria-hidden /> Give all of them the style of this one
            </Button>
          )}
          {levelKind === "slides" && many && canGatherOnSlide(show, slideIds, isClip) && (
            <Button
              kind="quiet"
              className="-ml-3"
              onClick={() => {
                edit((document) => gatherOnSlide(document, slideIds));
                setWanted({ slideId: show.slides.find(({ id }) => slideIds.has(id))!.id, before: plan });
              }}
            >
              <LayoutGrid size={14} aria-hidden /> Put their pictures on one slide
            </Button>
          )}
        </header>
        {part === "picture" && (
          <>
            {slide.sha256 !== null && (
              <FramingPanel
                show={show}
                plan={film}
                slot={slot}
                part={stylePart(show, level, "fill")}
                single={single}
                held={shownHeld}
                onHold={hold}
              />
            )}
            {slide.sha256 === null && <GroundPanel show={show} part={stylePart(show, level, "fill")} />}
            {single && slide.more.length > 0 && <LayoutPanel show={show} slide={slide} />}
            {(slide.sha256 !== null || level.kind !== "slides") && (
              <MovePanel part={stylePart(show, level, "move")} show={show} />
            )}
          </>
        )}
        {part === "change" && (
          <>
            <TransitionPanel part={stylePart(show, level, "transition")} />
            <LandingPanel show={show} shortened={shortened} />
          </>
        )}
        {part === "look" && (
          <>
            <LookPanel part={stylePart(show, level, "look")} />
            <EdgePanel part={stylePart(show, level, "edge")} />
            <OverlayPanel part={stylePart(show, level, "overlay")} />
            <GraphicPanel part={stylePart(show, level, "graphic")} />
          </>
        )}
        {part === "words" && (
          <>
            {single && <WordsPanel film={film} slot={slot} slide={slide} letters={stylePart(show, level, "letters")} />}
            <CaptionsPanel part={stylePart(show, level, "captions")} />
            <LettersPanel part={stylePart(show, level, "letters")} />
          </>
        )}
        <div className="border-t border-line px-4 py-3">
          <label className="flex items-center gap-2 text-[13px] text-soft">
            <input type="checkbox" checked={safeAreas} onChange={(event) => setSafeAreas(event.target.checked)} />
            Safe areas on the stage (S)
          </label>
        </div>
      </aside>
    </div>
  );
}
