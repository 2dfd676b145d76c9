import { type GridEdit, indexOfNearestBeat } from "@humming-tide/core/grid";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useState } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";

const NUDGES = [-10, -1, 1, 10] as const;
const BAR_LENGTHS = ["2", "3", "4", "5", "6", "7"].map((value) => ({ value, label: value }));

/** Makes one correction, and says in a sentence what it did. */
type Edit = (gridEdit: GridEdit, text: string) => void;

interface EditProps {
  readonly disabled: boolean;
  readonly edit: Edit;
}

/**
 * Corrections, each one undo step. They are kept as edits, so a better analysis later does not lose
 * them.
 */
export function Corrections({ disabled }: { disabled: boolean }): ReactNode {
  const { song, change, correct } = useListenSong();
  const [said, setSaid] = useState("");
  const edit: Edit = (gridEdit, text) => {
    correct(gridEdit);
    setSaid(text);
  };
  return (
    <Panel title="Correct the beats">
      <div className="flex flex-col gap-3">
        <TempoFactors disabled={disabled} edit={edit} />
        <BarLength edit={edit} />
        <AtPlayhead disabled={disabled} edit={edit} />
        <Stretch edit={edit} />
        <Nudges disabled={disabled} edit={edit} />
        <Button
          kind="quiet"
          disabled={song.gridEdits.length === 0}
          onClick={() => {
            change(() => ({ gridEdits: [] }));
            setSaid("Reset to the analysis.");
          }}
        >
          Reset to the analysis
        </Button>
        <p aria-live="polite" className="min-h-5 text-[13px] text-soft">
          {said}
        </p>
      </div>
    </Panel>
  );
}

const FACTORS = [
  { kind: "twice", label: "Twice", name: "Twice as fast", said: "Twice as many beats." },
  { kind: "half", label: "Half", name: "Half as fast", said: "Half as many beats." },
  { kind: "triple", label: "Triple", name: "Triple: three times as fast", said: "Three beats for each." },
  { kind: "third", label: "Third", name: "A third as fast", said: "One beat of three." },
] as const;

function TempoFactors({ disabled, edit }: EditProps): ReactNode {
  return (
    <div className="grid grid-cols-4 gap-2">
      {FACTORS.map(({ kind, label, name, said }) => (
        <Button key={kind} disabled={disabled} aria-label={name} onClick={() => edit({ kind }, said)}>
          {label}
        </Button>
      ))}
    </div>
  );
}

function BarLength({ edit }: Pick<EditProps, "edit">): ReactNode {
  const player = usePlayer();
  const { grid } = useListenSong();
  return (
    <div>
      <h3 className="mb-1 font-sans text-[13px] text-quiet">Beats in a bar, from the playhead's bar on</h3>
      <Choice
        label="Beats in a bar"
        value={String(grid.beatsPerBar)}
        options={BAR_LENGTHS}
        onChange={(value) =>
          edit(
            { kind: "meter", beatsPerBar: Number(value), seconds: player.filmSeconds() },
            `Bars of ${value} from here on.`,
          )
        }
      />
    </div>
  );
}

function AtPlayhead({ disabled, edit }: EditProps): ReactNode {
  const player = usePlayer();
  const { grid } = useListenSong();
  const editHere = (kind: "oneHere" | "addBeat" | "deleteBeat", text: string): void =>
    edit({ kind, seconds: player.filmSeconds() }, text);
  const bringBeat = (): void => {
    const toSeconds = player.filmSeconds();
    const beat = grid.beats[indexOfNearestBeat(grid.beats, toSeconds)];
    if (beat) edit({ kind: "drag", seconds: beat.seconds, toSeconds }, "The nearest beat is at the playhead.");
  };
  return (
    <div className="flex flex-col gap-2">
      <h3 className="font-sans text-[13px] text-quiet">At the playhead</h3>
      <Button
        disabled={disabled}
        onClick={() => editHere("oneHere", "Bars now start at the beat nearest to the playhead.")}
      >
        The bar starts here, at the playhead
      </Button>
      <Button disabled={disabled} title="Its neighbours follow, as when it is dragged on the curve" onClick={bringBeat}>
        Move the nearest beat here
      </Button>
      <div className="grid grid-cols-2 gap-2">
        <Button onClick={() => editHere("addBeat", "A beat at the playhead, if none was there.")}>Add a beat</Button>
        <Button disabled={disabled} onClick={() => editHere("deleteBeat", "The beat nearest to the playhead is gone.")}>
          Remove a beat
        </Button>
      </div>
    </div>
  );
}

function Nudges({ disabled, edit }: EditProps): ReactNode {
  const { song } = useListenSong();
  const nudged = song.gridEdits.reduce(
    (sum, gridEdit) => sum + (gridEdit.kind === "nudge" ? gridEdit.milliseconds : 0),
    0,
  );
  return (
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
  );
}

/** A stretch from one place of the playhead to another, to be evened out or freed of beats. */
const lowerFirst = (text: string): string => `${text.slice(0, 1).toLowerCase()}${text.slice(1)}`;

function Stretch({ edit }: Pick<EditProps, "edit">): ReactNode {
  const player = usePlayer();
  const [from, setFrom] = useState<number | null>(null);
  const [to, setTo] = useState<number | null>(null);
  const [bpm, setBpm] = useState("");
  const isWhole = from !== null && to !== null && to > from;
  const stretch = { startSeconds: from ?? 0, endSeconds: to ?? 0 };
  return (
    <div className="flex flex-col gap-2">
      <div className="flex justify-between text-[13px] text-quiet">
        <h3 className="font-sans">A stretch</h3>
        <span className="tabular-nums">
          {from === null ? "from ?" : clockText(from)} to {to === null ? "?" : clockText(to)}
        </span>
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Button onClick={() => setFrom(player.filmSeconds())}>From here</Button>
        <Button onClick={() => setTo(player.filmSeconds())}>To here</Button>
        {FACTORS.slice(0, 2).map(({ kind, label, name, said }) => (
          <Button
            key={kind}
            disabled={!isWhole}
            aria-label={`${name} in this stretch`}
            onClick={() =>
              edit({ kind: "stretchLevel", level: kind, ...stretch }, `In this stretch: ${lowerFirst(said)}`)
            }
          >
            {label}
          </Button>
        ))}
        <Button
          disabled={!isWhole}
          onClick={() => edit({ kind: "fixedTempo", ...stretch, bpm: null }, "The beats of the stretch are even now.")}
        >
          Even out the tempo
        </Button>
        <Button
          disabled={!isWhole}
          onClick={() => edit({ kind: "freeTime", ...stretch }, "No beats in this stretch: free time.")}
        >
          Free time
        </Button>
        <input
          type="number"
          min={20}
          max={400}
          step={0.1}
          value={bpm}
          aria-label="Tempo of the stretch in beats a minute"
          placeholder="BPM"
          className="rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-right text-[13px] text-ink"
          onChange={(event) => setBpm(event.target.value)}
        />
        <Button
          disabled={!isWhole || !(Number(bpm) >= 20 && Number(bpm) <= 400)}
          onClick={() => edit({ kind: "fixedTempo", ...stretch, bpm: Number(bpm) }, `${bpm} BPM in this stretch.`)}
        >
          This tempo
        </Button>
      </div>
      {from !== null && to !== null && to <= from && (
        <p className="text-[13px] text-soft">A stretch ends after it begins: move the playhead and choose again.</p>
      )}
    </div>
  );
}
