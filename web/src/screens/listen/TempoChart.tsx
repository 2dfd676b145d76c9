import type { MusicAnalysis } from "@humming-tide/core/music";
import { present } from "@humming-tide/core/presence";
import {
  Chart,
  type ChartConfiguration,
  LinearScale,
  LineController,
  LineElement,
  type Plugin,
  PointElement,
} from "chart.js";
import { type ReactNode, useEffect, useMemo, useRef } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { quietAxis, seekOnClick } from "../../ui/chart-axis.ts";
import { themeColour } from "../../ui/theme.ts";
import { useThemeChange } from "../../ui/use-theme-change.ts";
import { useListenSong } from "./listen-song.tsx";
import { tempoPoints } from "./tempo-points.ts";

Chart.register(LineController, LineElement, PointElement, LinearScale);

/** Room for the numbers of the axis. */
const MARGIN_BPM = 4;

/**
 * Tempo over the song, with the doubtful stretches as bands in the tone of warnings. A click goes
 * there.
 */
export function TempoChart(): ReactNode {
  const { analysis, grid } = useListenSong();
  const player = usePlayer();
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useThemeChange();
  const points = useMemo(() => tempoPoints(grid.beats, grid.freeTime), [grid]);
  useEffect(() => {
    if (!canvas.current) return;
    const chart = new Chart(
      canvas.current,
      tempoChart(points, analysis, (seconds) => player.seek(seconds)),
    );
    return () => chart.destroy();
  }, [points, analysis, player, theme]);
  const tempi = points.flatMap(({ bpm }) => bpm ?? []);
  const said =
    tempi.length > 0 ? `from ${Math.min(...tempi).toFixed(1)} to ${Math.max(...tempi).toFixed(1)} BPM` : "none";
  return (
    <section aria-label="Tempo over time" className="shrink-0">
      <div className="mb-1 flex items-baseline justify-between text-[13px]">
        <h2 className="text-[15px]">Tempo</h2>
        <span className="text-quiet">{said}</span>
      </div>
      <div className="h-[72px] overflow-hidden rounded-md bg-raised">
        <canvas ref={canvas} role="img" aria-label={`Tempo over time, ${said}`} data-testid="tempo-chart" />
      </div>
    </section>
  );
}

/** Bands in the tone of warnings where the beat is in doubt. */
const doubtBands = (doubts: MusicAnalysis["doubts"]): Plugin<"line"> => ({
  id: "doubts",
  beforeDatasetsDraw({ ctx, chartArea, scales }) {
    ctx.save();
    ctx.fillStyle = themeColour("warning");
    ctx.globalAlpha = 0.28;
    for (const { startSeconds, endSeconds } of doubts) {
      const left = present(scales["x"]).getPixelForValue(startSeconds);
      const right = Math.max(left + 2, present(scales["x"]).getPixelForValue(endSeconds));
      ctx.fillRect(left, chartArea.top, right - left, chartArea.height);
    }
    ctx.restore();
  },
});

/** The tempo as a line; none where the music keeps no beat. */
function tempoChart(
  points: ReturnType<typeof tempoPoints>,
  analysis: MusicAnalysis,
  seek: (seconds: number) => void,
): ChartConfiguration<"line", { x: number; y: number | null }[]> {
  const tempi = points.flatMap(({ bpm }) => bpm ?? []);
  return {
    type: "line",
    data: {
      datasets: [
        {
          data: points.map(({ seconds, bpm }) => ({ x: seconds, y: bpm })),
          borderColor: themeColour("foam"),
          borderWidth: 1.5,
          pointRadius: 0,
          spanGaps: false,
        },
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      layout: { padding: 0 },
      onClick: seekOnClick(seek),
      scales: {
        x: { type: "linear", min: 0, max: analysis.durationSeconds, display: false },
        y: {
          // A steady song is a straight line: the scale never shows less than a few beats a minute.
          suggestedMin: Math.min(...tempi) - MARGIN_BPM,
          suggestedMax: Math.max(...tempi) + MARGIN_BPM,
          ...quietAxis(),
        },
      },
    },
    plugins: [doubtBands(analysis.doubts)],
  };
}
