import { type ReactNode } from "react";
import { api } from "../../../api.ts";
import { useClientPageAction } from "../../../comments/use-client-page-action.ts";
import { useShowId } from "../../../store/open-show.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { EmptyState } from "../../../ui/EmptyState.tsx";
import { AccessPanel } from "./AccessPanel.tsx";
import { AddressLine } from "./AddressLine.tsx";
import { ClientComments } from "./ClientComments.tsx";
import { OfferPanel } from "./OfferPanel.tsx";
import { PaymentsPanel } from "./PaymentsPanel.tsx";
import { StudioPanel } from "./StudioPanel.tsx";
import { VersionsView } from "./VersionsView.tsx";

/** The client's private page: what it shows, who may see it, and what was said on it. */
export function ClientPageView(): ReactNode {
  const showId = useShowId();
  const client = useAppSelector((state) => state.client.page);
  const { isBusy, failure, run } = useClientPageAction();
  if (!client) return <p className="p-10 text-quiet">Looking for the client page …</p>;
  if (!client.page) {
    const open = (): void =>
      void run(() => api.changeClientPage(showId, { shown: true, expiresAt: null, embedOrigins: [] }));
    return (
      <div className="min-w-0 flex-1">
        <h1 className="sr-only">Client page</h1>
        <EmptyState
          title="No client page yet"
          action={
            <Button kind="primary" disabled={isBusy} onClick={open}>
              Open a client page
            </Button>
          }
        >
          {failure ??
            "A private page at an address that nobody can guess: the client watches the film there, comments right at the place, and downloads it if you allow that."}
        </EmptyState>
      </div>
    );
  }
  return (
    <>
      <div className="min-w-0 flex-1 overflow-y-auto px-6 py-4">
        <AddressLine page={client.page} hasFilm={client.versions.some(({ state }) => state === "live")} />
        <VersionsView client={client} />
        <ClientComments comments={client.comments} />
      </div>
      <aside className="w-[320px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <AccessPanel page={client.page} />
        <OfferPanel canBePaid={client.canBePaid} />
        <StudioPanel />
        <PaymentsPanel payments={client.payments} />
      </aside>
    </>
  );
}
