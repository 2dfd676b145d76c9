import type { FilmPlan } from "@humming-tide/core/film";
import { AudioLines, Columns2, Maximize2, Minimize2, Wand2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { useLetters } from "../../keys/letters.ts";
import { DraftButton } from "../../stage/DraftButton.tsx";
import { Stage } from "../../stage/Stage.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { useAppSelector } from "../../store/store.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { VariantsDialog } from "../../variants/VariantsDialog.tsx";
import { CloseUp } from "./close-up/CloseUp.tsx";
import { keepStageSize, keptStageSize, type RowSizeName, type StageSize } from "./layout/row-size.ts";
import { LeadPanel } from "./panels/LeadPanel.tsx";
import { MovedLine } from "./panels/MovedLine.tsx";
import { OpenLocksPanel } from "./panels/OpenLocksPanel.tsx";
import { PassagesPanel } from "./panels/PassagesPanel.tsx";
import { RhythmChart } from "./panels/RhythmChart.tsx";
import { SelectionPanel } from "./panels/SelectionPanel.tsx";
import { SlotPanel } from "./panels/SlotPanel.tsx";
import { ScoreRows } from "./rows/ScoreRows.tsx";
import { SoundSide } from "./sound/SoundSide.tsx";
import { fitAgain } from "./use-score-keys.ts";
import { useScoreRows } from "./use-score-rows.ts";

const SIZES = [
  { value: "small", label: "S", hint: "Low rows: more of the film at once" },
  { value: "medium", label: "M", hint: "Rows of middle height" },
  { value: "large", label: "L", hint: "High rows: larger pictures" },
  { value: "whole", label: "Whole song", hint: "Every row in sight, as high as fits" },
] as const;

/** The stage stays in sight and takes more of a large screen. */
const STAGE_WIDTHS: Readonly<Record<StageSize, string>> = {
  usual: "w-[clamp(360px,28vw,720px)]",
  large: "w-[clamp(480px,42vw,1080px)]",
};

const SIDES = [
  { value: "slides", label: "Slides", hint: "The selected slides, who leads, pace" },
  { value: "sound", label: "Sound", hint: "Voices, levels, room for speech, loudness" },
] as const;

/**
 * The whole song as rows of bars with every slide over it; beside it the stage and what can be
 * changed.
 */
export function ScoreScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const selectedCount = useAppSelector((state) => state.selection.ids.size);
  const rows = useScoreRows(plan);
  const [stage, setStage] = useState(keptStageSize);
  const [side, setSide] = useState<"slides" | "sound">("slides");
  if (!plan || !rows.layout) {
    return problem ? <NoFilm why={problem.message} /> : <p className="p-10 text-quiet">Fitting the slides …</p>;
  }
  const chooseStage = (next: StageSize): void => {
    keepStageSize(next);
    setStage(next);
  };
  return (
    <div className="flex h-full min-h-0">
      <h1 className="sr-only">Score</h1>
      <div className="flex min-w-0 flex-1 flex-col">
        <ScoreTools sizeName={rows.sizeName} onSize={rows.chooseSize} lanes={rows.lanes} onLanes={rows.showLanes} />
        <ScoreRows plan={plan} music={plan.music} layout={rows.layout} size={rows.size} measure={rows.measure} />
        <CloseUp plan={plan} music={plan.music} />
      </div>
      <aside className={`flex shrink-0 flex-col border-l border-line bg-raised ${STAGE_WIDTHS[stage]}`}>
        <ScoreStage plan={plan} />
        <div className="flex items-center justify-between border-t border-line px-3 py-2">
          <Choice label="What is changed" value={side} options={SIDES} onChange={setSide} />
          <StageSizeButton size={stage} onSize={chooseStage} />
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto">
          {side === "sound" ? (
            <SoundSide plan={plan} />
          ) : (
            <>
              <OpenLocksPanel plan={plan} />
              {selectedCount > 1 ? <SelectionPanel plan={plan} /> : <SlotPanel plan={plan} />}
              <LeadPanel plan={plan} />
              <RhythmChart plan={plan} />
              <PassagesPanel plan={plan} />
            </>
          )}
        </div>
      </aside>
    </div>
  );
}

/** Why there is no film, and where to go. */
function NoFilm({ why }: { why: string }): ReactNode {
  return (
    <EmptyState
      title="No film yet"
      action={
        <Link className="underline" to="../gather">
          To Gather
        </Link>
      }
    >
      {why}
    </EmptyState>
  );
}

interface ScoreToolsProps {
  sizeName: RowSizeName;
  onSize: (name: RowSizeName) => void;
  /** Whether lanes of sound are shown; null where there is nothing to show. */
  lanes: boolean | null;
  onLanes: (isShown: boolean) => void;
}

/** Height of the rows, fitting again, and what has moved. */
function ScoreTools({ sizeName, onSize, lanes, onLanes }: ScoreToolsProps): ReactNode {
  const [variants, setVariants] = useState(false);
  const letters = useLetters();
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-b border-line pr-4 pl-2">
      <div className="shrink-0 whitespace-nowrap">
        <Choice label="Height of the rows" value={sizeName} options={SIZES} onChange={onSize} />
      </div>
      <Button
        kind="quiet"
        className="shrink-0 whitespace-nowrap"
        title={`Fits the whole film again with its locks, or the selected slides without theirs (${letters.fitAgain.toUpperCase()})`}
        onClick={() => fitAgain()}
      >
        <Wand2 size={14} aria-hidden /> Fit again
      </Button>
      {lanes !== null && (
        <Button
          kind="quiet"
          className="shrink-0 whitespace-nowrap"
          aria-pressed={lanes}
          title="Voices, clips and the music's level under the rows"
          onClick={() => onLanes(!lanes)}
        >
          <AudioLines size={14} aria-hidden /> {lanes ? "Fold sound away" : "Show sound"}
        </Button>
      )}
      <Button
        kind="quiet"
        className="shrink-0 whitespace-nowrap"
        title="Keep the film as it is now, and compare it with others that were kept"
        onClick={() => setVariants(true)}
      >
        <Columns2 size={14} aria-hidden /> Variants
      </Button>
      {variants && <VariantsDialog onClose={() => setVariants(false)} />}
      <span className="flex-1" />
      <MovedLine />
      <DraftButton />
    </div>
  );
}

interface StageSizeProps {
  size: StageSize;
  onSize: (size: StageSize) => void;
}

/** Makes the stage larger, or as it usually is. */
function StageSizeButton({ size, onSize }: StageSizeProps): ReactNode {
  const isLarge = size === "large";
  return (
    <IconButton label={isLarge ? "Smaller stage" : "Larger stage"} onClick={() => onSize(isLarge ? "usual" : "large")}>
      {isLarge ? <Minimize2 size={15} /> : <Maximize2 size={15} />}
    </IconButton>
  );
}

/** The film at the playhead, and its transport. */
function ScoreStage({ plan }: { plan: FilmPlan }): ReactNode {
  return (
    <div data-film className="flex shrink-0 flex-col">
      <div className="aspect-video w-full shrink-0 [:fullscreen>&]:aspect-auto [:fullscreen>&]:min-h-0 [:fullscreen>&]:flex-1 [:fullscreen>&]:shrink">
        <Stage plan={plan} />
      </div>
      <Transport track={plan} />
    </div>
  );
}
