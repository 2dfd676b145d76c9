import { RotateCcw } from "lucide-react";
import type { ReactNode } from "react";
import type { StylePart } from "../../style/style-part.ts";
import { Panel } from "../../ui/Panel.tsx";

/**
 * A panel for one part of the style: says whether it follows what stands above, and gives it back.
 */
export function StylePanel<Value>({
  title,
  part,
  children,
}: {
  title: string;
  part: StylePart<Value>;
  children: ReactNode;
}): ReactNode {
  return (
    <Panel
      title={title}
      aside={
        part.above &&
        (part.isOwn ? (
          <button
            type="button"
            className="inline-flex items-center gap-1 rounded px-1 text-[13px] text-soft underline-offset-2 hover:text-ink hover:underline"
            onClick={part.reset}
          >
            <RotateCcw size={12} aria-hidden /> as {part.above}
          </button>
        ) : (
          <span className="text-[13px] text-quiet">as {part.above}</span>
        ))
      }
    >
      {part.isMixed && (
        <p className="mb-2 text-[13px] text-soft">The slides differ here; a choice makes them all alike.</p>
      )}
      {children}
    </Panel>
  );
}
