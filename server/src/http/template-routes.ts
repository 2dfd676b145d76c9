import { createTemplateSchema } from "@humming-tide/contract";
import express, { Router } from "express";
import { templateStore } from "../store/template-store.ts";

export function templateRoutes(): Router {
  const router = Router();

  router.get("/", async (_request, response) => {
    response.json(await templateStore.list());
  });

  router.post("/", express.json({ limit: "1mb" }), async (request, response) => {
    const { name, template } = createTemplateSchema.parse(request.body);
    response.status(201).json(await templateStore.put(name, template));
  });

  router.delete("/:id", async (request, response) => {
    await templateStore.remove(request.params.id);
    response.status(204).end();
  });

  return router;
}
