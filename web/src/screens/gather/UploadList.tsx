import type { ReactNode } from "react";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { type Upload, uploadActions } from "../../store/upload-slice.ts";
import { stopUploads } from "../../store/uploading.ts";
import { Button } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { ProgressBar } from "../../ui/ProgressBar.tsx";

const STATES: Readonly<Record<Upload["state"], string>> = {
  waiting: "waiting",
  sending: "sending",
  "taking-in": "taking in …",
  in: "in",
  "already-there": "already there",
  refused: "not taken in",
  stopped: "stopped",
};

/** What is coming in and what became of each file. Refused files stay until they have been read about. */
export function UploadList(): ReactNode {
  const uploads = useAppSelector((state) => state.uploads);
  const dispatch = useAppDispatch();
  if (uploads.length === 0) return null;
  const active = uploads.filter(
    ({ state }) => state === "waiting" || state === "sending" || state === "taking-in",
  ).length;
  const done = uploads.length - active;
  // What needs an eye first, then what is moving, then the rest.
  const rank = ({ state }: Upload): number =>
    state === "refused" ? 0 : state === "sending" || state === "taking-in" ? 1 : state === "waiting" ? 2 : 3;
  const sorted = [...uploads].sort((a, b) => rank(a) - rank(b));
  return (
    <Panel
      title={
        active > 0
          ? `Bringing in: ${done} of ${uploads.length}`
          : `Brought in: ${uploads.filter(({ state }) => state === "in").length} of ${uploads.length}`
      }
      aside={
        active > 0 ? (
          <Button kind="quiet" onClick={stopUploads}>
            Stop
          </Button>
        ) : (
          <Button kind="quiet" onClick={() => dispatch(uploadActions.endedUploadsCleared())}>
            Clear
          </Button>
        )
      }
    >
      {active > 0 && <ProgressBar label="Files brought in" share={done / uploads.length} />}
      <ul className="mt-2 flex flex-col gap-2">
        {sorted.map((upload) => (
          <li key={upload.id} className="text-[13px]" data-testid="upload" data-state={upload.state}>
            <div className="flex justify-between gap-2">
              <span className="truncate" title={upload.fileName}>
                {upload.fileName}
              </span>
              <span className={`shrink-0 ${upload.state === "refused" ? "text-error" : "text-quiet"}`}>
                {upload.state === "sending" ? `${Math.round(upload.progress * 100)} %` : STATES[upload.state]}
              </span>
            </div>
            {upload.message && (
              <p className={upload.state === "refused" ? "text-error" : "text-quiet"}>{upload.message}</p>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
