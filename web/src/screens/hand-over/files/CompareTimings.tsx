import type { FilmPlan } from "@humming-tide/core/film";
import {
  compareTimings,
  readEditList,
  readOtio,
  type TimingDifference,
  timelineOf,
} from "@humming-tide/core/interchange";
import { counted } from "@humming-tide/core/language";
import { type ReactNode, useState } from "react";
import { useOpenShow } from "../../../store/open-show.ts";
import { Notice } from "../../../ui/Notice.tsx";

/** Larger files are no timelines. */
const MOST_BYTES = 50_000_000;

interface Compared {
  readonly fileName: string;
  readonly differences: readonly TimingDifference[];
  readonly remarks: readonly string[];
  readonly count: number;
}

/**
 * A timeline that comes back: which of its changes lie elsewhere than in the film. Nothing of the
 * show changes.
 */
export function CompareTimings({ plan }: { plan: FilmPlan }): ReactNode {
  const show = useOpenShow();
  const [compared, setCompared] = useState<Compared | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const read = async (file: File): Promise<void> => {
    setFailure(null);
    setCompared(null);
    try {
      if (file.size > MOST_BYTES) throw new Error(`“${file.name}” is larger than 50 MB, and no timeline is.`);
      const text = await file.text();
      const imported = /\.edl$/i.test(file.name) ? readEditList(text, plan.rate) : readOtio(text);
      setCompared({
        fileName: file.name,
        differences: compareTimings(timelineOf(show, plan), imported),
        remarks: imported.remarks,
        count: imported.items.length,
      });
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  return (
    <section aria-label="Compare" className="mt-7">
      <h2 className="mb-1 text-lg">Compare with a file</h2>
      <p className="mb-3 text-[13px] text-soft">
        A timeline (.otio) or an edit list (.edl) from another program: every change in it is compared with the film.
        The show stays as it is.
      </p>
      <label className="inline-flex cursor-pointer items-center rounded-md border border-line-strong/60 bg-high px-3 py-1.5 text-[13px] focus-within:outline-2 focus-within:outline-ink hover:border-line-strong">
        Choose a file to compare
        <input
          type="file"
          accept=".otio,.edl,application/json,text/plain"
          className="sr-only"
          onChange={({ target }) => {
            const file = target.files?.[0];
            target.value = "";
            if (file) void read(file);
          }}
        />
      </label>
      {failure && (
        <div className="mt-3">
          <Notice kind="error">{failure}</Notice>
        </div>
      )}
      {compared && <ComparedTable compared={compared} />}
    </section>
  );
}

function ComparedTable({ compared: { fileName, differences, remarks, count } }: { compared: Compared }): ReactNode {
  return (
    <div className="mt-3" data-testid="compared">
      <p className="text-[14px]">
        {fileName}: {counted(count, "picture")}.{" "}
        {differences.length === 0
          ? "Every change lies where the film has it."
          : `${differences.length === 1 ? "One lies elsewhere or is" : `${differences.length} lie elsewhere or are`} in one of the two only.`}
      </p>
      {remarks.map((remark) => (
        <p key={remark} className="text-[13px] text-quiet">
          {remark}
        </p>
      ))}
      {differences.length > 0 && (
        <table className="mt-2 w-full text-[13px]">
          <thead className="text-left text-quiet">
            <tr>
              <th className="py-1 font-normal">Picture</th>
              <th className="text-right font-normal">In the film</th>
              <th className="text-right font-normal">In the file</th>
              <th className="text-right font-normal">Apart</th>
            </tr>
          </thead>
          <tbody>
            {differences.map(({ name, ownSeconds, otherSeconds }, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the same picture may come more than once
              <tr key={`${name} ${index}`} className="border-t border-line/60 tabular-nums">
                <td className="max-w-[320px] truncate py-1">{name}</td>
                <td className="text-right">{ownSeconds === null ? "not there" : `${ownSeconds.toFixed(2)} s`}</td>
                <td className="text-right">{otherSeconds === null ? "not there" : `${otherSeconds.toFixed(2)} s`}</td>
                <td className="text-right">
                  {ownSeconds === null || otherSeconds === null ? "" : `${(otherSeconds - ownSeconds).toFixed(3)} s`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
