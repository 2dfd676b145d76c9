import { type Finding, findingGroups, type Severity } from "@humming-tide/core/check";
import { counted } from "@humming-tide/core/language";
import { Fragment, type ReactNode } from "react";
import { useAppSelector } from "../../../store/store.ts";
import { CheckRunPanel } from "./CheckRunPanel.tsx";
import { FindingCard } from "./FindingCard.tsx";
import { GroupCard } from "./GroupCard.tsx";

/** Fewer of a kind stand by themselves. */
const LEAST_GROUP = 3;

const HEADINGS: Readonly<Record<Severity, string>> = {
  error: "Not fit to be handed over",
  warning: "Worth a look",
  hint: "Good to know",
};

/** All that was found, the gravest first, and how thoroughly it was looked for. */
export function ChecksView(): ReactNode {
  const findings = useAppSelector((state) => state.check.findings);
  const isLaid = useAppSelector((state) => state.view.plan !== null);
  return (
    <>
      <div className="min-w-0 flex-1 overflow-y-auto px-6 py-4">
        <h1 className="mb-1 text-xl">Checks</h1>
        <p className="mb-4 text-[13px] text-soft" data-testid="checks-said">
          {summary(findings, isLaid)}
        </p>
        {(["error", "warning", "hint"] as const).map((severity) => {
          const found = findings.filter((finding) => finding.severity === severity);
          if (found.length === 0) return null;
          return (
            <section key={severity} aria-label={HEADINGS[severity]} className="mb-5">
              <h2 className="mb-2 text-[15px]">{HEADINGS[severity]}</h2>
              <ul className="flex flex-col gap-2">
                {findingGroups(found).map((group) => (
                  <Fragment key={group.kind}>
                    {group.findings.length >= LEAST_GROUP ? (
                      <li>
                        <GroupCard group={group} />
                      </li>
                    ) : (
                      group.findings.map((finding, index) => (
                        // biome-ignore lint/suspicious/noArrayIndexKey: findings have no names of their own
                        <li key={`${finding.place.slideId} ${index}`}>
                          <FindingCard finding={finding} />
                        </li>
                      ))
                    )}
                  </Fragment>
                ))}
              </ul>
            </section>
          );
        })}
      </div>
      <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <CheckRunPanel />
      </aside>
    </>
  );
}

function summary(findings: readonly Finding[], isLaid: boolean): string {
  const count = (severity: Severity): number => findings.filter((finding) => finding.severity === severity).length;
  const [errors, warnings] = [count("error"), count("warning")];
  if (errors + warnings === 0)
    return isLaid
      ? "Nothing stands in the way. Landings, times, framing in every output and the end of the music are looked at after every edit."
      : "There is no film yet whose landings could be looked at.";
  const parts = [
    ...(errors > 0 ? [`${counted(errors, "thing")} to put right`] : []),
    ...(warnings > 0 ? [`${warnings} worth a look`] : []),
  ];
  return `${parts.join(", ")}. What a button offers is one edit, and can be undone.`;
}
