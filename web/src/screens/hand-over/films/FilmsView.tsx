import type { FilmPlan } from "@humming-tide/core/film";
import { type ReactNode, useState } from "react";
import { useExportsQuery } from "../../../server-state/server-state.ts";
import { useOpenShow, useShowId } from "../../../store/open-show.ts";
import { FilmsFolder } from "./FilmsFolder.tsx";
import { JobCard } from "./JobCard.tsx";
import { inWorkingOrder } from "./job-order.ts";
import { OutputList } from "./OutputList.tsx";
import { OutputPanel } from "./OutputPanel.tsx";

/** The outputs of the show, what is being made of them, and what was measured afterwards. */
export function FilmsView({ plan }: { plan: FilmPlan }): ReactNode {
  const showId = useShowId();
  const outputs = useOpenShow((show) => show.outputs);
  const jobs = inWorkingOrder(useExportsQuery(showId).data ?? []);
  const nextId = jobs.find(({ state }) => state === "queued")?.id;
  const [editedId, setEdited] = useState<string | null>(null);
  const edited = outputs.find(({ id }) => id === editedId) ?? outputs[0];
  return (
    <>
      <div className="min-w-0 flex-1 overflow-y-auto px-6 py-4">
        <OutputList outputs={outputs} editedId={edited?.id ?? null} onEdit={setEdited} />
        <h2 className="mt-7 mb-2 text-lg">Films</h2>
        {jobs.length === 0 && (
          <p className="text-[14px] text-soft">
            No film has been exported yet. Once one is, the file itself is decoded and every change in it is measured
            against its beat.
          </p>
        )}
        <ul className="flex flex-col gap-3">
          {jobs.map((job) => (
            <li key={job.id}>
              <JobCard job={job} isNext={job.id === nextId} />
            </li>
          ))}
        </ul>
      </div>
      <aside className="w-[320px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        {edited && <OutputPanel key={edited.id} output={edited} plan={plan} />}
        <FilmsFolder />
      </aside>
    </>
  );
}
