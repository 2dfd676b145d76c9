import type { MediaFacts } from "@humming-tide/contract";
import { type ProposedPart, proposedPart } from "@humming-tide/core/clip-analysis";
import { counted } from "@humming-tide/core/language";
import { present } from "@humming-tide/core/presence";
import { type Slide, takeClipParts } from "@humming-tide/core/show";
import { timeLeftText } from "@humming-tide/core/time";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { serverState } from "../../server-state/server-state.ts";
import { edit } from "../../store/edit.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";

/** Clips in the film of which nobody has chosen a part. */
export const wholeClips = (
  slides: readonly Slide[],
  media: Readonly<Record<string, MediaFacts | undefined>>,
): readonly Slide[] =>
  slides.filter(
    ({ sha256, clip, rating }) =>
      sha256 !== null && clip === null && rating !== "out" && media[sha256]?.kind === "clip",
  );

/** How far the looking through of all clips is. */
interface Run {
  readonly done: number;
  readonly of: number;
  /** Judged by the clips that are done; null before the first is. */
  readonly secondsLeft: number | null;
}

/**
 * Looks all clips through that are shown as a whole, and takes their moments and trims in one edit.
 * What was found when it is stopped is taken. The clip that is looked at then is finished by the
 * server for the next time. A clip that cannot be looked through stays as it is.
 */
export function WholeClips({ slides }: { slides: readonly Slide[] }): ReactNode {
  const dispatch = useAppDispatch();
  const media = useAppSelector((state) => state.show.media);
  const [run, setRun] = useState<Run | null>(null);
  const [outcome, setOutcome] = useState<string | null>(null);
  const stopping = useRef(new AbortController());
  useEffect(() => () => stopping.current.abort(), []);

  async function lookThrough(): Promise<void> {
    const { signal } = (stopping.current = new AbortController());
    const stopped = new Promise<null>((resolve) => {
      signal.addEventListener("abort", () => resolve(null), { once: true });
    });
    const startedAt = performance.now();
    const parts = new Map<string, ProposedPart>();
    let failed = 0;
    for (const [done, { id, sha256 }] of slides.entries()) {
      if (signal.aborted) break;
      const secondsSoFar = (performance.now() - startedAt) / 1000;
      const secondsLeft = done === 0 ? null : (secondsSoFar / done) * (slides.length - done);
      setRun({ done, of: slides.length, secondsLeft });
      const facts = media[present(sha256)];
      if (facts?.kind !== "clip") continue;
      const asked = serverState.endpoints.clipProposal.initiate(facts.sha256, {
        subscribe: false,
        forceRefetch: false,
      });
      const answer = await Promise.race([dispatch(asked), stopped]);
      if (answer === null) break;
      if (!answer.data) failed++;
      const part = answer.data && proposedPart(answer.data, facts.durationSeconds);
      if (part) parts.set(id, part);
    }
    setRun(null);
    setOutcome(outcomeText(parts.size, failed));
    // What a person chose in the meantime stays.
    edit((show) => {
      const untouched = new Set(wholeClips(show.slides, media).map(({ id }) => id));
      return takeClipParts(show, new Map([...parts].filter(([id]) => untouched.has(id))));
    });
  }

  return (
    <li className="flex items-center justify-between gap-2">
      <span className="min-w-0 text-soft" role="status">
        {run
          ? `Looking at clip ${run.done + 1} of ${run.of} …${run.secondsLeft === null ? "" : ` ${timeLeftText(run.secondsLeft)} left`}`
          : (outcome ?? `${counted(slides.length, "clip")} shown whole`)}
      </span>
      {run ? (
        <Button kind="quiet" onClick={() => stopping.current.abort()}>
          Stop
        </Button>
      ) : (
        <Button
          kind="quiet"
          title="Finds the strongest moment of each clip for an accent of the music, and leaves out shaky or dark ends"
          onClick={() => void lookThrough()}
        >
          Find moments
        </Button>
      )}
    </li>
  );
}

function outcomeText(taken: number, failed: number): string {
  const found =
    taken === 0 ? "Nothing stood out in the others" : `Moments or trims taken for ${counted(taken, "clip")}`;
  return failed === 0 ? found : `${found}; ${counted(failed, "clip")} could not be looked through`;
}
