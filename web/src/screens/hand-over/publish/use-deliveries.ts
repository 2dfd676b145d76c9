import type { Delivery, LiveEvent, Services } from "@humming-tide/contract";
import { useCallback, useEffect, useState } from "react";
import { api } from "../../../api.ts";
import { listenLive } from "../../../live/live-wire.ts";
import { useLiveList } from "../../../live/use-live-list.ts";

/** The show's deliveries, the newest first. */
export function useDeliveries(showId: string): readonly Delivery[] {
  const read = useCallback(() => api.deliveries(showId), [showId]);
  const itemOf = useCallback(
    (event: LiveEvent) => (event.kind === "delivery" && event.delivery.showId === showId ? event.delivery : null),
    [showId],
  );
  return useLiveList(read, itemOf);
}

/**
 * What services there are and how they stand; the server tells when a disc is put in or an account
 * changes.
 */
export function useServices(): { readonly services: Services | null; readonly take: (services: Services) => void } {
  const [services, setServices] = useState<Services | null>(null);
  useEffect(() => {
    let isOpen = true;
    const look = (): void => {
      api.services().then(
        (there) => isOpen && setServices(there),
        () => undefined,
      );
    };
    look();
    const stop = listenLive(({ kind }) => {
      if (kind === "connected" || kind === "services") look();
    });
    return () => {
      isOpen = false;
      stop();
    };
  }, []);
  return { services, take: setServices };
}
