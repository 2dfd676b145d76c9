import { applyFix, findingText, fixLabel } from "@humming-tide/core/check";
import { TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { edit } from "../../../store/edit.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";

/** What should be looked at about one slot, and what puts it right. */
export function SlotFindings({ slotIndex }: { slotIndex: number }): ReactNode {
  const all = useAppSelector((state) => state.check.findings);
  const findings = all.filter(({ place }) => place.slotIndex === slotIndex);
  if (findings.length === 0) return null;
  return (
    <ul aria-label="Worth a look" className="mt-2 flex flex-col gap-2 border-t border-line pt-2">
      {findings.map((finding) => (
        <li key={finding.kind} className="text-[13px] text-soft">
          <p className="flex gap-2">
            <TriangleAlert
              size={15}
              aria-hidden
              className={`mt-0.5 shrink-0 ${finding.severity === "error" ? "text-error" : finding.severity === "warning" ? "text-warning" : "text-quiet"}`}
            />
            <span className="min-w-0 break-words">{findingText(finding)}</span>
          </p>
          {finding.fixes.map((fix) => (
            <Button key={fix.kind} className="mt-1.5 ml-6" onClick={() => edit((document) => applyFix(document, fix))}>
              {fixLabel(finding, fix)}
            </Button>
          ))}
        </li>
      ))}
    </ul>
  );
}
