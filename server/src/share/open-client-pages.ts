import type { ExportQueue } from "../jobs/export-queue.ts";
import { drawnFile } from "../media/drawn-file.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import type { ShowStore } from "../store/show-store.ts";
import type { Stores } from "../store/stores.ts";
import { ClientVisits } from "./client-visits.ts";
import type { PaymentService } from "./payment-service.ts";
import { Payments } from "./payments.ts";
import { PublishedVersions } from "./published-versions.ts";
import { StudioIdentityKeeper } from "./studio-identity.ts";
import { StudioPages } from "./studio-pages.ts";

interface ClientPageSources {
  readonly stores: Pick<Stores, "clientPages" | "exports" | "preferences">;
  readonly shows: ShowStore;
  readonly queue: ExportQueue;
  readonly planner: FilmPlanner;
  readonly library: MediaLibrary;
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
  { stores, shows, queue, planner, library }: ClientPageSources,
  { service, address, onChange = () => undefined, now }: ClientPageOptions,
): {
  readonly clientPages: StudioPages;
  readonly visits: ClientVisits;
  readonly payments: Payments;
  readonly identity: StudioIdentityKeeper;
} {
  const { clientPages: pages, exports, preferences } = stores;
  const payments = new Payments(pages, service, onChange);
  const versions = new PublishedVersions({ pages, exports, shows, queue, planner });
  const identity = new StudioIdentityKeeper(preferences);
  const picturePath = (name: string): string => drawnFile(library.store, name, "picture");
  const visitSources = { identity, picturePath };
  const sources = { pages, exports, preferences, shows, versions, payments, onChange, now: now ?? Date.now };
  return {
    clientPages: new StudioPages({ ...sources, address }),
    visits: new ClientVisits({ ...sources, ...visitSources }),
    payments,
    identity,
  };
}
