import { filmSecondsOf, sectionNames, songPlaceAt } from "@humming-tide/core/arrange";
import type { FilmPlan } from "@humming-tide/core/film";
import { lockPassageStart, type Passage } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { edit } from "../../../store/edit.ts";

interface PassageStartProps {
  passage: Passage;
  name: string;
  plan: FilmPlan;
}

/** A start so near to a section is locked to it. */
const SAME_PLACE_SECONDS = 0.05;

/** Which section of the music a passage begins with, if a person says so. */
export function PassageStart({ passage, name, plan }: PassageStartProps): ReactNode {
  const { sections } = plan.music;
  const names = sectionNames(sections);
  const starts = sections
    .map(({ startSeconds: seconds }, i) => ({ seconds, text: `Section ${names[i]} at ${clockText(seconds)}` }))
    .filter(({ seconds }) => seconds > 0);
  const locked = passage.startLock && filmSecondsOf(plan.music, passage.startLock);
  const chosen = starts.findIndex(({ seconds }) => locked !== null && Math.abs(seconds - locked) < SAME_PLACE_SECONDS);
  const choose = (value: string): void => {
    const start = starts[Number(value)];
    const place = start ? songPlaceAt(plan.music, start.seconds) : null;
    edit((show) => lockPassageStart(show, passage.id, place));
  };
  return (
    <select
      aria-label={`Start of ${name}`}
      value={locked === null ? "free" : String(chosen)}
      className="col-start-2 min-w-0 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-[13px] text-ink"
      onChange={({ target }) => choose(target.value)}
    >
      <option value="free">starts where it fits</option>
      {locked !== null && chosen < 0 && <option value="-1">Locked at {clockText(locked)}</option>}
      {starts.map(({ seconds, text }, i) => (
        <option key={seconds} value={i}>
          {text}
        </option>
      ))}
    </select>
  );
}
