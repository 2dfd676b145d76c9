import { type GridEdit, isAnswered, likelyCorrection } from "@humming-tide/core/grid";
import type { Doubt, LevelDoubt } from "@humming-tide/core/music";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useCallback, useEffect } from "react";
import { Link } from "react-router";
import { isForControl } from "../../keys/keys.ts";
import { letterOf } from "../../keys/letters.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { store, useAppDispatch } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Term } from "../../terms/Term.tsx";
import { Button } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";

const REASONS: Readonly<Record<Doubt["reason"], string>> = {
  faint: "beats hardly heard",
  tempo: "the pulse jumps",
  level: "faster or slower than the rest",
  bar: "the bar's count changes",
  free: "no pulse found",
};

const LEVELS: Readonly<Record<LevelDoubt, string>> = {
  twice: "Maybe felt twice as fast",
  half: "Maybe felt half as fast",
  third: "Maybe felt a third as fast",
};

/** How long before a doubt playing starts, so that the ear has the pulse. */
const RUN_UP_SECONDS = 2;
const RUN_OUT_SECONDS = 1;
/** Loud enough to be compared with the drums, soft enough to hear them. */
const DOUBT_CLICK_GAIN = 0.5;

/** Ways to a doubt: to one that is pressed, and to the next one, also by D. */
function useDoubtVisits(doubts: readonly Doubt[]) {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const visit = useCallback(
    (doubt: Doubt) => {
      const loop = {
        startSeconds: Math.max(0, doubt.startSeconds - RUN_UP_SECONDS),
        endSeconds: Math.min(
          player.lengthSeconds,
          Math.max(doubt.endSeconds, doubt.startSeconds + 2) + RUN_OUT_SECONDS,
        ),
      };
      const { clickGain } = store.getState().view.listening;
      dispatch(viewActions.listeningChanged({ loop, clickGain: clickGain || DOUBT_CLICK_GAIN }));
      player.seek(loop.startSeconds);
      if (player.state === "ready") player.toggle();
    },
    [player, dispatch],
  );
  const next = useCallback(() => {
    const { loop } = store.getState().view.listening;
    // Inside a loop the next one is behind it, wherever in its round it is.
    const after = loop ? loop.startSeconds + RUN_UP_SECONDS + 0.05 : player.filmSeconds();
    const doubt = doubts.find(({ startSeconds }) => startSeconds > after) ?? doubts[0];
    if (doubt) visit(doubt);
  }, [doubts, player, visit]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (letterOf(event) !== "doubt" || isForControl(event)) return;
      event.preventDefault();
      next();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [next]);
  return { visit, next };
}

/** The stretches where the grid wants an ear, to be visited one by one with D. */
export function Doubts(): ReactNode {
  const { analysis, song } = useListenSong();
  const { doubts, levelDoubt } = analysis;
  const open = doubts.filter((doubt) => !isAnswered(doubt, song.gridEdits));
  const { visit, next } = useDoubtVisits(open.length > 0 ? open : doubts);
  return (
    <Panel
      title="Check these by ear"
      aside={<span className="text-[13px] text-quiet">{openText(open.length, doubts.length)}</span>}
    >
      {levelDoubt && <Level doubt={levelDoubt} />}
      {doubts.length === 0 ? (
        <p className="text-[13px] text-soft">
          No stretch is in <Term name="doubt">doubt</Term>. Next: see the pictures on the{" "}
          <Link className="text-ink underline" to="../score">
            Score
          </Link>
          .
        </p>
      ) : (
        <>
          <DoubtList doubts={doubts} onVisit={visit} />
          <Button className="w-full" onClick={next}>
            Hear the next one, in a loop <kbd className="ml-1 text-quiet">D</kbd>
          </Button>
        </>
      )}
    </Panel>
  );
}

/** "3", "2 of 3 left", "all answered", "nothing". */
function openText(open: number, all: number): string {
  if (all === 0) return "nothing";
  if (open === 0) return "all answered";
  return open === all ? `${all}` : `${open} of ${all} left`;
}

interface DoubtListProps {
  doubts: readonly Doubt[];
  onVisit: (doubt: Doubt) => void;
}

/** The stretches in doubt, each with its reason, and with what puts it right where it is known. */
function DoubtList({ doubts, onVisit }: DoubtListProps): ReactNode {
  const { song, grid, correct } = useListenSong();
  return (
    <ul aria-label="Doubtful stretches" className="-mx-2 mb-2 max-h-[196px] overflow-y-auto">
      {doubts.map((doubt) => {
        const answered = isAnswered(doubt, song.gridEdits);
        const correction = answered ? null : likelyCorrection(grid, doubt);
        return (
          <li key={doubt.startSeconds} className="pb-1">
            <button
              type="button"
              className="flex w-full justify-between gap-3 rounded px-2 py-1 text-left text-[13px] hover:bg-high"
              onClick={() => onVisit(doubt)}
            >
              <span className="tabular-nums text-soft">{stretchText(doubt)}</span>
              <span className={answered ? "text-quiet" : "text-ink"}>
                {answered ? "corrected" : REASONS[doubt.reason]}
              </span>
            </button>
            {correction && (
              <div className="flex justify-end px-2">
                <Button
                  aria-label={`${correctionText(correction)}, ${stretchText(doubt)}`}
                  onClick={() => correct(correction)}
                >
                  {correctionText(correction)}
                </Button>
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}

const stretchText = ({ startSeconds, endSeconds }: Doubt): string =>
  `${clockText(startSeconds)} to ${clockText(endSeconds)}`;

const LEVEL_TEXTS = {
  twice: "Twice as fast here",
  half: "Half as fast here",
  triple: "Three times as fast here",
  third: "A third as fast here",
} as const;

function correctionText(edit: GridEdit): string {
  if (edit.kind === "stretchLevel") return LEVEL_TEXTS[edit.level];
  if (edit.kind === "meter") return `Bars of ${edit.beatsPerBar} here`;
  return edit.kind === "fixedTempo" && edit.bpm !== null
    ? `Beats at ${edit.bpm.toFixed(0)} BPM here`
    : "Even beats here";
}

/**
 * The beat of the whole song at another level: offered as long as the person has not chosen one.
 */
function Level({ doubt }: { doubt: LevelDoubt }): ReactNode {
  const { song, correct } = useListenSong();
  const isChosen = song.gridEdits.some(({ kind }) => LEVEL_EDITS.has(kind));
  if (isChosen) return null;
  return (
    <div className="mb-2 flex items-center justify-between gap-3 text-[13px] text-soft">
      <span>{LEVELS[doubt]}.</span>
      <Button onClick={() => correct({ kind: doubt })}>Take that</Button>
    </div>
  );
}

const LEVEL_EDITS: ReadonlySet<string> = new Set(["twice", "half", "triple", "third"]);
