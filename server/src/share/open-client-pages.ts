import type { ExportQueue } from "../jobs/export-queue.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { ShowStore } from "../store/show-store.ts";
import { ClientVisits } from "./client-visits.ts";
import type { PaymentService } from "./payment-service.ts";
import { Payments } from "./payments.ts";
import { PublishedVersions } from "./published-versions.ts";
import { StudioPages } from "./studio-pages.ts";

interface ClientPageSources {
  readonly shows: ShowStore;
  readonly queue: ExportQueue;
  readonly planner: FilmPlanner;
}

interface ClientPageOptions {
  readonly service: PaymentService | null;
  /** Where client pages are served. */
  readonly address: () => string;
  /** Hears of everything that changes on the page of a show. */
  readonly onChange?: (showId: string) => void;
  readonly now?: () => number;
}

/** Both sides of a studio's client pages, and the payments that both look at. */
export function openClientPages(
  { shows, queue, planner }: ClientPageSources,
  { service, address, onChange = () => undefined, now }: ClientPageOptions,
): { readonly clientPages: StudioPages; readonly visits: ClientVisits; readonly payments: Payments } {
  const payments = new Payments(service, onChange);
  const versions = new PublishedVersions(shows, queue, planner);
  return {
    clientPages: new StudioPages(shows, versions, payments, address, onChange, now),
    visits: new ClientVisits(shows, versions, payments, onChange, now),
    payments,
  };
}
