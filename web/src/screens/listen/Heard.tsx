import type { Ending } from "@humming-tide/core/music";
import { median } from "@humming-tide/core/numeric";
import { itemAt } from "@humming-tide/core/presence";
import { clockText } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { Fact, Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";

const ENDINGS: Readonly<Record<Ending["kind"], string>> = {
  chord: "last chord at",
  fade: "fades out from",
  cut: "breaks off at",
  none: "",
};

/** What the analysis found, after the person's corrections of the grid. */
export function Heard(): ReactNode {
  const { analysis, grid } = useListenSong();
  const { beats } = grid;
  const gap = median(beats.slice(1).map((beat, i) => beat.seconds - itemAt(beats, i).seconds));
  const sure = beats.length === 0 ? 0 : beats.reduce((sum, beat) => sum + beat.confidence, 0) / beats.length;
  const { ending, phraseBars } = analysis;
  return (
    <Panel title="Analysis">
      <dl>
        <Fact label="Tempo">{beats.length > 1 ? `${(60 / gap).toFixed(1)} BPM` : "none"}</Fact>
        <Fact label="Meter">{analysis.meter ?? "unknown"}</Fact>
        <Fact label="Beats">{beats.length}</Fact>
        <Fact label="Bars">{beats.filter((beat) => beat.position === 1).length}</Fact>
        {phraseBars !== null && <Fact label="Phrases of">{phraseBars} bars</Fact>}
        <Fact label="Confidence">{beats.length ? `${Math.round(sure * 100)} %` : "none"}</Fact>
        <Fact label="Ends">
          {ending.kind === "none" ? "silent" : `${ENDINGS[ending.kind]} ${clockText(ending.fromSeconds)}`}
        </Fact>
      </dl>
    </Panel>
  );
}
