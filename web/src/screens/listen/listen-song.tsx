import { correctedGrid, type Grid, type GridEdit } from "@humming-tide/core/grid";
import type { MusicAnalysis, WaveformPeaks } from "@humming-tide/core/music";
import { changeSong, type MarkerKind, type ShowSong, type SongChange, withMarkers } from "@humming-tide/core/show";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import { showActions } from "../../store/show-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";

/** The song that Listen is about, and how it is changed. All times are seconds of the song. */
interface ListenSong {
  readonly song: ShowSong;
  readonly analysis: MusicAnalysis;
  readonly peaks: WaveformPeaks;
  /** What was heard after the person's corrections. */
  readonly grid: Grid;
  /** One undo step; the same tag in a row is one step together. */
  readonly change: (change: (song: ShowSong) => SongChange, tag?: string) => void;
  /** Shown while something is dragged; null puts it back. */
  readonly draft: (change: ((song: ShowSong) => SongChange) | null) => void;
  readonly correct: (edit: GridEdit) => void;
  readonly chosenMarkerId: string | null;
  readonly chooseMarker: (id: string | null) => void;
  /** What a new marker is for. */
  readonly markerKind: MarkerKind;
  readonly setMarkerKind: (kind: MarkerKind) => void;
  /** Puts a marker by hand, and chooses it. */
  readonly placeMarker: (seconds: number) => void;
}

const Context = createContext<ListenSong | null>(null);

export function useListenSong(): ListenSong {
  const value = useContext(Context);
  if (!value) throw new Error("useListenSong is for what stands on Listen");
  return value;
}

interface ListenSongProviderProps {
  song: ShowSong;
  analysis: MusicAnalysis;
  peaks: WaveformPeaks;
  children: ReactNode;
}

export function ListenSongProvider({ song, analysis, peaks, children }: ListenSongProviderProps): ReactNode {
  const dispatch = useAppDispatch();
  const songId = song.id;
  // While a beat is dragged, the draft is what is seen.
  const drafted = useAppSelector((state) => state.show.draft?.songs.find((other) => other.id === songId));
  const { gridEdits } = drafted ?? song;
  const grid = useMemo(() => correctedGrid(analysis, gridEdits), [analysis, gridEdits]);
  const change = useCallback(
    (make: (song: ShowSong) => SongChange, tag?: string) => {
      const { document } = store.getState().show;
      const current = document?.songs.find((other) => other.id === songId);
      if (document && current) dispatch(showActions.edited(changeSong(document, songId, make(current)), tag));
    },
    [dispatch, songId],
  );
  const draft = useCallback(
    (make: ((song: ShowSong) => SongChange) | null) => {
      const { document } = store.getState().show;
      const current = document?.songs.find((other) => other.id === songId);
      if (!document || !current) return;
      dispatch(showActions.drafted(make ? changeSong(document, songId, make(current)) : null));
    },
    [dispatch, songId],
  );
  const correct = useCallback(
    (edit: GridEdit) => change((current) => ({ gridEdits: combined(current.gridEdits, edit) })),
    [change],
  );
  const [chosenMarkerId, chooseMarker] = useState<string | null>(null);
  const [markerKind, setMarkerKind] = useState<MarkerKind>("cut");
  const placeMarker = useCallback(
    (seconds: number) =>
      change(({ markers }) => {
        const next = withMarkers(markers, [{ seconds, name: "", kind: markerKind, origin: "placed" }]);
        chooseMarker(next.find(({ id }) => !markers.some((marker) => marker.id === id))?.id ?? null);
        return { markers: next };
      }),
    [change, markerKind],
  );
  const shown = drafted ?? song;
  const value = useMemo(
    () => ({
      ...{ song: shown, analysis, peaks, grid, change, draft, correct },
      ...{ chosenMarkerId, chooseMarker, markerKind, setMarkerKind, placeMarker },
    }),
    [shown, analysis, peaks, grid, change, draft, correct, chosenMarkerId, markerKind, placeMarker],
  );
  return <Context value={value}>{children}</Context>;
}

/** Nudges in a row add up to one edit, and opposite ones vanish. */
function combined(edits: ShowSong["gridEdits"], next: GridEdit): ShowSong["gridEdits"] {
  const last = edits.at(-1);
  if (next.kind !== "nudge" || last?.kind !== "nudge") return [...edits, next];
  const milliseconds = Math.max(-2000, Math.min(2000, last.milliseconds + next.milliseconds));
  return milliseconds === 0 ? edits.slice(0, -1) : [...edits.slice(0, -1), { kind: "nudge", milliseconds }];
}
