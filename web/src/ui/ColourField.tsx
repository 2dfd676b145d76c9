import type { ReactNode } from "react";

/** Colours of our own that are offered first. */
const COLOURS = [
  { value: "#000000", name: "Black" },
  { value: "#0d1f26", name: "Deep" },
  { value: "#f3e9d4", name: "Sand" },
  { value: "#ffffff", name: "White" },
] as const;

/** A colour: one of a few, or any. */
export function ColourField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (colour: string) => void;
}): ReactNode {
  return (
    <fieldset className="flex items-center gap-2">
      <legend className="sr-only">{label}</legend>
      {COLOURS.map((colour) => (
        <button
          key={colour.value}
          type="button"
          title={colour.name}
          aria-label={colour.name}
          aria-pressed={value === colour.value}
          onClick={() => onChange(colour.value)}
          className="size-7 rounded-md border border-line-strong aria-pressed:outline-2 aria-pressed:outline-offset-2 aria-pressed:outline-ink"
          style={{ background: colour.value }}
        />
      ))}
      <label className="ml-1 flex items-center gap-2 text-[13px] text-soft">
        <span>Any</span>
        <input
          type="color"
          aria-label={`${label}: any`}
          value={value}
          onChange={(event) => onChange(event.target.value)}
          className="h-7 w-10 cursor-pointer rounded border border-line-strong/60 bg-ground"
        />
      </label>
    </fieldset>
  );
}
