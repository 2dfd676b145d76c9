import type { JobState, JobStatus } from "@humming-tide/contract";
import type { JobFields } from "./tables/columns.ts";

/** What a row of a table of jobs says of its job. The time left is only known while it runs. */
export const jobStatusOf = ({ state, step, progress, error, tries, position }: JobFields): JobStatus => ({
  state: state as JobState,
  step,
  progress: state === "done" ? 1 : progress,
  secondsLeft: null,
  error,
  tries,
  position,
});
