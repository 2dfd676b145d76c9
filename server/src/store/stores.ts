import { ClientPageStore } from "./client-page-store.ts";
import type { StudioDatabase } from "./database.ts";
import { DeliveryStore } from "./delivery-store.ts";
import { ExportStore } from "./export-store.ts";
import { IntakeStore } from "./intake-store.ts";
import { MediaStore } from "./media-store.ts";
import { PreferenceStore } from "./preference-store.ts";
import { ProxyStore } from "./proxy-store.ts";
import { SongLibraryStore } from "./song-library-store.ts";
import { TemplateStore } from "./template-store.ts";
import { VariantStore } from "./variant-store.ts";

/** What is kept of one data folder beside its shows. */
export interface Stores {
  readonly media: MediaStore;
  readonly intakeFiles: IntakeStore;
  readonly proxies: ProxyStore;
  readonly songs: SongLibraryStore;
  readonly templates: TemplateStore;
  readonly variants: VariantStore;
  readonly exports: ExportStore;
  readonly deliveries: DeliveryStore;
  readonly clientPages: ClientPageStore;
  readonly preferences: PreferenceStore;
}

export function openStores(database: StudioDatabase): Stores {
  const media = new MediaStore(database);
  const exports = new ExportStore(database);
  return {
    media,
    intakeFiles: new IntakeStore(database, media),
    proxies: new ProxyStore(database),
    songs: new SongLibraryStore(database),
    templates: new TemplateStore(database),
    variants: new VariantStore(database),
    exports,
    deliveries: new DeliveryStore(database, exports),
    clientPages: new ClientPageStore(database),
    preferences: new PreferenceStore(database),
  };
}
