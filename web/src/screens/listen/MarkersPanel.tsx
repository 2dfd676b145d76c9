import { itemAt } from "@humming-tide/core/presence";
import { changeMarker, type Marker, withoutMarkers } from "@humming-tide/core/show";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Trash2 } from "lucide-react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Field } from "../../ui/Field.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";
import { MarkersFromMusic } from "./MarkersFromMusic.tsx";
import { MarksFiles } from "./MarksFiles.tsx";
import { KIND_CHOICES, ORIGIN_WORDS, placeText } from "./marker-words.ts";
import { PennantSign } from "./PennantSign.tsx";

const ROW_PIXELS = 30;
const NUDGES_MS = [-10, -1, 1, 10] as const;

/**
 * The song's markers: placed, tapped, heard or read; each can be moved, named, given another kind
 * and taken away.
 */
export function MarkersPanel(): ReactNode {
  const { song, chosenMarkerId } = useListenSong();
  const chosen = song.markers.find(({ id }) => id === chosenMarkerId);
  return (
    <>
      <Panel title="Markers" aside={<span className="text-[13px] text-quiet">{song.markers.length || "none"}</span>}>
        <PlaceMarker />
        <MarkerList />
      </Panel>
      {chosen && <ChosenMarker key={chosen.id} marker={chosen} />}
      <MarkersFromMusic />
      <MarksFiles />
    </>
  );
}

function PlaceMarker(): ReactNode {
  const { markerKind, setMarkerKind, placeMarker } = useListenSong();
  const player = usePlayer();
  return (
    <div className="mb-3 flex flex-col gap-2">
      <Choice label="Kind of a new marker" value={markerKind} options={KIND_CHOICES} onChange={setMarkerKind} />
      <Button onClick={() => placeMarker(player.filmSeconds())}>
        Place one at the playhead <kbd className="ml-1 text-quiet">M</kbd>
      </Button>
    </div>
  );
}

function MarkerList(): ReactNode {
  const { song, chosenMarkerId, chooseMarker, change } = useListenSong();
  const { markers } = song;
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: markers.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_PIXELS,
    overscan: 8,
  });
  const chosenIndex = markers.findIndex(({ id }) => id === chosenMarkerId);
  useEffect(() => {
    if (chosenIndex >= 0) virtual.scrollToIndex(chosenIndex, { align: "auto" });
  }, [chosenIndex, virtual]);
  if (markers.length === 0) {
    return (
      <p className="text-[13px] text-quiet">
        Named places of this song. They stay where they are in the music, whatever happens to the film.
      </p>
    );
  }
  return (
    <div ref={scroll} className="max-h-[216px] overflow-y-auto">
      <ul aria-label="Markers" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const marker = itemAt(markers, item.index);
          const isChosen = marker.id === chosenMarkerId;
          return (
            <li
              key={marker.id}
              className="absolute inset-x-0"
              style={{ height: ROW_PIXELS, transform: `translateY(${item.start}px)` }}
            >
              <MarkerLine
                isChosen={isChosen}
                marker={marker}
                chooseMarker={chooseMarker}
                onRemove={() => change(({ markers: all }) => ({ markers: withoutMarkers(all, new Set([marker.id])) }))}
              />
            </li>
          );
        })}
      </ul>
    </div>
  );
}

interface MarkerLineProps {
  isChosen: boolean;
  marker: Marker;
  chooseMarker: (id: string | null) => void;
  onRemove: () => void;
}

/** One marker: chosen by a press, removed by Delete. */
function MarkerLine({ isChosen, marker, chooseMarker, onRemove }: MarkerLineProps): ReactNode {
  const player = usePlayer();
  return (
    <button
      type="button"
      aria-current={isChosen}
      aria-label={`${placeText(marker.seconds)}, ${marker.kind}${marker.name ? ` “${marker.name}”` : ""}, ${ORIGIN_WORDS[marker.origin]}`}
      className={`flex h-full w-full items-center gap-2 rounded-md px-1.5 text-left text-[13px] ${isChosen ? "bg-high text-ink" : "text-soft hover:bg-high"}`}
      onClick={() => {
        chooseMarker(marker.id);
        player.seek(marker.seconds);
      }}
      onKeyDown={(event) => {
        if (event.key !== "Delete") return;
        event.preventDefault();
        onRemove();
      }}
    >
      <PennantSign marker={marker} />
      <span className="w-[68px] shrink-0">{placeText(marker.seconds)}</span>
      <bdi className="min-w-0 flex-1 truncate">{marker.name}</bdi>
      <span className="shrink-0 text-xs text-quiet">{marker.kind}</span>
    </button>
  );
}

/** The marker that was chosen in the list or on the curve. */
function ChosenMarker({ marker }: { marker: Marker }): ReactNode {
  const { change, analysis } = useListenSong();
  const player = usePlayer();
  const [name, setName] = useState(marker.name);
  const set = (values: Partial<Pick<Marker, "name" | "kind" | "seconds">>, tag?: string): void =>
    change(({ markers }) => ({ markers: changeMarker(markers, marker.id, values) }), tag);
  const move = (milliseconds: number): void => {
    const seconds = Math.max(0, Math.min(analysis.durationSeconds, marker.seconds + milliseconds / 1000));
    set({ seconds }, `marker ${marker.id} moved`);
    player.seek(seconds);
  };
  return (
    <Panel
      title="This marker"
      aside={
        <IconButton
          label="Remove this marker"
          onClick={() => change(({ markers }) => ({ markers: withoutMarkers(markers, new Set([marker.id])) }))}
        >
          <Trash2 size={15} />
        </IconButton>
      }
    >
      <div className="flex flex-col gap-2.5">
        <p className="flex items-center gap-2 text-[13px] text-quiet">
          <PennantSign marker={marker} /> {placeText(marker.seconds)}, {ORIGIN_WORDS[marker.origin]}
        </p>
        <Field
          label="Name"
          maxLength={200}
          value={name}
          onChange={(event) => {
            setName(event.target.value);
            set({ name: event.target.value }, `marker ${marker.id} named`);
          }}
        />
        <Choice label="Kind" value={marker.kind} options={KIND_CHOICES} onChange={(kind) => set({ kind })} />
        <div className="grid grid-cols-4 gap-2">
          {NUDGES_MS.map((milliseconds) => (
            <Button
              key={milliseconds}
              aria-label={`Move the marker by ${milliseconds} milliseconds`}
              onClick={() => move(milliseconds)}
            >
              {milliseconds > 0 ? `+${milliseconds}` : `−${-milliseconds}`}
            </Button>
          ))}
        </div>
        <Button onClick={() => set({ seconds: player.filmSeconds() })}>Move to the playhead</Button>
      </div>
    </Panel>
  );
}
