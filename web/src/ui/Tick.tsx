import type { ReactNode } from "react";

interface TickProps {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** Yes or no, with words beside it. */
export function Tick({ label, checked, onChange }: TickProps): ReactNode {
  return (
    <label className="flex items-center gap-2.5 text-[13px] text-soft">
      <input
        type="checkbox"
        checked={checked}
        onChange={({ target }) => onChange(target.checked)}
        className="size-4 accent-[var(--lantern)]"
      />
      {label}
    </label>
  );
}
