import type { GridEdit } from "@humming-tide/core/music";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { usePlayer } from "../../stage/player-context.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Fact, Panel } from "../../ui/Panel.tsx";
import { SongCurve } from "./SongCurve.tsx";

/** The song's waveform and grid, from the whole down to a few seconds, and the gestures that put the grid right. */
export function ListenScreen(): ReactNode {
  const song = useAppSelector((state) => state.show.document!.song);
  const { analysis, peaks, failure } = useAppSelector((state) => state.song);
  const plan = useAppSelector((state) => state.view.plan);
  if (!song || failure) {
    return (
      <EmptyState
        title={failure ? "The song cannot be read" : "No song yet"}
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {failure ?? "Bring one in on Gather; it is listened to at once."}
      </EmptyState>
    );
  }
  if (!analysis || !peaks) return <p className="p-10 text-quiet">Fetching what was heard …</p>;
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex min-h-0 flex-1 flex-col gap-5 px-5 py-4">
          <h1 className="truncate text-xl" title={song.fileName}>
            {song.fileName.replace(/\.\w+$/, "")}{" "}
            <span className="ml-2 font-sans text-[13px] text-quiet">{clockText(analysis.durationSeconds)}</span>
          </h1>
          {!analysis.steady && (
            <Notice kind="warning">No steady beat was found in this song. Pictures are spread evenly over it.</Notice>
          )}
          <SongCurve plan={plan} />
        </div>
        {plan ? (
          <Transport plan={plan} />
        ) : (
          <p className="border-t border-line px-5 py-3 text-[13px] text-quiet">
            It can be played once there is a picture to show with it.
          </p>
        )}
      </div>
      <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <GridFacts />
        <GridEdits disabled={!analysis.steady} />
      </aside>
    </div>
  );
}

function GridFacts(): ReactNode {
  const analysis = useAppSelector((state) => state.song.analysis)!;
  const grid = useAppSelector((state) => state.view.plan?.grid);
  const beats = grid?.beats ?? analysis.beats;
  const gaps = beats
    .slice(1)
    .map((beat, i) => beat.seconds - beats[i]!.seconds)
    .sort((a, b) => a - b);
  const median = gaps[Math.floor(gaps.length / 2)];
  const sure = beats.length === 0 ? 0 : beats.reduce((sum, beat) => sum + beat.confidence, 0) / beats.length;
  return (
    <Panel title="What was heard">
      <dl>
        <Fact label="Tempo">{median ? `${(60 / median).toFixed(1)} BPM` : "none"}</Fact>
        <Fact label="Meter">{analysis.meter ?? "unknown"}</Fact>
        <Fact label="Beats">{beats.length}</Fact>
        <Fact label="Bars">{beats.filter((beat) => beat.position === 1).length}</Fact>
        <Fact label="Sureness">{beats.length ? `${Math.round(sure * 100)} %` : "none"}</Fact>
        <Fact label="Music ends at">{analysis.musicEndSeconds.toFixed(1)} s</Fact>
      </dl>
    </Panel>
  );
}

const NUDGES = [-10, -1, 1, 10] as const;

/** Corrections, each one undo step. They are kept as edits, so a better analysis later does not lose them. */
function GridEdits({ disabled }: { disabled: boolean }): ReactNode {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const document = useAppSelector((state) => state.show.document)!;
  const [said, setSaid] = useState("");
  const edit = (gridEdit: GridEdit, text: string): void => {
    dispatch(showActions.edited({ ...document, gridEdits: combined(document.gridEdits, gridEdit) }));
    setSaid(text);
  };
  const nudged = document.gridEdits.reduce(
    (sum, gridEdit) => sum + (gridEdit.kind === "nudge" ? gridEdit.milliseconds : 0),
    0,
  );
  return (
    <Panel title="Put it right">
      <div className="flex flex-col gap-3">
        <div className="grid grid-cols-2 gap-2">
          <Button disabled={disabled} onClick={() => edit({ kind: "twice" }, "Twice as many beats.")}>
            Twice as fast
          </Button>
          <Button disabled={disabled} onClick={() => edit({ kind: "half" }, "Half as many beats.")}>
            Half as fast
          </Button>
        </div>
        <Button
          disabled={disabled}
          onClick={() =>
            edit(
              { kind: "oneHere", seconds: player.filmSeconds() },
              "Bars now start at the beat nearest to the playhead.",
            )
          }
        >
          The one is here, at the playhead
        </Button>
        <div>
          <div className="mb-1 flex justify-between text-[13px] text-quiet">
            <span>Nudge the grid</span>
            <span>{nudged === 0 ? "not moved" : `${nudged > 0 ? "+" : ""}${nudged} ms`}</span>
          </div>
          <div className="grid grid-cols-4 gap-2">
            {NUDGES.map((milliseconds) => (
              <Button
                key={milliseconds}
                disabled={disabled}
                aria-label={`Nudge the grid by ${milliseconds} milliseconds`}
                onClick={() => edit({ kind: "nudge", milliseconds }, `Moved by ${milliseconds} ms.`)}
              >
                {milliseconds > 0 ? `+${milliseconds}` : `−${-milliseconds}`}
              </Button>
            ))}
          </div>
        </div>
        <Button
          kind="quiet"
          disabled={document.gridEdits.length === 0}
          onClick={() => {
            dispatch(showActions.edited({ ...document, gridEdits: [] }));
            setSaid("Back to what was heard.");
          }}
        >
          Back to what was heard
        </Button>
        <p aria-live="polite" className="min-h-5 text-[13px] text-soft">
          {said}
        </p>
      </div>
    </Panel>
  );
}

/** Nudges in a row add up to one edit, and opposite ones vanish. */
function combined(edits: readonly GridEdit[], next: GridEdit): GridEdit[] {
  const last = edits.at(-1);
  if (next.kind !== "nudge" || last?.kind !== "nudge") return [...edits, next];
  const milliseconds = Math.max(-2000, Math.min(2000, last.milliseconds + next.milliseconds));
  return milliseconds === 0 ? edits.slice(0, -1) : [...edits.slice(0, -1), { kind: "nudge", milliseconds }];
}
