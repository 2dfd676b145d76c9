import { present } from "@humming-tide/core/presence";
import type { ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { useAppSelector } from "../../store/store.ts";
import { Choice } from "../../ui/Choice.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { ChecksView } from "./checks/ChecksView.tsx";
import { ClientPageView } from "./client/ClientPageView.tsx";
import { FilesView } from "./files/FilesView.tsx";
import { FilmsView } from "./films/FilmsView.tsx";
import { PublishView } from "./publish/PublishView.tsx";

const PARTS = [
  { value: "checks", label: "Checks", hint: "What to look at before you hand it over" },
  { value: "films", label: "Films", hint: "Outputs, what is being made, and what was measured" },
  { value: "client", label: "Client page", hint: "A private page for the client: the film, comments, downloads" },
  { value: "publish", label: "Site and disc", hint: "On a video site, or on a disc with a menu" },
  { value: "files", label: "Other tools", hint: "Timelines, lists and a cue sheet to print" },
] as const;
type Part = (typeof PARTS)[number]["value"];

/** Everything that leaves the house: what was checked, and films in every format. */
export function HandOverScreen(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  const [search, setSearch] = useSearchParams();
  const part: Part = PARTS.find(({ value }) => value === search.get("part"))?.value ?? "films";
  if (!plan && part !== "checks") {
    return (
      <EmptyState
        title="No film to hand over yet"
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {problem?.message ?? "Fitting the slides …"}
      </EmptyState>
    );
  }
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="flex h-10 shrink-0 items-center border-b border-line px-3.5">
        <Choice
          label="Part of Hand over"
          value={part}
          options={PARTS}
          onChange={(next) => setSearch({ part: next }, { replace: true })}
        />
      </div>
      <div className="flex min-h-0 flex-1">
        {part === "checks" && <ChecksView />}
        {part === "films" && <FilmsView plan={present(plan)} />}
        {part === "client" && <ClientPageView />}
        {part === "publish" && <PublishView />}
        {part === "files" && <FilesView plan={present(plan)} />}
      </div>
    </div>
  );
}
