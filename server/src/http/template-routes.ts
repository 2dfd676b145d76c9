import { createTemplateSchema } from "@humming-tide/contract";
import { Router } from "express";
import { templateStore } from "../store/template-store.ts";
import { jsonBody } from "./json-body.ts";

export function templateRoutes(): Router {
  const router = Router();

  router.get("/", async (_request, response) => {
    response.json(await templateStore.list());
  });

  router.post("/", jsonBody(1024 ** 2), async (request, response) => {
    const { name, template } = createTemplateSchema.parse(request.body);
    response.status(201).json(await templateStore.put(name, template));
  });

  router.delete("/:id", async (request, response) => {
    await templateStore.remove(request.params.id);
    response.status(204).end();
  });

  return router;
}
