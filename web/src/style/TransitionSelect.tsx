import { newTransition } from "@humming-tide/core/picture";
import type { TransitionWish } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { DISSOLVE_SECONDS } from "./dissolve-lengths.ts";
import { transitionText } from "./style-words.ts";

interface TransitionSelectProps {
  label: string;
  transition: TransitionWish | null;
  className?: string;
  onChange: (transition: TransitionWish | null) => void;
}

/**
 * The transition of a passage in a line: as the show, a cut, dissolves, or what was chosen on
 * Dress, where all kinds are.
 */
export function TransitionSelect({ label, transition, className, onChange }: TransitionSelectProps): ReactNode {
  const offered: readonly TransitionWish[] = [
    { kind: "cut" },
    ...DISSOLVE_SECONDS.map((count) => newTransition("dissolve", { unit: "seconds", count })),
  ];
  const key = (wish: TransitionWish | null): string => (wish ? JSON.stringify(wish) : "");
  const isOffered = transition === null || offered.some((wish) => key(wish) === key(transition));
  return (
    <select
      aria-label={label}
      value={key(transition)}
      className={`min-w-0 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-[13px] text-ink ${className ?? ""}`}
      onChange={({ target }) => onChange(target.value === "" ? null : (JSON.parse(target.value) as TransitionWish))}
    >
      <option value="">transition as the show</option>
      {[...(isOffered ? [] : [transition]), ...offered].map((wish) => (
        <option key={key(wish)} value={key(wish)}>
          {transitionText(wish)}
        </option>
      ))}
    </select>
  );
}
