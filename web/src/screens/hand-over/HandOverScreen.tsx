import { type ExportJob, exportJobSchema, type Output } from "@humming-tide/contract";
import { timeLeftText } from "@humming-tide/core/time";
import { Download } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { Link } from "react-router";
import { api } from "../../api.ts";
import { saveNow } from "../../store/saving.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { ProgressBar } from "../../ui/ProgressBar.tsx";
import { ExportPanel } from "./ExportPanel.tsx";
import { MeasurementView } from "./MeasurementView.tsx";
import { outputText } from "./outputs.ts";

/** The film as a file: how it is made, what is being made, and what was measured in it afterwards. */
export function HandOverScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const document = useAppSelector((state) => state.show.document)!;
  const showId = useAppSelector((state) => state.show.id)!;
  const wish = useAppSelector((state) => state.view.output);
  const dispatch = useAppDispatch();
  const output: Output = { size: document.size, frameRate: document.frameRate, container: "mp4", ...wish };
  const jobs = useExports(showId);
  const [failure, setFailure] = useState<string | null>(null);
  const start = async (): Promise<void> => {
    setFailure(null);
    try {
      await saveNow();
      if (store.getState().show.saveState.kind !== "saved")
        throw new Error(
          "The newest edits are not saved yet, so they would be missing from the film. Try again when the show says “Saved”.",
        );
      await api.startExport(showId, output);
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  if (!plan) {
    return (
      <EmptyState
        title="No film to hand over yet"
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {problem?.message ?? "Laying the slides …"}
      </EmptyState>
    );
  }
  return (
    <div className="flex h-full min-h-0">
      <div className="min-w-0 flex-1 overflow-y-auto px-6 py-4">
        <h1 className="mb-3 text-xl">Films</h1>
        {failure && (
          <div className="mb-3">
            <Notice kind="error">{failure}</Notice>
          </div>
        )}
        {jobs.length === 0 && (
          <p className="text-soft">
            No film has been exported yet. Once it is, the file itself is decoded and every change in it is measured
            against its beat.
          </p>
        )}
        <ul className="flex flex-col gap-4">
          {jobs.map((job) => (
            <li key={job.id}>
              <JobCard job={job} />
            </li>
          ))}
        </ul>
      </div>
      <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <ExportPanel
          show={document}
          plan={plan}
          output={output}
          onChange={(next) => dispatch(viewActions.outputChosen(next))}
          onExport={() => void start()}
        />
      </aside>
    </div>
  );
}

/** The show's exports, kept up to date by the server's events; newest first. */
function useExports(showId: string): readonly ExportJob[] {
  const [jobs, setJobs] = useState<ReadonlyMap<string, ExportJob>>(new Map());
  useEffect(() => {
    const events = new EventSource(`/api/shows/${showId}/exports/events`);
    events.addEventListener("change", (event) => {
      const job = exportJobSchema.parse(JSON.parse((event as MessageEvent<string>).data));
      setJobs((known) => new Map(known).set(job.id, job));
    });
    return () => events.close();
  }, [showId]);
  return [...jobs.values()].sort((a, b) => (a.createdAt < b.createdAt ? 1 : -1));
}

const STATES: Readonly<Record<ExportJob["state"], string>> = {
  queued: "waiting",
  running: "in work",
  cancelled: "cancelled",
  failed: "failed",
  done: "done",
};

function JobCard({ job }: { job: ExportJob }): ReactNode {
  const active = job.state === "running" || job.state === "queued";
  return (
    <article className="rounded-lg border border-line bg-raised px-4 py-3" data-testid="export" data-state={job.state}>
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="min-w-0 truncate text-[16px]" title={job.fileName}>
          {job.fileName}
        </h2>
        <span className="shrink-0 text-[13px] text-quiet">
          {outputText(job.output)}
          {job.bytes ? `, ${(job.bytes / 1e6).toFixed(1)} MB` : ""}, {STATES[job.state]}
        </span>
      </div>
      {active && (
        <div className="mt-2 flex items-center gap-4">
          <div className="flex-1">
            <ProgressBar label={`Export of ${job.fileName}`} share={job.progress} />
            <p className="mt-1 text-[13px] text-soft">
              {job.step}, {Math.floor(job.progress * 100)} %
              {job.secondsLeft === null ? "" : `, ${timeLeftText(job.secondsLeft)} left`}
            </p>
          </div>
          <Button onClick={() => void api.cancelExport(job.id)}>Cancel</Button>
        </div>
      )}
      {job.restarts > 0 && active && (
        <p className="mt-1 text-[13px] text-quiet">Started again after the server had stopped.</p>
      )}
      {job.error && (
        <div className="mt-2">
          <Notice kind="error">{job.error}</Notice>
        </div>
      )}
      {job.state === "done" && (
        <div className="mt-2 flex flex-wrap gap-2">
          <a
            href={`/api/exports/${job.id}/film`}
            download
            className="inline-flex items-center gap-1.5 rounded-md bg-lantern px-3 py-1.5 text-[13px] font-semibold text-lantern-ink"
          >
            <Download size={15} /> Download the film
          </a>
          <a
            href={`/api/exports/${job.id}/report`}
            download
            className="rounded-md border border-line-strong/60 bg-high px-3 py-1.5 text-[13px]"
          >
            Plan (JSON)
          </a>
          <a
            href={`/api/exports/${job.id}/measurement`}
            download
            className="rounded-md border border-line-strong/60 bg-high px-3 py-1.5 text-[13px]"
          >
            Measured (JSON)
          </a>
        </div>
      )}
      {job.measurement && <MeasurementView measurement={job.measurement} />}
    </article>
  );
}
