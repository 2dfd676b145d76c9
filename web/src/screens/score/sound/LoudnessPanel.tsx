import type { FilmPlan } from "@humming-tide/core/film";
import { decibelText } from "@humming-tide/core/language";
import { changeMix } from "@humming-tide/core/show";
import type { Master, SoundLevels } from "@humming-tide/core/sound";
import { Chart, type ChartConfiguration, LinearScale, LineController, LineElement, PointElement } from "chart.js";
import { type ReactNode, useEffect, useRef } from "react";
import { usePlayer } from "../../../stage/player-context.tsx";
import { useMaster } from "../../../stage/use-master.ts";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { Choice } from "../../../ui/Choice.tsx";
import { seekOnClick } from "../../../ui/chart-axis.ts";
import { NumberLine } from "../../../ui/NumberLine.tsx";
import { Panel } from "../../../ui/Panel.tsx";
import { ProgressBar } from "../../../ui/ProgressBar.tsx";
import { themeColour } from "../../../ui/theme.ts";
import { useThemeChange } from "../../../ui/use-theme-change.ts";

Chart.register(LineController, LineElement, PointElement, LinearScale);

const TARGETS = [
  { value: "-14", label: "−14", hint: "What video sites play at (common practice)" },
  { value: "-16", label: "−16", hint: "What podcasts and telephones play at (common practice)" },
  { value: "-23", label: "−23", hint: "Broadcast, EBU R 128" },
  { value: "own", label: "Own", hint: "Any other loudness" },
  { value: "none", label: "As mixed", hint: "No loudness target; only peaks are limited" },
] as const;
type Target = (typeof TARGETS)[number]["value"];
const SOFTEST_TARGET = -40;
const LOUDEST_TARGET = -8;

/** How loud the film is to be, how loud it was and is then, and what the limiter does. */
export function LoudnessPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const { targetLufs } = useOpenShow((show) => show.mix);
  const { master, measuring } = useMaster();
  const known = TARGETS.find(({ value }) => Number(value) === targetLufs);
  const chosen: Target = targetLufs === null ? "none" : (known?.value ?? "own");
  const choose = (target: Target): void => {
    const lufs = target === "none" ? null : target === "own" ? (targetLufs ?? -18) - (known ? 0.5 : 0) : Number(target);
    edit((show) => changeMix(show, { targetLufs: lufs }));
  };
  return (
    <Panel title="Loudness" aside={<span className="text-xs text-quiet">LUFS, ITU-R BS.1770</span>}>
      <Choice label="Loudness of the film" value={chosen} options={TARGETS} onChange={choose} />
      {chosen === "own" && (
        <div className="mt-2">
          <NumberLine
            label="Custom loudness, in LUFS"
            min={SOFTEST_TARGET}
            max={LOUDEST_TARGET}
            step={0.5}
            value={targetLufs}
            onChange={(lufs) => edit((show) => changeMix(show, { targetLufs: lufs }), "loudness")}
          />
        </div>
      )}
      {measuring !== null && (
        <div className="mt-2">
          <ProgressBar label="Measuring the mix" share={measuring} />
        </div>
      )}
      {master ? (
        <>
          <table className="mt-3 w-full text-[13px] tabular-nums" data-testid="loudness">
            <thead>
              <tr className="text-left text-xs text-quiet">
                <th className="font-normal" />
                <th className="text-right font-normal">Before</th>
                <th className="text-right font-normal">In the film</th>
              </tr>
            </thead>
            <tbody>
              <LevelRow name="Loudness" of={(levels) => lufsText(levels.integratedLufs)} master={master} />
              <LevelRow name="Loudest peak" of={(levels) => peakText(levels.truePeakDbtp)} master={master} />
              <LevelRow name="Loudness range" of={(levels) => `${levels.rangeLu.toFixed(1)} LU`} master={master} />
            </tbody>
          </table>
          <p className="mt-1.5 text-[13px] text-soft" data-testid="master-text">
            {masterText(master, targetLufs)}
          </p>
          <LoudnessChart master={master} targetLufs={targetLufs} filmSeconds={plan.sound.lengthSeconds} />
        </>
      ) : (
        measuring === null && <p className="mt-2 text-[13px] text-quiet">Measured when all sounds are ready.</p>
      )}
    </Panel>
  );
}

const lufsText = (lufs: number | null): string => (lufs === null ? "silent" : `${decibelText(lufs)} LUFS`);
const peakText = (dbtp: number | null): string => (dbtp === null ? "silent" : `${decibelText(dbtp)} dBTP`);

function LevelRow({
  name,
  of,
  master,
}: {
  name: string;
  of: (levels: SoundLevels) => string;
  master: Master;
}): ReactNode {
  return (
    <tr className="border-t border-line">
      <th className="py-1 text-left font-normal text-quiet">{name}</th>
      <td className="text-right text-soft">{of(master.before)}</td>
      <td className="text-right text-ink">{of(master.after)}</td>
    </tr>
  );
}

/** The limiter is heard to work when it takes away more than this (common practice). */
const HEARD_LIMITING_DECIBELS = 6;

function masterText(master: Master, targetLufs: number | null): string {
  const { gainDecibels, after, limiterDecibels } = master;
  const most = -limiterDecibels.reduce((lowest, level) => Math.min(lowest, level), 0);
  const gain =
    targetLufs === null
      ? ""
      : `All of it is made ${gainDecibels < 0 ? "softer" : "louder"} by ${Math.abs(gainDecibels).toFixed(1)} dB. `;
  const seconds = limiterDecibels.filter((level) => level < -0.1).length / 10;
  const limiter =
    most < 0.1
      ? "No peak has to be held."
      : `Peaks are held for ${seconds.toFixed(1)} s, by ${most.toFixed(1)} dB at most${most > HEARD_LIMITING_DECIBELS ? ": that is heard. Choose a lower loudness, or bring the loudest source down" : ""}.`;
  const missed =
    targetLufs !== null && after.integratedLufs !== null && Math.abs(after.integratedLufs - targetLufs) > 0.2
      ? ` ${decibelText(targetLufs)} LUFS cannot be reached with peaks held.`
      : "";
  return `${gain}${limiter}${missed}`;
}

/**
 * Short-term loudness over the film, the loudness that is wished, and what the limiter takes away.
 * A click goes there.
 */
function LoudnessChart({
  master,
  targetLufs,
  filmSeconds,
}: {
  master: Master;
  targetLufs: number | null;
  filmSeconds: number;
}): ReactNode {
  const player = usePlayer();
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useThemeChange();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the chart has the theme's colours in it
  useEffect(() => {
    if (!canvas.current) return;
    const chart = new Chart(
      canvas.current,
      loudnessChart(master, targetLufs, filmSeconds, (seconds) => player.seek(seconds)),
    );
    return () => chart.destroy();
  }, [master, targetLufs, filmSeconds, player, theme]);
  return (
    <figure className="mt-2">
      <div className="h-28">
        <canvas ref={canvas} role="img" aria-label="Loudness over the film, and what the limiter takes away" />
      </div>
      <figcaption className="mt-1 text-xs text-quiet">
        Below, the loudness of each three seconds; above, what the limiter takes away. A click goes there.
      </figcaption>
    </figure>
  );
}

/** The chart of a loudness over the film, in the colours of the theme. */
function loudnessChart(
  master: Master,
  targetLufs: number | null,
  filmSeconds: number,
  seek: (seconds: number) => void,
): ChartConfiguration<"line", { x: number; y: number }[]> {
  const loudness = points(master.after.shortTermLufs, SHORT_TERM_SECONDS, 5);
  const limiter = points(master.limiterDecibels, STEP_SECONDS, 2);
  return {
    type: "line",
    data: {
      datasets: [
        { data: loudness, borderColor: themeColour("foam"), borderWidth: 1.6, pointRadius: 0, yAxisID: "y" },
        {
          data: targetLufs === null ? [] : [0, filmSeconds].map((x) => ({ x, y: targetLufs })),
          borderColor: themeColour("ink-quiet"),
          borderDash: [3, 3],
          borderWidth: 1,
          pointRadius: 0,
          yAxisID: "y",
        },
        { data: limiter, borderColor: themeColour("ink-soft"), borderWidth: 1, pointRadius: 0, yAxisID: "limiter" },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      events: ["click"],
      onClick: seekOnClick(seek),
      scales: {
        x: { type: "linear", min: 0, max: filmSeconds, display: false },
        limiter: { min: -48, max: 0, display: false },
        y: {
          min: -48,
          max: 0,
          ticks: {
            color: themeColour("ink-quiet"),
            font: { size: 11 },
            stepSize: 12,
            showLabelBackdrop: true,
            backdropColor: themeColour("ground-raised"),
            backdropPadding: 2,
            mirror: true,
            z: 1,
            callback: (value) => (value === 0 ? "" : `${value} LUFS`.replace("-", "−")),
          },
          grid: { color: themeColour("line"), drawTicks: false },
          border: { display: false },
        },
      },
    },
  };
}

const STEP_SECONDS = 0.1;
const SHORT_TERM_SECONDS = 3;
const SOFTEST_DRAWN = -60;

/** Every so manyth value, the lowest of each run for the limiter's sake. */
function points(values: readonly number[], firstSeconds: number, every: number): { x: number; y: number }[] {
  const drawn: { x: number; y: number }[] = [];
  for (let i = 0; i < values.length; i += every) {
    const run = values.slice(i, i + every);
    drawn.push({ x: firstSeconds + i * STEP_SECONDS, y: Math.max(SOFTEST_DRAWN, Math.min(...run)) });
  }
  return drawn;
}
