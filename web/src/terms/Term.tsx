import { present } from "@humming-tide/core/presence";
import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";
import { TERMS, type TermName } from "./terms.ts";

/** A word of ours in a label: pointed at or reached by keys, it says what it means. */
export function Term({ name, children }: { name: TermName; children: ReactNode }): ReactNode {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          aria-description={TERMS[name]}
          className="cursor-help underline decoration-line-strong decoration-dotted underline-offset-4"
        >
          {children}
        </button>
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side="left"
          sideOffset={8}
          className="z-50 max-w-60 rounded bg-ink px-2 py-1 text-xs text-ground shadow-lg"
        >
          {sentence(name)}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** "Slot: the stretch of the film in which a slide is seen". */
const sentence = (name: TermName): string => `${present(name[0]).toUpperCase()}${name.slice(1)}: ${TERMS[name]}`;
