import { ChevronDown, ChevronRight } from "lucide-react";
import { type ReactNode, useState } from "react";
import { useLocation } from "react-router";
import { TERMS, TERMS_OF_SCREEN } from "./terms.ts";

const keyOf = (screen: string): string => `humming-tide words ${screen}`;

/**
 * Our own terms of the screen: open until a person has closed them, and there to be opened again.
 */
export function WordsHere(): ReactNode {
  const screen = useLocation().pathname.split("/").at(-1) ?? "";
  const terms = TERMS_OF_SCREEN[screen];
  return terms ? <Words key={screen} screen={screen} terms={terms} /> : null;
}

function Words({ screen, terms }: { screen: string; terms: (typeof TERMS_OF_SCREEN)[string] }): ReactNode {
  const [isOpen, setOpen] = useState(() => localStorage.getItem(keyOf(screen)) !== "known");
  const toggle = (): void => {
    localStorage.setItem(keyOf(screen), isOpen ? "known" : "open");
    setOpen(!isOpen);
  };
  const Arrow = isOpen ? ChevronDown : ChevronRight;
  return (
    <section aria-label="Words on this screen" className="pr-3 pl-[18px] text-xs leading-4">
      <button
        type="button"
        aria-expanded={isOpen}
        className="-ml-1 flex items-center gap-1 py-1 text-quiet hover:text-ink"
        onClick={toggle}
      >
        <Arrow size={13} aria-hidden />
        Words here
      </button>
      {isOpen && (
        <dl className="mt-1 flex flex-col gap-2">
          {terms.map((name) => (
            <div key={name}>
              <dt className="text-soft">{name}</dt>
              <dd className="text-quiet">{TERMS[name]}</dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}
