import type { StudioClientPage } from "@humming-tide/contract";
import { Check, Copy, ExternalLink } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button, ButtonLink } from "../../../ui/Button.tsx";
import { instantText } from "../../../ui/date-text.ts";

type Page = NonNullable<StudioClientPage["page"]>;

/** Where the page is, and in words who can see it. */
export function AddressLine({ page, hasFilm }: { page: Page; hasFilm: boolean }): ReactNode {
  const [isCopied, setCopied] = useState(false);
  const copy = async (): Promise<void> => {
    // Where a browser does not allow it, the address can still be marked and copied by hand.
    await navigator.clipboard.writeText(page.address).then(
      () => setCopied(true),
      () => undefined,
    );
  };
  return (
    <section aria-label="Address">
      <h1 className="text-xl">Client page</h1>
      <p className="mb-2 text-[13px] text-soft" data-testid="client-page-state">
        {stateText(page, hasFilm)}
      </p>
      <div className="flex items-center gap-2">
        <input
          readOnly
          aria-label="Address of the client page"
          value={page.address}
          onFocus={({ currentTarget }) => currentTarget.select()}
          className="min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[13px] text-ink"
        />
        <Button onClick={() => void copy()}>
          {isCopied ? <Check size={15} aria-hidden /> : <Copy size={15} aria-hidden />} {isCopied ? "Copied" : "Copy"}
        </Button>
        <ButtonLink href={page.address} target="_blank" rel="noreferrer">
          <ExternalLink size={15} aria-hidden /> Look at it
        </ButtonLink>
      </div>
    </section>
  );
}

function stateText({ shown, expiresAt, hasPin }: Page, hasFilm: boolean): string {
  if (!shown) return "Hidden: whoever has the address sees that it is closed.";
  if (expiresAt !== null && Date.parse(expiresAt) <= Date.now()) return `Closed since ${dateText(expiresAt)}.`;
  const until = expiresAt === null ? "" : `, until ${dateText(expiresAt)}`;
  const who = hasPin ? "whoever has the address and the PIN" : "whoever has the address";
  return hasFilm ? `Open to ${who}${until}.` : `Open to ${who}${until}, but nothing is published on it yet.`;
}

const dateText = (instant: string): string => instantText(instant);
