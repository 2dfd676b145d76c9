import type { ExportJob, LiveEvent } from "@humming-tide/contract";
import { useCallback } from "react";
import { api } from "../../../api.ts";
import { useLiveList } from "../../../live/use-live-list.ts";

/** The show's exports, the newest first. */
export function useExports(showId: string): readonly ExportJob[] {
  const read = useCallback(() => api.exports(showId), [showId]);
  const itemOf = useCallback(
    (event: LiveEvent) => (event.kind === "export" && event.job.showId === showId ? event.job : null),
    [showId],
  );
  return useLiveList(read, itemOf);
}
