import { type Delivery, deliveryWishSchema, signInSchema } from "@humming-tide/contract";
import { Router } from "express";
import type { DeliveryQueue } from "../deliveries/delivery-queue.ts";
import type { OutsideAccounts } from "../deliveries/outside-accounts.ts";
import type { ShowStore } from "../store/show-store.ts";
import { jsonBody } from "./json-body.ts";

interface DeliveryParts {
  readonly shows: ShowStore;
  readonly deliveries: DeliveryQueue;
  readonly accounts: OutsideAccounts;
}

export function deliveryRoutes({ shows, deliveries, accounts }: DeliveryParts): Router {
  const router = Router();
  const json = jsonBody();

  router.get("/services", async (_request, response) => {
    response.set("Cache-Control", "no-store").json(await accounts.state());
  });

  router.post("/services/video/sign-in", json, async (request, response) => {
    const { name, password } = signInSchema.parse(request.body);
    await accounts.signIn(name, password);
    response.json(await accounts.state());
  });

  router.post("/services/video/sign-out", async (_request, response) => {
    await accounts.signOut();
    response.json(await accounts.state());
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
