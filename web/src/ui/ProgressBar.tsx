import { Progress } from "radix-ui";
import type { ReactNode } from "react";

export function ProgressBar({ label, share }: { label: string; share: number }): ReactNode {
  return (
    <Progress.Root
      aria-label={label}
      value={Math.round(share * 100)}
      className="h-1.5 overflow-hidden rounded-full bg-high"
    >
      <Progress.Indicator
        className="h-full rounded-full bg-soft transition-[width] duration-150"
        style={{ width: `${share * 100}%` }}
      />
    </Progress.Root>
  );
}
