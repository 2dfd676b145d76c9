import { type CheckRun, isUnderWay } from "@humming-tide/contract";
import { decibelText } from "@humming-tide/core/language";
import { present } from "@humming-tide/core/presence";
import { timeLeftText } from "@humming-tide/core/time";
import { ScanSearch } from "lucide-react";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { useShowId } from "../../../store/open-show.ts";
import { saveNow } from "../../../store/saving.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { Fact, Panel } from "../../../ui/Panel.tsx";
import { ProgressBar } from "../../../ui/ProgressBar.tsx";

/**
 * The thorough check: files, every frame, the whole sound. It takes a while, so it is asked for.
 */
export function CheckRunPanel(): ReactNode {
  const run = useAppSelector((state) => state.check.run);
  const showId = useShowId();
  const revision = useAppSelector((state) => state.show.revision);
  const isSaved = useAppSelector((state) => state.show.saveState.kind === "saved");
  const [failure, setFailure] = useState<string | null>(null);
  const start = async (): Promise<void> => {
    setFailure(null);
    try {
      await saveNow();
      await api.startCheck(showId);
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  const isRunning = run !== null && isUnderWay(run);
  const isOld = run !== null && (run.revision !== revision || !isSaved);
  return (
    <>
      <Panel title="Every frame, the whole sound">
        <p className="text-[13px] text-soft">
          Flashes, bars in pictures, loudness and peaks, and whether every file is still as it came in, are seen only
          when the film is drawn and heard.
        </p>
        {isRunning ? (
          <div className="mt-3">
            <ProgressBar label="Check of every frame" share={run.progress} />
            <p className="mt-1 text-[13px] text-soft">
              {run.step}, {Math.floor(100 * run.progress)} %
              {run.secondsLeft === null ? "" : `, ${timeLeftText(run.secondsLeft)} left`}
            </p>
            <Button className="mt-2 w-full" onClick={() => void api.cancelCheck(showId)}>
              Stop
            </Button>
          </div>
        ) : (
          <Button kind="primary" className="mt-3 w-full" onClick={() => void start()}>
            <ScanSearch size={15} aria-hidden /> {run?.facts ? "Look again" : "Look through the film"}
          </Button>
        )}
        {(failure ?? run?.error) && (
          <div className="mt-2">
            <Notice kind="error">{failure ?? run?.error}</Notice>
          </div>
        )}
        {run?.state === "cancelled" && <p className="mt-2 text-[13px] text-quiet">Stopped before the end.</p>}
      </Panel>
      {run?.facts && !isRunning && <MeasuredPanel facts={run.facts} isOld={isOld} />}
    </>
  );
}

interface MeasuredPanelProps {
  facts: NonNullable<CheckRun["facts"]>;
  /** The show was changed since. */
  isOld: boolean;
}

/** What the last run measured. */
function MeasuredPanel({ facts, isOld }: MeasuredPanelProps): ReactNode {
  const { landings, levels } = facts;
  return (
    <Panel title="What was measured">
      <dl data-testid="check-facts">
        <Fact label="Files as they came in">{facts.files}</Fact>
        <Fact label="Frames looked at">{facts.frames.toLocaleString("en")}</Fact>
        {landings && (
          <>
            <Fact label="Landings">{landings.count}</Fact>
            <Fact label="Furthest from its beat">
              {landings.largestErrorMs === null
                ? "none"
                : `${landings.largestErrorMs.toFixed(1)} ms, ${present(landings.largestErrorFrames).toFixed(2)} frames`}
            </Fact>
          </>
        )}
        {levels && (
          <>
            <Fact label="Loudness">{level(levels.integratedLufs, "LUFS")}</Fact>
            <Fact label="True peak">{level(levels.truePeakDbtp, "dBTP")}</Fact>
          </>
        )}
      </dl>
      {isOld && (
        <p className="mt-2 text-[13px] text-quiet">The show was changed since then: look again for its newest state.</p>
      )}
    </Panel>
  );
}

const level = (value: number | null, unit: string): string =>
  value === null ? "silent" : `${decibelText(value)} ${unit}`;
