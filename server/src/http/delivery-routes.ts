import { type Delivery, deliveryWishSchema, signInSchema } from "@humming-tide/contract";
import { Router } from "express";
import type { DeliveryQueue } from "../deliveries/delivery-queue.ts";
import type { ShowStore } from "../store/show-store.ts";
import { jsonBody } from "./json-body.ts";

export function deliveryRoutes(shows: ShowStore, deliveries: DeliveryQueue): Router {
  const router = Router();
  const json = jsonBody();

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

  router.get("/shows/:id/deliveries", async (request, response) => {
    await shows.revision(request.params.id);
    response.json((await deliveries.listForShow(request.params.id)) satisfies Delivery[]);
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
