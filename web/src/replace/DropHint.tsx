import type { ReactNode } from "react";
import type { useFileDrop } from "./use-file-drop.ts";

interface DropHintProps {
  over: ReturnType<typeof useFileDrop>["over"];
  /** What happens beside pictures. */
  beside: string;
}

const FRAME =
  "pointer-events-none absolute inset-2 z-30 flex items-end justify-center rounded-xl " +
  "border-2 border-dashed border-line-strong";

/** What letting go would do, at the foot of where files are dragged. */
export function DropHint({ over, beside }: DropHintProps): ReactNode {
  if (over === null) return null;
  return (
    <div className={FRAME}>
      {over !== "beside" && over.box && (
        <span
          className="fixed rounded-md border-2 border-ink bg-ink/20"
          style={{ left: over.box.left, top: over.box.top, width: over.box.width, height: over.box.height }}
        />
      )}
      <p className="mb-4 max-w-[90%] rounded-md border border-line bg-raised px-4 py-2 text-[15px] shadow-2xl">
        {over === "beside" ? (
          beside
        ) : (
          <>
            Drop to replace “<bdi>{over.name}</bdi>”
          </>
        )}
      </p>
    </div>
  );
}
