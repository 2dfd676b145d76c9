import { applyFixes, type FindingGroup, groupFixes, groupText } from "@humming-tide/core/check";
import { present } from "@humming-tide/core/presence";
import { hasPicture } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { edit } from "../../../store/edit.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { SlideImage } from "../../../ui/SlideImage.tsx";
import { FindingCard } from "./FindingCard.tsx";
import { SIGNS } from "./signs.ts";

const SHOWN_PICTURES = 6;
/** A long list is laid out in parts, so that the page never waits. */
const SHOWN_AT_ONCE = 40;

/** Several findings of one kind: what they are, what puts all of them right, and each on wish. */
export function GroupCard({ group }: { group: FindingGroup }): ReactNode {
  const { findings, severity } = group;
  const [shown, setShown] = useState(0);
  const slides = useAppSelector((state) => present(state.show.document).slides);
  const { Icon, tone, name } = SIGNS[severity];
  const ids = new Set(findings.map(({ place }) => place.slideId));
  const pictures = slides.filter((slide) => ids.has(slide.id) && hasPicture(slide));
  return (
    <article className="rounded-lg border border-line bg-raised px-3 py-2.5" data-testid="finding-group">
      <div className="flex items-center gap-3">
        <Icon size={17} aria-label={name} className={`shrink-0 ${tone}`} />
        <h3 className="min-w-0 flex-1 font-sans text-[14px] font-semibold">{groupText(group)}</h3>
        <Button
          kind="quiet"
          aria-expanded={shown > 0}
          onClick={() => setShown(shown > 0 ? 0 : SHOWN_AT_ONCE)}
          className="-mr-2"
        >
          {shown > 0 ? "Hide each" : "Show each"}
        </Button>
      </div>
      {shown === 0 && pictures.length > 0 && (
        <div className="mt-2 flex items-center gap-2 pl-[29px]">
          {pictures.slice(0, SHOWN_PICTURES).map((slide) => (
            <SlideImage key={slide.id} slide={slide} className="h-12 w-[72px] rounded object-cover" />
          ))}
          {pictures.length > SHOWN_PICTURES && (
            <span className="text-[13px] text-quiet">and {pictures.length - SHOWN_PICTURES} more</span>
          )}
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2 pl-[29px] empty:hidden">
        {groupFixes(group).map(({ kind, label, fixes }) => (
          <Button key={kind} onClick={() => edit((document) => applyFixes(document, fixes))}>
            {label}
          </Button>
        ))}
      </div>
      {shown > 0 && (
        <ul className="mt-3 flex flex-col gap-2">
          {findings.slice(0, shown).map((finding, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: findings have no names of their own
            <li key={`${finding.place.slideId} ${index}`}>
              <FindingCard finding={finding} />
            </li>
          ))}
        </ul>
      )}
      {shown > 0 && findings.length > shown && (
        <Button className="mt-2" onClick={() => setShown(shown + SHOWN_AT_ONCE)}>
          Show more, {findings.length - shown} are left
        </Button>
      )}
    </article>
  );
}
