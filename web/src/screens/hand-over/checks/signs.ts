import type { Severity } from "@humming-tide/core/check";
import { CircleAlert, Info, TriangleAlert } from "lucide-react";

/** How grave a finding is, as a sign with its name. */
export const SIGNS: Readonly<Record<Severity, { Icon: typeof Info; tone: string; name: string }>> = {
  error: { Icon: CircleAlert, tone: "text-error", name: "Error" },
  warning: { Icon: TriangleAlert, tone: "text-warning", name: "Warning" },
  hint: { Icon: Info, tone: "text-quiet", name: "Hint" },
};
