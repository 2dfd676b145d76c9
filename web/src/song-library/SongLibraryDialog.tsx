import type { LibrarySong, LibrarySongNotes } from "@humming-tide/contract";
import { addSong } from "@humming-tide/core/show";
import type { Pace } from "@humming-tide/core/values";
import { type ReactNode, useState } from "react";
import { api } from "../api.ts";
import { serverState, useLibrarySongsQuery } from "../server-state/server-state.ts";
import { useOpenShow } from "../store/open-show.ts";
import { showActions } from "../store/show-slice.ts";
import { useAppDispatch } from "../store/store.ts";
import { Button } from "../ui/Button.tsx";
import { DialogBox } from "../ui/DialogBox.tsx";
import { Notice } from "../ui/Notice.tsx";
import { SongLine } from "./SongLine.tsx";
import { SORTS, type SongSort, shownSongs } from "./shown-songs.ts";
import { useAudition } from "./use-audition.ts";

const PACES: readonly { readonly value: string; readonly label: string; readonly pace: Pace | null }[] = [
  { value: "show", label: "the show's pace", pace: null },
  { value: "bar", label: "one a bar", pace: { kind: "bars", count: 1 } },
  ...[2, 4, 6, 8].map((count) => ({
    value: `${count}`,
    label: `one every ${count} beats`,
    pace: { kind: "beats", count } as const,
  })),
];

/** All songs that were ever brought in: found, heard, noted about, and taken into the film. */
export function SongLibraryDialog({ onClose }: { onClose: () => void }): ReactNode {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  const { data: songs, error } = useLibrarySongsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [refusal, setRefusal] = useState<string | null>(null);
  const failure = refusal ?? error?.message ?? null;
  const [words, setWords] = useState("");
  const [sort, setSort] = useState<SongSort>("suits");
  const [paceChoice, setPaceChoice] = useState("show");
  const audition = useAudition();
  const pace = PACES.find(({ value }) => value === paceChoice)?.pace ?? show.pace;
  const slideCount = show.slides.filter(({ rating }) => rating !== "out").length;
  const note = useNote(setRefusal);
  const take = ({ sha256, fileName }: LibrarySong): void => {
    dispatch(showActions.edited(addSong(show, { sha256, fileName })));
    onClose();
  };
  const shown = songs && shownSongs(songs, { words, sort, pace, slideCount });
  return (
    <DialogBox open onClose={onClose} title="Song library" width={860}>
      <SongSearch
        words={words}
        onWords={setWords}
        paceChoice={paceChoice}
        onPace={setPaceChoice}
        sort={sort}
        onSort={setSort}
      />
      {failure && <Notice kind="error">{failure}</Notice>}
      {!songs && !failure && <p className="py-8 text-center text-quiet">Loading the songs …</p>}
      {shown?.length === 0 && (
        <p className="py-8 text-center text-quiet">
          {words
            ? "No song has these words."
            : "No songs yet. Every song that you bring in is kept here, for all shows."}
        </p>
      )}
      <ul aria-label="Songs of the library" className="divide-y divide-line">
        {shown?.map(({ song, tooMany }) => (
          <SongLine
            key={song.sha256}
            song={song}
            tooMany={tooMany}
            slideCount={slideCount}
            isPlaying={audition.playing === song.sha256}
            onPlay={() => audition.toggle(song.sha256)}
            onNote={(notes) => note(song, notes)}
            action={<Button onClick={() => take(song)}>Add to the film</Button>}
          />
        ))}
      </ul>
    </DialogBox>
  );
}

/** Notes something about a song: seen at once, and taken back where it could not be saved. */
function useNote(refuse: (why: string) => void): (song: LibrarySong, notes: LibrarySongNotes) => void {
  const dispatch = useAppDispatch();
  return (song, notes) => {
    const put = (next: LibrarySong): void => {
      const update = (all: LibrarySong[]): LibrarySong[] =>
        all.map((other) => (other.sha256 === song.sha256 ? next : other));
      dispatch(serverState.util.updateQueryData("librarySongs", undefined, update));
    };
    put({ ...song, ...notes });
    api.noteSong(song.sha256, notes).then(put, (cause: Error) => {
      put(song);
      refuse(cause.message);
    });
  };
}

interface SongSearchProps {
  words: string;
  onWords: (value: string) => void;
  paceChoice: string;
  onPace: (value: string) => void;
  sort: SongSort;
  onSort: (value: SongSort) => void;
}

/** Words to find, the pace to judge for, and the order. */
function SongSearch({ words, onWords, paceChoice, onPace, sort, onSort }: SongSearchProps): ReactNode {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3 text-[13px] text-quiet">
      <input
        type="search"
        value={words}
        aria-label="Find a song by title or tag"
        placeholder="Title or tag"
        className="min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink"
        onChange={(event) => onWords(event.target.value)}
      />
      <LineSelect
        label="For"
        name="Pace that songs are judged for"
        value={paceChoice}
        options={PACES}
        onChange={onPace}
      />
      <LineSelect
        label="By"
        name="Order of the songs"
        value={sort}
        options={SORTS}
        onChange={(value) => onSort(value as SongSort)}
      />
    </div>
  );
}

function LineSelect({
  label,
  name,
  value,
  options,
  onChange,
}: {
  label: string;
  /** Read out instead of the label. */
  name: string;
  value: string;
  options: readonly { readonly value: string; readonly label: string }[];
  onChange: (value: string) => void;
}): ReactNode {
  return (
    <label className="flex items-center gap-2">
      {label}
      <select
        aria-label={name}
        value={value}
        className="rounded-md border border-line-strong/60 bg-ground px-2 py-1.5 text-ink"
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  );
}
