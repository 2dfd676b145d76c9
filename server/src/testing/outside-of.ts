import { DeliveryQueue } from "../deliveries/delivery-queue.ts";
import { openClientPages } from "../share/open-client-pages.ts";
import type { StudioPages } from "../share/studio-pages.ts";
import type { Studio } from "../start-server.ts";

/** What leads out of a studio, where nothing is set up for it. */
export const outsideOf = (
  studio: Studio,
): { readonly clientPages: StudioPages; readonly deliveries: DeliveryQueue } => ({
  clientPages: openClientPages(studio, { service: null, address: () => "" }).clientPages,
  deliveries: new DeliveryQueue(studio.queue, studio.planner, null),
});
