import { type ArrangedMusic, filmSecondsOf, levelGain, songPlaceAt } from "@humming-tide/core/arrange";
import { plainSound } from "@humming-tide/core/sound";
import { clockText, framesToCover } from "@humming-tide/core/time";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { SongLibraryDialog } from "../../song-library/SongLibraryDialog.tsx";
import type { Track } from "../../stage/player.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { useOpenShow } from "../../store/open-show.ts";
import { songActions } from "../../store/song-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Corrections } from "./Corrections.tsx";
import { Doubts } from "./Doubts.tsx";
import { Heard } from "./Heard.tsx";
import { LevelCurve } from "./LevelCurve.tsx";
import { ListenSongProvider, useListenSong } from "./listen-song.tsx";
import { MarkersPanel } from "./MarkersPanel.tsx";
import { PlayingPanel } from "./PlayingPanel.tsx";
import { SectionsPanel } from "./SectionsPanel.tsx";
import { SongCurve } from "./SongCurve.tsx";
import { SongsPanel } from "./SongsPanel.tsx";
import { TapsPanel } from "./TapsPanel.tsx";
import { TempoChart } from "./TempoChart.tsx";
import { useMarkerKey } from "./use-marker-key.ts";
import { useTapPasses } from "./use-tap-passes.ts";

const TOOLS = [
  { value: "grid", label: "Grid" },
  { value: "taps", label: "Taps" },
  { value: "markers", label: "Markers" },
  { value: "songs", label: "Songs" },
] as const;
type Tool = (typeof TOOLS)[number]["value"];

/**
 * A song's waveform and grid, from the whole down to single frames, and the gestures that put the
 * grid right.
 */
export function ListenScreen(): ReactNode {
  const [tool, setTool] = useState<Tool>("grid");
  const songs = useOpenShow((show) => show.songs);
  const chosenId = useAppSelector((state) => state.song.chosenId);
  const song = songs.find((other) => other.id === chosenId) ?? songs[0];
  const heard = useAppSelector((state) => (song ? state.song.heard[song.sha256] : undefined));
  if (!song || heard?.failure) return <NoSong failure={heard?.failure ?? null} />;
  if (!heard?.analysis) return <p className="p-10 text-quiet">Loading the analysis of the song …</p>;
  return (
    <ListenSongProvider key={song.id} song={song} analysis={heard.analysis} peaks={heard.peaks}>
      <OpenSong tool={tool} setTool={setTool} />
    </ListenSongProvider>
  );
}

function NoSong({ failure }: { failure: string | null }): ReactNode {
  const [isLibraryOpen, setLibraryOpen] = useState(false);
  return (
    <EmptyState
      title={failure ? "The song cannot be read" : "No song yet"}
      action={
        <div className="flex items-center gap-4">
          <Link className="underline" to="../gather">
            To Gather
          </Link>
          <Button onClick={() => setLibraryOpen(true)}>From the library …</Button>
        </div>
      }
    >
      {failure ?? "Bring one in on Gather, or take one that you have used before; it is listened to at once."}
      {isLibraryOpen && <SongLibraryDialog onClose={() => setLibraryOpen(false)} />}
    </EmptyState>
  );
}

function OpenSong({ tool, setTool }: { tool: Tool; setTool: (tool: Tool) => void }): ReactNode {
  const { song, analysis } = useListenSong();
  const track = useSongTrack();
  const showTaps = useCallback(() => setTool("taps"), [setTool]);
  const taps = useTapPasses(song.id, showTaps);
  const showMarkers = useCallback(() => setTool("markers"), [setTool]);
  useMarkerKey(showMarkers);
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex min-h-0 flex-1 flex-col gap-4 px-5 py-4">
          <div className="flex items-baseline gap-4">
            <h1 className="truncate text-xl" title={song.fileName}>
              <bdi>{song.fileName.replace(/\.\w+$/, "")}</bdi>{" "}
              <span className="ml-2 font-sans text-[13px] text-quiet">{clockText(analysis.durationSeconds)}</span>
            </h1>
            <SongChoice />
          </div>
          {!analysis.steady && (
            <Notice kind="warning">
              No steady beat was found in this song. Pictures are spread evenly over it; tap along to give it one.
            </Notice>
          )}
          <SongCurve />
          {tool === "songs" ? <LevelCurve /> : analysis.steady && <TempoChart />}
        </div>
        <Transport track={track} />
      </div>
      <aside className="flex w-[312px] shrink-0 flex-col border-l border-line bg-raised">
        <PlayingPanel />
        <div className="border-t border-line px-3 py-1.5">
          <Choice label="What to work on" value={tool} options={TOOLS} onChange={setTool} />
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto border-t border-line">
          {tool === "grid" ? (
            <>
              <Heard />
              {analysis.steady && <Doubts />}
              <SectionsPanel />
              <Corrections disabled={!analysis.steady} />
            </>
          ) : tool === "taps" ? (
            <TapsPanel taps={taps} />
          ) : tool === "markers" ? (
            <MarkersPanel />
          ) : (
            <SongsPanel />
          )}
        </div>
      </aside>
    </div>
  );
}

function SongChoice(): ReactNode {
  const { song } = useListenSong();
  const songs = useOpenShow((show) => show.songs);
  const dispatch = useAppDispatch();
  if (songs.length < 2) return null;
  return (
    <Choice
      label="Song"
      value={song.id}
      options={songs.map(({ id, fileName }, i) => ({ value: id, label: `${i + 1}`, hint: fileName }))}
      onChange={(id) => dispatch(songActions.songChosen(id))}
    />
  );
}

/**
 * The song as recorded, at its level, is what plays here, from its first sample to its last; the
 * film comes back when Listen is left.
 */
function useSongTrack(): Track {
  const { song, analysis, grid } = useListenSong();
  const player = usePlayer();
  const rate = useOpenShow((show) => show.frameRate);
  const { sha256, id, level } = song;
  const { durationSeconds } = analysis;
  const { beats } = grid;
  const track = useMemo((): Track => {
    const time = [
      { filmSeconds: 0, soundSeconds: 0 },
      { filmSeconds: durationSeconds, soundSeconds: durationSeconds },
    ];
    return {
      key: `song ${id}`,
      sound: plainSound(
        [{ owner: { kind: "song", id }, soundName: sha256, time, gain: levelGain(level, time) }],
        durationSeconds,
      ),
      rate,
      totalFrames: Math.max(1, framesToCover(durationSeconds, rate)),
      beats,
    };
  }, [sha256, id, level, durationSeconds, rate, beats]);
  useEffect(() => player.setSolo(track), [player, track]);
  useKeptPlace(id);
  return track;
}

/**
 * Listen begins where the film stood, if that is this song, and the film goes on where Listen
 * stood.
 */
function useKeptPlace(songId: string): void {
  const player = usePlayer();
  useEffect(() => {
    const musicNow = (): ArrangedMusic | undefined => store.getState().view.plan?.music;
    const music = musicNow();
    const place = music && songPlaceAt(music, player.filmPosition);
    if (place?.songId === songId) player.seek(place.seconds);
    return () => {
      const seconds = player.filmSeconds();
      player.setSolo(null);
      const now = musicNow();
      const film = now && filmSecondsOf(now, { songId, seconds, turn: place?.songId === songId ? place.turn : 0 });
      if (typeof film === "number") player.seek(film);
    };
  }, [player, songId]);
}
