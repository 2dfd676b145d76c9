import type { FilmPlan } from "@humming-tide/core/film";
import { frameStart } from "@humming-tide/core/time";
import {
  Chart,
  type ChartConfiguration,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
} from "chart.js";
import { type ReactNode, useDeferredValue, useEffect, useRef, useState } from "react";
import { usePlayer } from "../../../stage/player-context.tsx";
import { useAppSelector } from "../../../store/store.ts";
import { quietAxis, seekOnClick } from "../../../ui/chart-axis.ts";
import { Panel } from "../../../ui/Panel.tsx";
import { themeColour } from "../../../ui/theme.ts";
import { useThemeChange } from "../../../ui/use-theme-change.ts";
import { rhythmSteps, shortestAndLongest } from "./rhythm-steps.ts";

Chart.register(LineController, LineElement, PointElement, LinearScale, Filler);

/**
 * How long each slide stands, over the film, against how loud the music is there: pace at a glance.
 * A click goes there.
 */
export function RhythmChart({ plan: newest }: { plan: FilmPlan }): ReactNode {
  const player = usePlayer();
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useThemeChange();
  const plan = useDeferredValue(useSettled(newest));
  useEffect(() => {
    if (!canvas.current) return;
    const chart = new Chart(
      canvas.current,
      rhythmChart(plan, (seconds) => player.seek(seconds)),
    );
    return () => chart.destroy();
  }, [plan, player, theme]);
  const { shortest, longest } = shortestAndLongest(plan);
  const said = `from ${shortest.toFixed(1)} to ${longest.toFixed(1)} s`;
  return (
    <Panel title="Rhythm" aside={<span className="text-[13px] text-quiet">{said}</span>}>
      <div className="h-[92px] overflow-hidden rounded-md bg-ground">
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Length of the slides over the film, ${said}, against the music's loudness`}
          data-testid="rhythm-chart"
        />
      </div>
      <p className="mt-1.5 flex justify-between text-xs text-quiet">
        <span>
          <span className="text-lantern">line</span>: seconds a slide stands
        </span>
        <span>
          <span className="text-foam">ground</span>: loudness
        </span>
      </p>
    </Panel>
  );
}

/** Two lines over the film: how long slides stand, and how loud the music is. */
function rhythmChart(
  plan: FilmPlan,
  seek: (seconds: number) => void,
): ChartConfiguration<"line", { x: number; y: number }[]> {
  return {
    type: "line",
    data: {
      datasets: [
        {
          data: rhythmSteps(plan),
          borderColor: themeColour("lantern"),
          borderWidth: 1.6,
          pointRadius: 0,
          yAxisID: "y",
        },
        {
          data: plan.loudness.values.map((loudness, i) => ({ x: i * plan.loudness.stepSeconds, y: loudness })),
          borderWidth: 0,
          backgroundColor: `${themeColour("foam")}38`,
          fill: "start",
          pointRadius: 0,
          yAxisID: "loudness",
        },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      layout: { padding: 0 },
      onClick: seekOnClick(seek),
      scales: {
        x: { type: "linear", min: 0, max: frameStart(plan.totalFrames, plan.rate), display: false },
        loudness: { min: -1.1, max: 1.6, display: false },
        y: {
          min: 0,
          suggestedMax: shortestAndLongest(plan).longest * 1.15,
          ...quietAxis(),
        },
      },
    },
  };
}

/** The plan as it was before a drag, while one goes on: the rows come first. */
function useSettled(newest: FilmPlan): FilmPlan {
  const isDragging = useAppSelector((state) => state.show.draft !== null);
  const [settled, setSettled] = useState(newest);
  if (!isDragging && settled !== newest) setSettled(newest);
  return isDragging ? settled : newest;
}
