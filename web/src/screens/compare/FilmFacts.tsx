import { type FilmPlan, paceText } from "@humming-tide/core/film";
import { counted } from "@humming-tide/core/language";
import type { ShowDocument } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { lengthOf } from "./film-rows.ts";

interface FilmFactsProps {
  names: readonly [string, string];
  plans: readonly [FilmPlan, FilmPlan];
  documents: readonly [ShowDocument, ShowDocument];
}

/** What two films are, line by line. */
export function FilmFacts({ names, plans, documents }: FilmFactsProps): ReactNode {
  const facts = plans.map((plan, i) => factsOf(plan, documents[i === 0 ? 0 : 1]));
  const lines = Object.keys(facts[0] ?? {}) as (keyof ReturnType<typeof factsOf>)[];
  return (
    <table className="mx-4 my-3 text-left text-[13px]">
      <thead>
        <tr className="text-quiet">
          <td />
          {names.map((name) => (
            <th key={name} scope="col" className="max-w-[140px] truncate pb-1 font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => {
          const isSame = facts[0]?.[line] === facts[1]?.[line];
          return (
            <tr key={line} className="border-t border-line align-top">
              <th scope="row" className="py-1 pr-3 font-normal whitespace-nowrap text-quiet">
                {line}
              </th>
              {facts.map((of, i) => (
                <td
                  key={names[i]}
                  className={`max-w-[140px] py-1 pr-2 break-words ${isSame ? "text-soft" : "font-semibold"}`}
                >
                  {of[line]}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function factsOf(plan: FilmPlan, { songs, pace, slides }: ShowDocument) {
  const shown = new Set(plan.slots.map(({ slideId }) => slideId)).size;
  const locks = slides.filter(({ landingLock, length }) => landingLock !== null || length?.locked === true).length;
  return {
    Song: songs.map(({ fileName }) => fileName).join(", "),
    Length: clockText(lengthOf(plan)),
    Pace: paceText(pace),
    Slides: `${counted(shown, "picture")} in ${counted(plan.slots.length, "slot")}`,
    Locks: String(locks),
  };
}
