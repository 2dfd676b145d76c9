import { type Delivery, deliverySchema, type Services } from "@humming-tide/contract";
import { useCallback, useEffect, useState } from "react";
import { api } from "../../../api.ts";

/** The show's deliveries, kept up to date by the server's events; the newest first. */
export function useDeliveries(showId: string): readonly Delivery[] {
  const [known, setKnown] = useState<ReadonlyMap<string, Delivery>>(new Map());
  useEffect(() => {
    const events = new EventSource(`/api/shows/${showId}/deliveries/events`);
    events.addEventListener("change", (event) => {
      const delivery = deliverySchema.parse(JSON.parse((event as MessageEvent<string>).data));
      setKnown((before) => new Map(before).set(delivery.id, delivery));
    });
    return () => events.close();
  }, [showId]);
  return [...known.values()].sort((a, b) => (a.createdAt < b.createdAt ? 1 : -1));
}

const LOOK_AGAIN_MS = 3000;

/** What services there are and how they stand; a disc is put in by hand, so it is looked for again and again. */
export function useServices(): { readonly services: Services | null; readonly take: (services: Services) => void } {
  const [services, setServices] = useState<Services | null>(null);
  const look = useCallback(async (): Promise<void> => {
    const there = await api.services().catch(() => null);
    if (there) setServices(there);
  }, []);
  useEffect(() => {
    void look();
    const timer = setInterval(() => void look(), LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [look]);
  return { services, take: setServices };
}
