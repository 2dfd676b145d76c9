import { WORD_PLACES, type WordPlace } from "@humming-tide/core/show";
import { RadioGroup } from "radix-ui";
import type { ReactNode } from "react";

const NAMES: Readonly<Record<WordPlace, string>> = {
  "top-left": "Top left",
  top: "Top",
  "top-right": "Top right",
  left: "Left",
  middle: "Middle",
  right: "Right",
  "bottom-left": "Bottom left",
  bottom: "Bottom",
  "bottom-right": "Bottom right",
};

/** One of nine places in a frame, in a small frame of nine. */
export function PlaceField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: WordPlace;
  onChange: (place: WordPlace) => void;
}): ReactNode {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(next) => onChange(next as WordPlace)}
      className="grid w-[99px] shrink-0 grid-cols-3 overflow-hidden rounded-md border border-line-strong/60"
    >
      {WORD_PLACES.map((place) => (
        <RadioGroup.Item
          key={place}
          value={place}
          aria-label={NAMES[place]}
          title={NAMES[place]}
          className={`group flex h-5 p-1 hover:bg-high data-[state=checked]:bg-high ${ACROSS[place]} ${DOWN[place]}`}
        >
          <span className="h-[3px] w-4 rounded-full bg-line-strong group-data-[state=checked]:bg-ink" />
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

const ACROSS = Object.fromEntries(
  WORD_PLACES.map((place) => [
    place,
    place.endsWith("left") ? "justify-start" : place.endsWith("right") ? "justify-end" : "justify-center",
  ]),
) as Record<WordPlace, string>;
const DOWN = Object.fromEntries(
  WORD_PLACES.map((place) => [
    place,
    place.startsWith("top") ? "items-start" : place.startsWith("bottom") ? "items-end" : "items-center",
  ]),
) as Record<WordPlace, string>;
