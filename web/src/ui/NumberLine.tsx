import type { ReactNode } from "react";
import { LineField } from "./Field.tsx";

interface NumberLineProps {
  label: string;
  /** Null: nothing is entered. */
  value: number | null;
  /** Both included; what lies outside is not taken while it is typed. */
  min: number;
  max: number;
  step: number;
  placeholder?: string;
  onChange: (value: number) => void;
}

/** A number at the end of the line that names it, shown to the thousandth. */
export function NumberLine({ value, min, max, onChange, ...rest }: NumberLineProps): ReactNode {
  return (
    <LineField
      type="number"
      min={min}
      max={max}
      value={value === null ? "" : Math.round(value * 1000) / 1000}
      onChange={(event) => {
        const next = event.target.valueAsNumber;
        if (next >= min && next <= max) onChange(next);
      }}
      {...rest}
    />
  );
}
