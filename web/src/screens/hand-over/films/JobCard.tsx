import { type ExportJob, isUnderWay } from "@humming-tide/contract";
import { isVideo } from "@humming-tide/core/show";
import { timeLeftText } from "@humming-tide/core/time";
import { Download } from "lucide-react";
import type { ReactNode } from "react";
import { api } from "../../../api.ts";
import { Button, ButtonLink } from "../../../ui/Button.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { ProgressBar } from "../../../ui/ProgressBar.tsx";
import { MeasurementView } from "./MeasurementView.tsx";
import { outputText } from "./output-words.ts";

const STATES: Readonly<Record<ExportJob["state"], string>> = {
  queued: "waiting",
  running: "in work",
  paused: "paused",
  cancelled: "cancelled",
  failed: "failed",
  done: "done",
};

/** One export: how far it is, or what came of it. `isNext`: it is the next of those that wait. */
export function JobCard({ job, isNext }: { job: ExportJob; isNext: boolean }): ReactNode {
  const active = isUnderWay(job);
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
      {active && <JobProgress job={job} isNext={isNext} />}
      {job.tries > 1 && active && (
        <p className="mt-1 text-[13px] text-quiet">Started again after the server had stopped.</p>
      )}
      {job.error && (
        <div className="mt-2">
          <Notice kind="error">{job.error}</Notice>
        </div>
      )}
      {job.state === "done" && <JobFiles job={job} />}
      {job.copiedTo !== null && (
        <p className="mt-2 truncate text-[13px] text-soft" title={job.copiedTo}>
          Put into {job.copiedTo}
        </p>
      )}
      {job.state === "done" && job.step !== "Done" && (
        <div className="mt-2">
          <Notice kind="warning">{job.step}</Notice>
        </div>
      )}
      {job.measurement && <MeasurementView measurement={job.measurement} />}
    </article>
  );
}

interface JobFilesProps {
  job: ExportJob;
}

/** What can be downloaded. */
function JobFiles({ job }: JobFilesProps): ReactNode {
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      <a
        href={`/api/exports/${job.id}/film`}
        download
        className="inline-flex items-center gap-1.5 rounded-md bg-lantern px-3 py-1.5 text-[13px] font-semibold text-lantern-ink"
      >
        <Download size={15} /> {isVideo(job.output.container) ? "Download the film" : "Download the player"}
      </a>
      {job.measurement && (
        <>
          <ButtonLink href={`/api/exports/${job.id}/report`} download>
            Plan (JSON)
          </ButtonLink>
          <ButtonLink href={`/api/exports/${job.id}/measurement`} download>
            Measured (JSON)
          </ButtonLink>
        </>
      )}
    </div>
  );
}

interface JobProgressProps {
  job: ExportJob;
  isNext: boolean;
}

/** How far it is, and a way to stop it. */
function JobProgress({ job, isNext }: JobProgressProps): ReactNode {
  return (
    <div className="mt-2 flex items-center gap-4">
      <div className="flex-1">
        <ProgressBar label={`Export of ${job.fileName}`} share={job.progress} />
        <p className="mt-1 text-[13px] text-soft">
          {job.step}
          {job.state === "queued" && job.progress === 0 ? "" : `, ${Math.floor(job.progress * 100)} %`}
          {job.secondsLeft === null ? "" : `, ${timeLeftText(job.secondsLeft)} left`}
        </p>
      </div>
      {job.state === "queued" && !isNext && (
        <Button kind="quiet" onClick={() => void api.exportNext(job.id)}>
          Make this next
        </Button>
      )}
      <Button onClick={() => void api.cancelExport(job.id)}>Cancel</Button>
    </div>
  );
}
