import { isSeen } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import { shapeOf } from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import type { ShowDocument, StyleLevel } from "@humming-tide/core/show";
import { LayoutGrid } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { useLetters } from "../../keys/letters.ts";
import { DropHint } from "../../replace/DropHint.tsx";
import { useFileDrop } from "../../replace/use-file-drop.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { Stage } from "../../stage/Stage.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { useOpenShow } from "../../store/open-show.ts";
import { currentSlot } from "../../store/selection-slice.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Tick } from "../../ui/Tick.tsx";
import { ContactSheet } from "./ContactSheet.tsx";
import { DressHeader, type DressPart } from "./DressHeader.tsx";
import { frameAlone, heldAt, useSlotAtPlayhead } from "./dressed.ts";
import type { HeldEnd } from "./FramingPanel.tsx";
import { filmIn, OutputStrip, outputSizes, type SeenBy } from "./OutputStrip.tsx";
import { SlideStrip } from "./SlideStrip.tsx";
import { StageOverlay } from "./StageOverlay.tsx";
import { StylePanels } from "./StylePanels.tsx";
import { useDressKeys } from "./use-dress-keys.ts";

/**
 * How pictures are framed, how they move and follow one another: for the show, a passage, or the
 * slides that are selected.
 */
export function DressScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const show = useOpenShow();
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

function DressedFilm({ plan, show }: { plan: FilmPlan; show: ShowDocument }): ReactNode {
  const letters = useLetters();
  const player = usePlayer();
  const selection = useAppSelector((state) => state.selection);
  const atPlayhead = useSlotAtPlayhead(plan);
  const [shape, setShape] = useState(() => shapeOf(plan.size));
  const [safeAreas, setSafeAreas] = useState(false);
  const { levelKind, chooseLevel, part, choosePart, held, setHeld } = useChosenPart(selection.ids.size > 0);
  const seen = useSeen();
  const film = useFilmInShape(show, plan, seen, shape);
  const goTo = useGoTo(plan);
  const drop = useFileDrop({ middle: 1, slideId: itemAt(film.slots, atPlayhead.index).slideId });
  const [showsSheet, setShowsSheet] = useState(false);
  const toggleSafeAreas = useCallback(() => setSafeAreas((on) => !on), []);
  const toggleSheet = useCallback(() => setShowsSheet((on) => !on), []);
  useDressKeys(plan, toggleSafeAreas, toggleSheet);

  const slot = itemAt(film.slots, atPlayhead.index);
  const slide = show.slides[slot.slideIndex]!;
  const passage = present(show.passages.find(({ id }) => id === slide.passageId));
  const many = selection.ids.size > 1 && selection.ids.has(slide.id);
  const slideIds = useMemo(() => (many ? selection.ids : new Set([slide.id])), [many, selection.ids, slide.id]);
  const level = styleLevel(levelKind, passage.id, slideIds);
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
      <h1 className="sr-only">Dress</h1>
      <div className="flex min-w-0 flex-1 flex-col" data-film>
        <div className="relative min-h-0 flex-1" {...drop.handlers}>
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
          <DropHint over={drop.over} beside="A card has no picture to replace" />
        </div>
        <Transport track={plan} hasQuality />
        <div className="flex gap-3 border-t border-line bg-raised px-3 pt-1 pb-2">
          <SlideStrip plan={plan} show={show} current={atPlayhead} />
          <OutputStrip
            show={show}
            plan={plan}
            seen={seen}
            chosen={shapeOf(film.size)}
            slotIndex={slot.index}
            onChoose={setShape}
          />
        </div>
      </div>
      <aside className="w-[340px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <DressHeader
          show={show}
          slide={slide}
          slideIds={slideIds}
          passageName={passageName}
          levelKind={levelKind}
          onLevel={chooseLevel}
          part={part}
          onPart={choosePart}
          onCardAdded={(id) => {
            chooseLevel("slides");
            choosePart("words");
            goTo(id);
          }}
          onGathered={goTo}
        />
        <StylePanels
          show={show}
          film={film}
          slot={slot}
          slide={slide}
          level={level}
          single={single}
          part={part}
          held={shownHeld}
          onHold={hold}
          shortened={shortened}
        />
        <div className="flex flex-col items-start gap-2 border-t border-line px-4 py-3">
          <Button onClick={toggleSheet}>
            <LayoutGrid size={14} aria-hidden /> Contact sheet ({letters.contactSheet.toUpperCase()})
          </Button>
          <Tick
            label={`Safe areas on the stage (${letters.safeAreas.toUpperCase()})`}
            checked={safeAreas}
            onChange={setSafeAreas}
          />
        </div>
      </aside>
      {showsSheet && (
        <ContactSheet
          film={film}
          slots={film.slots.filter(
            ({ slideIndex, round }) => round === 0 && show.slides[slideIndex]?.passageId === passage.id,
          )}
          passageName={passageName}
          onChoose={(chosen) => {
            setShowsSheet(false);
            player.seek((frameAlone(plan, chosen) * plan.rate.den) / plan.rate.num);
          }}
          onClose={() => setShowsSheet(false)}
        />
      )}
    </div>
  );
}

/**
 * What is changed, and for which slides. Choosing another lets go of an end of the move that was
 * held.
 */
function useChosenPart(hasSelection: boolean) {
  const [levelKind, setLevelKind] = useState<StyleLevel["kind"]>(hasSelection ? "slides" : "show");
  const [part, setPart] = useState<DressPart>("picture");
  const [held, setHeld] = useState<HeldEnd>(null);
  const chooseLevel = (next: StyleLevel["kind"]): void => {
    setHeld(null);
    setLevelKind(next);
  };
  const choosePart = (next: DressPart): void => {
    setHeld(null);
    setPart(next);
  };
  return { levelKind, chooseLevel, part, choosePart, held, setHeld };
}

/** The film as the output of a shape has it. */
function useFilmInShape(show: ShowDocument, plan: FilmPlan, seen: SeenBy, shape: string): ReturnType<typeof filmIn> {
  return useMemo(() => {
    const size = outputSizes(plan).find((other) => shapeOf(other) === shape) ?? plan.size;
    return filmIn(show, plan, seen, size);
  }, [show, plan, seen, shape]);
}

/** What is known of a picture or clip, by its content. */
function useSeen(): SeenBy {
  const media = useAppSelector((state) => state.show.media);
  return useCallback<SeenBy>(
    (sha256) => {
      const facts = media[sha256];
      return isSeen(facts) ? facts : undefined;
    },
    [media],
  );
}

function styleLevel(kind: StyleLevel["kind"], passageId: string, slideIds: ReadonlySet<string>): StyleLevel {
  if (kind === "slides") return { kind, slideIds };
  return kind === "passage" ? { kind, passageId } : { kind };
}

/**
 * A way to go to a slide as soon as the film is laid again. What was selected on the Score is shown
 * first.
 */
function useGoTo(plan: FilmPlan): (slideId: string) => void {
  const player = usePlayer();
  const selected = currentSlot(
    plan,
    useAppSelector((state) => state.selection),
  );
  // From then on the playhead says which slide it is.
  const [first] = useState(() => selected && (frameAlone(plan, selected) * plan.rate.den) / plan.rate.num);
  useEffect(() => {
    if (first !== undefined) player.seek(first);
  }, [player, first]);
  const [wanted, setWanted] = useState<{ readonly slideId: string; readonly before: FilmPlan } | null>(null);
  useEffect(() => {
    if (!wanted || wanted.before === plan) return;
    const slot = plan.slots.find(({ slideId }) => slideId === wanted.slideId);
    if (!slot) return;
    player.seek((frameAlone(plan, slot) * plan.rate.den) / plan.rate.num);
    setWanted(null);
  }, [plan, player, wanted]);
  return useCallback((slideId) => setWanted({ slideId, before: plan }), [plan]);
}
