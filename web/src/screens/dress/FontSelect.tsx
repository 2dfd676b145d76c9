import { FILM_FONTS, type FilmFont } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { SELECT } from "./select-style.ts";

interface FontSelectProps {
  label: string;
  value: FilmFont | null;
  /** What null is called. */
  none: string;
  onChange: (font: FilmFont | null) => void;
}

/** One of the fonts that ship with the program, or none of its own. */
export function FontSelect({ label, value, none, onChange }: FontSelectProps): ReactNode {
  return (
    <select
      aria-label={label}
      value={value ?? ""}
      className={SELECT}
      onChange={({ target }) => onChange((target.value || null) as FilmFont | null)}
    >
      <option value="">{none}</option>
      {FILM_FONTS.map((font) => (
        <option key={font} value={font}>
          {font}
        </option>
      ))}
    </select>
  );
}
