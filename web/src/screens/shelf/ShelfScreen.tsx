import type { Health, ShowPlace, ShowSummary } from "@humming-tide/contract";
import { Search } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { api } from "../../api.ts";
import { useShelfQuery } from "../../server-state/server-state.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { NewShow } from "./NewShow.tsx";
import { OpenPackage } from "./OpenPackage.tsx";
import { ShowGrid } from "./ShowGrid.tsx";
import { matchesSearch } from "./shelf-search.ts";

const EMPTY: Readonly<Record<ShowPlace, { title: string; text: string }>> = {
  shelf: {
    title: "The shelf is empty",
    text: "A show is one film: pictures, a song, and your wishes. Start one with “New show”, or open a package.",
  },
  archive: { title: "Nothing is archived", text: "Archive a show to keep it here, out of the way." },
  deleted: { title: "Nothing was deleted", text: "Deleted shows wait here for 30 days before they go for good." },
};

/**
 * All shows of the data folder: those at work, those that rest, and those that were deleted and can
 * come back.
 */
export function ShelfScreen(): ReactNode {
  const { data: shows, error, refetch } = useShelfQuery();
  const [refusal, setRefusal] = useState<string | null>(null);
  const [health, setHealth] = useState<Health | null>(null);
  const [place, setPlace] = useState<ShowPlace>("shelf");
  const [search, setSearch] = useState("");
  const [undo, setUndo] = useState<{ text: string; id: string; place: ShowPlace } | null>(null);
  const failure = refusal ?? error?.message ?? null;
  const load = useCallback((): void => {
    setRefusal(null);
    void refetch();
  }, [refetch]);
  const scroller = useRef<HTMLElement>(null);
  useEffect(() => {
    api.health().then(setHealth, () => undefined);
  }, []);
  const put = useCallback(
    (show: ShowSummary, to: ShowPlace): void => {
      const text = { shelf: "is back on the shelf", archive: "is archived", deleted: "is deleted" }[to];
      api.placeShow(show.id, to).then(
        () => {
          setUndo({ text: `“${show.title}” ${text}.`, id: show.id, place: show.place });
          load();
        },
        (cause: Error) => setRefusal(cause.message),
      );
    },
    [load],
  );
  const here = shows?.filter((show) => show.place === place) ?? [];
  const found = here.filter((show) => matchesSearch(show, search));
  return (
    <main ref={scroller} className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1160px] px-8 py-8">
        <ShelfHeader />
        {shows && shows.length > 0 && (
          <ShelfBar shows={shows} place={place} onPlace={setPlace} search={search} onSearch={setSearch} />
        )}
        {health?.ffmpegProblem && (
          <div className="mb-6">
            <Notice kind="warning">{health.ffmpegProblem}</Notice>
          </div>
        )}
        {failure && <LoadFailure text={failure} onAgain={load} />}
        {undo && <UndoLine undo={undo} onUndo={setUndo} onChanged={load} onRefusal={setRefusal} />}
        {shows && here.length === 0 && <EmptyState title={EMPTY[place].title}>{EMPTY[place].text}</EmptyState>}
        {here.length > 0 && found.length === 0 && (
          <p className="py-10 text-center text-soft">
            No show here has all of “{search}” in its name, event, client or song.
          </p>
        )}
        <ShowGrid shows={found} scroller={scroller} onPut={put} onChanged={load} />
      </div>
    </main>
  );
}

interface UndoLineProps {
  undo: { text: string; id: string; place: ShowPlace };
  onUndo: (value: { text: string; id: string; place: ShowPlace } | null) => void;
  onChanged: () => void;
  onRefusal: (value: string | null) => void;
}

/** What was just done, and the way back. */
function UndoLine({ undo, onUndo, onChanged, onRefusal }: UndoLineProps): ReactNode {
  return (
    <p role="status" className="mb-5 flex items-center gap-3 text-[13px] text-soft">
      {undo.text}
      <Button
        onClick={() => {
          onUndo(null);
          api.placeShow(undo.id, undo.place).then(onChanged, (cause: Error) => onRefusal(cause.message));
        }}
      >
        Undo
      </Button>
    </p>
  );
}

const LoadFailure = ({ text, onAgain }: { text: string; onAgain: () => void }): ReactNode => (
  <div className="mb-6">
    <Notice kind="error">
      {text}{" "}
      <button type="button" className="underline" onClick={onAgain}>
        Try again
      </button>
    </Notice>
  </div>
);

const ShelfHeader = (): ReactNode => (
  <header className="mb-6 flex items-end justify-between gap-6">
    <div>
      <h1 className="text-[34px] leading-10">Humming Tide</h1>
      <p className="text-soft">Pictures and a song in, a film out whose every change lands on the beat.</p>
    </div>
    <div className="flex gap-2">
      <OpenPackage />
      <NewShow />
    </div>
  </header>
);

interface ShelfBarProps {
  shows: readonly ShowSummary[];
  place: ShowPlace;
  onPlace: (place: ShowPlace) => void;
  search: string;
  onSearch: (search: string) => void;
}

/** Which shows are seen: where they are, and what is in them. */
function ShelfBar({ shows, place, onPlace, search, onSearch }: ShelfBarProps): ReactNode {
  const count = (of: ShowPlace): number => shows.filter((show) => show.place === of).length;
  return (
    <div className="mb-5 flex items-center justify-between gap-4">
      <Choice
        label="Which shows"
        value={place}
        options={[
          { value: "shelf", label: `On the shelf ${count("shelf")}` },
          { value: "archive", label: `Archived ${count("archive")}` },
          { value: "deleted", label: `Deleted ${count("deleted")}` },
        ]}
        onChange={onPlace}
      />
      <label className="flex w-[280px] items-center gap-2 rounded-md border border-line-strong/60 bg-raised px-2.5 py-1.5 text-soft">
        <Search size={15} aria-hidden />
        <input
          type="search"
          aria-label="Search shows"
          placeholder="Name, event, client, song"
          value={search}
          onChange={(event) => onSearch(event.target.value)}
          className="min-w-0 flex-1 bg-transparent text-[14px] text-ink outline-none placeholder:text-quiet"
        />
      </label>
    </div>
  );
}
