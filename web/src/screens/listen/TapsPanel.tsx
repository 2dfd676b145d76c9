import { averagedPasses, drawnTo, pulseOfTaps } from "@humming-tide/core/grid";
import { counted } from "@humming-tide/core/language";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { withMarkers } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { Trash2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { LineField } from "../../ui/Field.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { CalibrationDialog, lagText } from "./CalibrationDialog.tsx";
import { useListenSong } from "./listen-song.tsx";
import { storedTapLag } from "./tap-lag.ts";
import type { useTapPasses } from "./use-tap-passes.ts";

const DRAWS = [
  { value: "left", label: "as tapped" },
  { value: "onsets", label: "to onsets" },
  { value: "grid", label: "to the grid" },
] as const;
type Draw = (typeof DRAWS)[number]["value"];

/**
 * Farther than this from a tap, an onset was not what was meant: about two spreads of a person,
 * common practice.
 */
const DEFAULT_TOLERANCE_MS = 50;

/** Passes that were tapped along, and what becomes of them. */
export function TapsPanel({ taps }: { taps: ReturnType<typeof useTapPasses> }): ReactNode {
  const { song, analysis, grid, correct, change } = useListenSong();
  const { passes, forget, forgetAll } = taps;
  const [draw, setDraw] = useState<Draw>("left");
  const [tolerance, setTolerance] = useState(DEFAULT_TOLERANCE_MS);
  const [said, setSaid] = useState("");
  const drawn = (taps: readonly number[]): number[] => {
    const targets = draw === "onsets" ? analysis.onsets : grid.beats.map((beat) => beat.seconds);
    const times = draw === "left" ? taps : drawnTo(taps, targets, tolerance / 1000);
    return times.filter((seconds) => seconds >= 0);
  };
  const makeGrid = (): void => {
    const seconds = drawn(pulseOfTaps(averagedPasses(passes)));
    correct({ kind: "tapped", seconds });
    forgetAll();
    setSaid(`${seconds.length} tapped beats are the grid from ${clockText(itemAt(seconds, 0))} on.`);
  };
  const makeMarkers = (): void => {
    // What was tapped need not be a pulse: every tap is a place of its own.
    const added = drawn(averagedPasses(passes)).map(
      (seconds) => ({ seconds, name: "", kind: "cut", origin: "tapped" }) as const,
    );
    try {
      const markers = withMarkers(song.markers, added);
      change(() => ({ markers }));
      forgetAll();
      setSaid(`${markers.length - song.markers.length} taps are markers.`);
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  const count = passes.reduce((sum, pass) => sum + pass.length, 0);
  return (
    <>
      <LagPanel />
      <Panel title="Tapped" aside={<span className="text-[13px] text-quiet">{count || "nothing"}</span>}>
        <p className="mb-2 text-[13px] text-soft">
          Play, and tap <kbd>T</kbd> on every beat. The same stretch several times is averaged.
        </p>
        <PassList passes={passes} onForget={forget} />
        <h3 className="mb-1 font-sans text-[13px] text-quiet">Snap taps</h3>
        <Choice label="Snap taps" value={draw} options={DRAWS} onChange={setDraw} />
        {draw !== "left" && <SnapRange milliseconds={tolerance} onChange={setTolerance} />}
        <Button kind="primary" className="mt-3 w-full" disabled={count < 2} onClick={makeGrid}>
          Use as the grid
        </Button>
        <Button className="mt-2 w-full" disabled={count === 0} onClick={makeMarkers}>
          Add as markers
        </Button>
        <p aria-live="polite" className="mt-2 min-h-5 text-[13px] text-soft">
          {said}
        </p>
      </Panel>
    </>
  );
}

interface SnapRangeProps {
  milliseconds: number;
  onChange: (value: number) => void;
}

/** How far a tap may be from what it snaps to. */
function SnapRange({ milliseconds, onChange }: SnapRangeProps): ReactNode {
  return (
    <div className="mt-2">
      <LineField
        label="Snap range, in ms"
        type="number"
        min={5}
        max={200}
        step={5}
        value={milliseconds}
        onChange={(event) => {
          if (event.target.valueAsNumber > 0) onChange(Math.min(200, event.target.valueAsNumber));
        }}
      />
    </div>
  );
}

/** How late a person taps, measured with clicks. */
function LagPanel(): ReactNode {
  const [lag, setLag] = useState(storedTapLag);
  const [isCalibrating, setCalibrating] = useState(false);
  return (
    <Panel title="Your lag">
      <p className="mb-2 text-[13px] text-soft">
        {lag ? `You tap ${lagText(lag)}. It is taken off every tap.` : "Not measured yet: taps are taken as they come."}
      </p>
      <Button className="w-full" onClick={() => setCalibrating(true)}>
        {lag ? "Measure again …" : "Measure it with a click …"}
      </Button>
      {isCalibrating && (
        <CalibrationDialog
          onClose={(measured) => {
            setCalibrating(false);
            if (measured) setLag(measured);
          }}
        />
      )}
    </Panel>
  );
}

interface PassListProps {
  /** Seconds of the song at which was tapped, a list a pass. */
  readonly passes: readonly (readonly number[])[];
  readonly onForget: (index: number) => void;
}

function PassList({ passes, onForget }: PassListProps): ReactNode {
  return (
    <ul aria-label="Passes" className="mb-2">
      {passes.map((pass, index) => (
        <li key={pass[0]} className="flex items-center justify-between text-[13px] text-ink">
          <span>
            {clockText(itemAt(pass, 0))} to {clockText(lastOf(pass))}
          </span>
          <span className="flex items-center gap-1 text-quiet">
            {counted(pass.length, "tap")}
            <IconButton label={`Forget pass ${index + 1}`} onClick={() => onForget(index)}>
              <Trash2 size={14} />
            </IconButton>
          </span>
        </li>
      ))}
    </ul>
  );
}
