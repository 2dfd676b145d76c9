import {
  ACCENT_REACH_SECONDS,
  detectedMarkers,
  type MarkerSpacing,
  markerPlaces,
  thinnedMarkers,
} from "@humming-tide/core/markers";
import { itemAt } from "@humming-tide/core/presence";
import { MARKER_ORIGINS, type Marker, withMarkers } from "@humming-tide/core/show";
import { Checkbox } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";
import { type NamedStretch, useSongStretches } from "./use-song-stretches.ts";

const SPACINGS: readonly { readonly value: MarkerSpacing; readonly label: string }[] = [
  { value: "beat", label: "beats" },
  { value: "second", label: "seconds" },
  { value: "bar", label: "bars" },
  { value: "phrase", label: "phrases" },
  { value: "section", label: "sections" },
  { value: "accent", label: "accents" },
];

/** Sets markers on places of the music, or thins out to one a place those that are there. */
export function MarkersFromMusic(): ReactNode {
  const { song, analysis, grid, change } = useListenSong();
  const stretches = useSongStretches();
  const [spacing, setSpacing] = useState<MarkerSpacing>("bar");
  const [stretchId, setStretchId] = useState("whole");
  const [alsoPlaced, setAlsoPlaced] = useState(false);
  const [said, setSaid] = useState("");
  const stretch = stretches.find(({ id }) => id === stretchId) ?? itemAt(stretches, 0);
  const places = markerPlaces(analysis, grid, spacing, stretch);
  const become = (markers: readonly Marker[]): void => {
    const more = markers.length - song.markers.length;
    setSaid(more === 0 ? "Nothing to do." : more > 0 ? `${more} more.` : `${-more} gone, ${markers.length} left.`);
    if (more !== 0) change(() => ({ markers: [...markers] }));
  };
  const setThem = (): void => {
    try {
      become(withMarkers(song.markers, detectedMarkers(places, spacing)));
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  const thin = (): void => {
    const origins = MARKER_ORIGINS.filter((origin) => alsoPlaced || origin !== "placed");
    become(
      thinnedMarkers(song.markers, {
        // Of the whole song: a place just outside the stretch still has its own markers.
        places: markerPlaces(analysis, grid, spacing, { startSeconds: 0, endSeconds: Infinity }),
        reachSeconds: spacing === "accent" ? ACCENT_REACH_SECONDS : null,
        within: stretch,
        origins: new Set(origins),
      }),
    );
  };
  return (
    <Panel title="On the music">
      <div className="flex flex-col gap-2.5">
        <Choice label="Places of the music" value={spacing} options={SPACINGS} onChange={setSpacing} />
        <StretchChoice stretch={stretch} onChoose={setStretchId} stretches={stretches} />
        <div className="grid grid-cols-2 gap-2">
          <Button disabled={places.length === 0} onClick={setThem}>
            Set {places.length === 1 ? "one" : places.length}
          </Button>
          <Button
            disabled={song.markers.length === 0}
            title="Cuts and accents only; sections and notes stay"
            onClick={thin}
          >
            Thin out to these
          </Button>
        </div>
        <AlsoPlacedTick checked={alsoPlaced} onChange={setAlsoPlaced} />
        <p aria-live="polite" className="min-h-5 text-[13px] text-soft">
          {said}
        </p>
      </div>
    </Panel>
  );
}

interface AlsoPlacedTickProps {
  checked: boolean;
  onChange: (value: boolean) => void;
}

/** Whether markers that a person set may go too. */
function AlsoPlacedTick({ checked, onChange }: AlsoPlacedTickProps): ReactNode {
  return (
    <label className="flex items-center gap-2 text-[13px] text-soft">
      <Checkbox.Root
        checked={checked}
        onCheckedChange={(checked) => onChange(checked === true)}
        className="flex size-4 items-center justify-center rounded border border-line-strong"
      >
        <Checkbox.Indicator className="size-2 rounded-sm bg-soft" />
      </Checkbox.Root>
      Thin out my own markers too
    </label>
  );
}

interface StretchChoiceProps {
  stretch: NamedStretch;
  onChoose: (value: string) => void;
  stretches: readonly NamedStretch[];
}

/** The part of the song that is meant. */
function StretchChoice({ stretch, onChoose, stretches }: StretchChoiceProps): ReactNode {
  return (
    <label className="flex items-center justify-between gap-3 text-[13px] text-quiet">
      In
      <select
        value={stretch.id}
        className="min-w-0 flex-1 truncate rounded-md border border-line-strong/60 bg-ground px-2 py-1.5 text-ink"
        onChange={(event) => onChoose(event.target.value)}
      >
        {stretches.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
