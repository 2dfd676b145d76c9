import { counterpartSeconds } from "@humming-tide/core/arrange";
import type { FilmPlan } from "@humming-tide/core/film";
import { counted, wordFor } from "@humming-tide/core/language";
import {
  chooseSong,
  formerSongOf,
  type OpenLock,
  openLocks,
  placeLock,
  type ShowDocument,
  type ShowSong,
  type SongPlace,
  slideName,
} from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { LockOpen } from "lucide-react";
import { type ReactNode, useMemo } from "react";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import type { HeardSong } from "../../../store/song-slice.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Panel } from "../../../ui/Panel.tsx";

/** A lock that waits, with its place in a song of the film where there is one. */
interface WaitingLock {
  readonly lock: OpenLock;
  readonly name: string;
  readonly former: ShowSong | undefined;
  readonly place: SongPlace | null;
}

/**
 * Locks on places of a song that is no longer in the film: where each would go, to place, free
 * or bring back.
 */
export function OpenLocksPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const show = useOpenShow();
  const heard = useAppSelector((state) => state.song.heard);
  const waiting = useMemo(() => waitingLocks(show, heard), [show, heard]);
  if (waiting.length === 0) return null;
  const placeable = waiting.filter(({ place }) => place !== null);
  const former = waiting.find((one) => one.former)?.former;
  const playing = plan.music.songs.length > 1 ? "these songs" : `“${show.songs[0]?.fileName ?? "this song"}”`;
  const placeAll = (): void =>
    edit((document) => placeable.reduce((next, { lock, place }) => placeLock(next, lock, place), document));
  const freeAll = (): void =>
    edit((document) => openLocks(document).reduce((next, lock) => placeLock(next, lock, null), document));
  return (
    <Panel title="Locks from before" aside={<span className="text-[13px] text-quiet">{waiting.length}</span>}>
      <p className="text-[13px] text-soft">
        {placeable.length} of {counted(waiting.length, "lock")} {wordFor(placeable.length, "has", "have")} a place in{" "}
        {playing}: the same section, bar and beat.
        {placeable.length > 0 && placeable.length < waiting.length && " The others wait."}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {placeable.length > 0 && <Button onClick={placeAll}>Place {placeable.length}</Button>}
        <Button kind="quiet" onClick={freeAll}>
          Free all
        </Button>
        {former && (
          <Button kind="quiet" title={former.fileName} onClick={() => edit((document) => chooseSong(document, former))}>
            Back to the song before
          </Button>
        )}
      </div>
      <ul aria-label="Locks from before" className="mt-2 flex max-h-52 flex-col gap-1 overflow-y-auto text-[13px]">
        {waiting.map((one) => (
          <WaitingLine key={`${one.lock.kind} ${one.lock.id}`} {...one} />
        ))}
      </ul>
    </Panel>
  );
}

function WaitingLine({ lock, name, place }: WaitingLock): ReactNode {
  const put = (where: SongPlace | null): void => edit((show) => placeLock(show, lock, where));
  return (
    <li className="flex items-center gap-2" data-testid="open-lock">
      <LockOpen size={14} aria-hidden className="shrink-0 text-quiet" />
      <span className="min-w-0 flex-1">
        <span className="block truncate text-ink" title={name}>
          {name}
        </span>
        <span className="block text-quiet">
          {clockText(lock.place.seconds)} {place ? `→ ${clockText(place.seconds)}` : "has no place"}
        </span>
      </span>
      {place && (
        <Button kind="quiet" aria-label={`Place the lock of ${name}`} onClick={() => put(place)}>
          Place
        </Button>
      )}
      <Button kind="quiet" aria-label={`Free ${name}`} onClick={() => put(null)}>
        Free
      </Button>
    </li>
  );
}

function waitingLocks(show: ShowDocument, heard: Readonly<Record<string, HeardSong>>): WaitingLock[] {
  return openLocks(show).map((lock): WaitingLock => {
    const former = formerSongOf(show, lock);
    return { lock, name: nameOf(show, lock), former, place: former ? placeIn(show, heard, former, lock) : null };
  });
}

/** In the first song of the film that has a counterpart. */
function placeIn(
  show: ShowDocument,
  heard: Readonly<Record<string, HeardSong>>,
  former: ShowSong,
  { place }: OpenLock,
): SongPlace | null {
  const before = heard[former.sha256]?.analysis;
  if (!before) return null;
  for (const song of show.songs) {
    const analysis = heard[song.sha256]?.analysis;
    const from = { song: former, analysis: before };
    const seconds = analysis ? counterpartSeconds(place.seconds, from, { song, analysis }) : null;
    if (seconds !== null) return { songId: song.id, seconds, turn: 0 };
  }
  return null;
}

function nameOf(show: ShowDocument, { kind, id }: OpenLock): string {
  if (kind === "passage") {
    const index = show.passages.findIndex((passage) => passage.id === id);
    return `Start of ${show.passages[index]?.name || `passage ${index + 1}`}`;
  }
  const slide = show.slides.find((one) => one.id === id);
  return slide ? slideName(slide) : id;
}
