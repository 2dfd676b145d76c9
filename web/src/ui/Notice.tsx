import { CircleAlert, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";

/** Something a person must know: a warning they can live with, or an error they must act on. */
export function Notice({ kind, children }: { kind: "warning" | "error"; children: ReactNode }): ReactNode {
  const Icon = kind === "error" ? CircleAlert : TriangleAlert;
  return (
    <div
      role={kind === "error" ? "alert" : "status"}
      className={`flex gap-2 rounded-md border px-3 py-2 text-[13px] ${kind === "error" ? "border-error/60" : "border-warning/50"}`}
    >
      <Icon size={16} aria-hidden className={`mt-0.5 shrink-0 ${kind === "error" ? "text-error" : "text-warning"}`} />
      <div className="min-w-0">{children}</div>
    </div>
  );
}
