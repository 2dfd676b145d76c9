import { createTemplateSchema } from "@humming-tide/contract";
import { Router } from "express";
import type { TemplateStore } from "../store/template-store.ts";
import { jsonBody } from "./json-body.ts";

export function templateRoutes(templates: TemplateStore): Router {
  const router = Router();

  router.get("/", async (_request, response) => {
    response.json(await templates.list());
  });

  router.post("/", jsonBody(1024 ** 2), async (request, response) => {
    const { name, template } = createTemplateSchema.parse(request.body);
    response.status(201).json(await templates.put(name, template));
  });

  router.delete("/:id", async (request, response) => {
    await templates.remove(request.params.id);
    response.status(204).end();
  });

  return router;
}
