import type { ExportQueue } from "../jobs/export-queue.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import type { ShowStore } from "../store/show-store.ts";
import { ClientVisits } from "./client-visits.ts";
import type { PaymentService } from "./payment-service.ts";
import { Payments } from "./payments.ts";
import { PublishedVersions } from "./published-versions.ts";
import { StudioPages } from "./studio-pages.ts";

/** Both sides of a studio's client pages. `address`: where they are served. */
export function openClientPages(
  { shows, queue, library }: { readonly shows: ShowStore; readonly queue: ExportQueue; readonly library: MediaLibrary },
  service: PaymentService | null,
  address: () => string,
  now?: () => number,
): { readonly clientPages: StudioPages; readonly visits: ClientVisits } {
  const payments = new Payments(service);
  const versions = new PublishedVersions(shows, queue, library);
  return {
    clientPages: new StudioPages(shows, versions, payments, address),
    visits: new ClientVisits(shows, versions, payments, now),
  };
}
