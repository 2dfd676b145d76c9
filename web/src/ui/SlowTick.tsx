import { type ReactNode, useState } from "react";
import { Tick } from "./Tick.tsx";

/**
 * A tick that somebody else keeps: it shows what was pressed at once, and what is true when the
 * answer has come.
 */
export function SlowTick({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => Promise<unknown>;
}): ReactNode {
  const [wanted, setWanted] = useState<boolean | null>(null);
  return (
    <Tick
      label={label}
      checked={wanted ?? checked}
      onChange={(next) => {
        setWanted(next);
        void onChange(next).finally(() => setWanted(null));
      }}
    />
  );
}
