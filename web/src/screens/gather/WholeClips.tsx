import type { MediaFacts } from "@humming-tide/contract";
import { type ProposedPart, proposedPart } from "@humming-tide/core/clip-analysis";
import { counted } from "@humming-tide/core/language";
import { present } from "@humming-tide/core/presence";
import { type Slide, takeClipParts } from "@humming-tide/core/show";
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
}

/**
 * Looks all clips through that are shown as a whole, and takes their moments and trims in one edit.
 * What was found when it is stopped is taken; a clip that cannot be looked through stays as it is.
 */
export function WholeClips({ slides }: { slides: readonly Slide[] }): ReactNode {
  const dispatch = useAppDispatch();
  const media = useAppSelector((state) => state.show.media);
  const [run, setRun] = useState<Run | null>(null);
  const [outcome, setOutcome] = useState<string | null>(null);
  const isStopped = useRef(false);
  useEffect(
    () => () => {
      isStopped.current = true;
    },
    [],
  );

  async function lookThrough(): Promise<void> {
    isStopped.current = false;
    const parts = new Map<string, ProposedPart>();
    let failed = 0;
    for (const [done, { id, sha256 }] of slides.entries()) {
      if (isStopped.current) break;
      setRun({ done, of: slides.length });
      const facts = media[present(sha256)];
      if (facts?.kind !== "clip") continue;
      const { data } = await dispatch(
        serverState.endpoints.clipProposal.initiate(facts.sha256, { subscribe: false, forceRefetch: false }),
      );
      if (!data) failed++;
      const part = data && proposedPart(data, facts.durationSeconds);
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
          ? `Looking at clip ${run.done + 1} of ${run.of} …`
          : (outcome ?? `${counted(slides.length, "clip")} shown whole`)}
      </span>
      {run ? (
        <Button kind="quiet" onClick={() => (isStopped.current = true)}>
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
