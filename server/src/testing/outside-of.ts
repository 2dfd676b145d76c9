import { DeliveryQueue } from "../deliveries/delivery-queue.ts";
import { OutsideAccounts } from "../deliveries/outside-accounts.ts";
import { openClientPages } from "../share/open-client-pages.ts";
import type { StudioIdentityKeeper } from "../share/studio-identity.ts";
import type { StudioPages } from "../share/studio-pages.ts";
import type { Studio } from "../start-server.ts";

/** What leads out of a studio, where nothing is set up for it. */
export function outsideOf(studio: Studio): {
  readonly clientPages: StudioPages;
  readonly identity: StudioIdentityKeeper;
  readonly accounts: OutsideAccounts;
  readonly deliveries: DeliveryQueue;
} {
  const { stores, queue, planner } = studio;
  const accounts = new OutsideAccounts(stores.preferences, null);
  const { clientPages, identity } = openClientPages(studio, { service: null, address: () => "" });
  return {
    clientPages,
    identity,
    accounts,
    deliveries: new DeliveryQueue({ exports: queue, planner, deliveries: stores.deliveries, accounts }),
  };
}
