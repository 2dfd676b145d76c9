import type { FilmMeasurement } from "@humming-tide/contract";
import { decibelText } from "@humming-tide/core/language";
import { type ReactNode, useState } from "react";
import { Button } from "../../../ui/Button.tsx";
import { Notice } from "../../../ui/Notice.tsx";

/**
 * What was measured in the decoded file: a sentence, a picture of all errors, and on wish every
 * change in a table.
 */
export function MeasurementView({ measurement }: { measurement: FilmMeasurement }): ReactNode {
  const [all, setAll] = useState(false);
  const { changes, unseen, largestErrorFrames, sound } = measurement;
  const seen = changes.length - unseen.length;
  return (
    <div className="mt-3 border-t border-line pt-3">
      {measurement.problems.map((problem) => (
        <div key={problem} className="mb-2">
          <Notice kind="error">{problem}</Notice>
        </div>
      ))}
      <p className="text-[13px]" data-testid="measured">
        Measured in the file: {seen} of {changes.length} changes seen
        {largestErrorFrames === null ? "" : `, the furthest ${largestErrorFrames.toFixed(2)} frames from its beat`}
        {sound.songSilent
          ? ", a silent song"
          : sound.lagMs === null
            ? ""
            : `, music within ${Math.abs(sound.lagMs).toFixed(1)} ms`}
        . {measurement.ok ? "All is where it should be." : ""}
      </p>
      {sound.loudness && <p className="mt-0.5 text-[13px] text-soft">{loudnessText(sound.loudness)}</p>}
      <ErrorDots measurement={measurement} />
      <Button kind="quiet" aria-expanded={all} onClick={() => setAll(!all)} className="-ml-3">
        {all ? "Hide the changes" : "Show every change"}
      </Button>
      {all && <ChangeTable changes={changes} />}
    </div>
  );
}

interface ChangeTableProps {
  changes: FilmMeasurement["changes"];
}

/** Every change: where it was planned, and where it was seen. */
function ChangeTable({ changes }: ChangeTableProps): ReactNode {
  return (
    <div className="max-h-[340px] overflow-y-auto">
      <table className="w-full text-[13px]">
        <thead className="sticky top-0 bg-raised text-left text-quiet">
          <tr>
            <th className="py-1 font-normal">Slot</th>
            <th className="font-normal">Picture</th>
            <th className="font-normal">Change</th>
            <th className="text-right font-normal">Planned frame</th>
            <th className="text-right font-normal">Measured</th>
            <th className="text-right font-normal">Offset from beat</th>
          </tr>
        </thead>
        <tbody>
          {changes.map((change) => (
            <tr key={change.index} className="border-t border-line/60">
              <td className="py-1">{change.index + 1}</td>
              <td className="max-w-[220px] truncate" title={change.source}>
                {change.source}
              </td>
              <td>{change.kind}</td>
              <td className="text-right">{change.plannedFrame}</td>
              <td className="text-right">{change.measuredFrame ?? "not seen"}</td>
              <td className="text-right">
                {change.measuredErrorMs === null ? "" : `${change.measuredErrorMs.toFixed(1)} ms`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function loudnessText({
  integratedLufs,
  rangeLu,
  truePeakDbtp,
}: NonNullable<FilmMeasurement["sound"]["loudness"]>): string {
  if (integratedLufs === null || truePeakDbtp === null) return "No sound that is loud enough to be measured.";
  const levels = `${decibelText(integratedLufs)} LUFS, true peak ${decibelText(truePeakDbtp)} dBTP`;
  return `Sound: ${levels}, loudness range ${rangeLu.toFixed(1)} LU.`;
}

const HALF_HEIGHT = 22;

/**
 * Every change along the film, its height the measured error; the lines are half a frame early and
 * late.
 */
function ErrorDots({ measurement }: { measurement: FilmMeasurement }): ReactNode {
  const last = measurement.changes.at(-1)?.plannedFrame ?? 1;
  return (
    <svg
      role="img"
      aria-label="Measured error of every change, between half a frame early and half a frame late"
      viewBox={`0 ${-HALF_HEIGHT} 1000 ${2 * HALF_HEIGHT}`}
      preserveAspectRatio="none"
      className="my-2 h-[52px] w-full"
    >
      {[-0.5, 0, 0.5].map((frames) => (
        <line
          key={frames}
          x1={0}
          x2={1000}
          y1={frames * 2 * (HALF_HEIGHT - 5)}
          y2={frames * 2 * (HALF_HEIGHT - 5)}
          stroke="var(--line-strong)"
          strokeOpacity={frames === 0 ? 0.9 : 0.5}
          strokeDasharray={frames === 0 ? "" : "4 5"}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {measurement.changes.map((change) =>
        change.measuredErrorFrames === null ? null : (
          <line
            key={change.index}
            x1={6 + (988 * change.plannedFrame) / last}
            x2={6 + (988 * change.plannedFrame) / last}
            y1={0}
            y2={Math.max(-1, Math.min(1, change.measuredErrorFrames * 2)) * (HALF_HEIGHT - 5) + 0.01}
            stroke={Math.abs(change.measuredErrorFrames) > 0.51 ? "var(--error)" : "var(--lantern)"}
            strokeWidth={3}
            strokeLinecap="round"
            vectorEffect="non-scaling-stroke"
          />
        ),
      )}
    </svg>
  );
}
