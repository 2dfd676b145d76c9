/** Before this share of a job is done, and before it ran so long, its speed says nothing yet. */
const LEAST_SHARE = 0.02;
const LEAST_SECONDS = 1;

/**
 * How long a job still takes if it goes on as fast as so far: from `from` to `progress`, shares of
 * the whole from 0 to 1, it took `elapsedSeconds`. Null where it is too early to say. Example: the
 * first quarter took 10 s, so 30 s are left.
 */
export function secondsLeft(progress: number, elapsedSeconds: number, from = 0): number | null {
  const done = progress - from;
  if (done < LEAST_SHARE || elapsedSeconds < LEAST_SECONDS) return null;
  return (elapsedSeconds / done) * (1 - progress);
}
