import { type ExportJob, exportJobSchema } from "@humming-tide/contract";
import { useEffect, useState } from "react";

/** The show's exports, kept up to date by the server's events; newest first. */
export function useExports(showId: string): readonly ExportJob[] {
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
