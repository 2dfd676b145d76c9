import { type Delivery, deliveryWishSchema, signInSchema } from "@humming-tide/contract";
import express, { Router } from "express";
import type { DeliveryQueue } from "../deliveries/delivery-queue.ts";
import type { ShowStore } from "../store/show-store.ts";
import { sendEvents } from "./send-events.ts";

export function deliveryRoutes(shows: ShowStore, deliveries: DeliveryQueue): Router {
  const router = Router();
  const json = express.json();

  router.get("/services", async (_request, response) => {
    response.set("Cache-Control", "no-store").json(await deliveries.services());
  });

  router.post("/services/video/sign-in", json, async (request, response) => {
    const { name, password } = signInSchema.parse(request.body);
    await deliveries.signIn(name, password);
    response.json(await deliveries.services());
  });

  router.post("/services/video/sign-out", async (_request, response) => {
    await deliveries.signOut();
    response.json(await deliveries.services());
  });

  router.post("/shows/:id/deliveries", json, async (request, response) => {
    const { id } = await shows.get(request.params.id);
    response.status(201).json(await deliveries.add(id, deliveryWishSchema.parse(request.body)));
  });

  /** Server-sent events: one "change" for each step of each delivery of the show. */
  router.get("/shows/:id/deliveries/events", async (request, response) => {
    const { id } = await shows.get(request.params.id);
    const tell = sendEvents<Delivery>(response, ({ showId }) => showId === id);
    for (const delivery of await deliveries.listForShow(id)) tell(delivery);
    deliveries.on("change", tell);
    request.on("close", () => deliveries.off("change", tell));
  });

  router.post("/deliveries/:id/cancel", async (request, response) => {
    await deliveries.cancel(request.params.id);
    response.status(202).json({});
  });

  router.post("/deliveries/:id/resume", async (request, response) => {
    await deliveries.resume(request.params.id);
    response.status(202).json({});
  });

  return router;
}
