import { changeStudioSchema, LARGEST_LOGO_BYTES } from "@humming-tide/contract";
import { Router, raw } from "express";
import type { StudioIdentityKeeper } from "../share/studio-identity.ts";
import { jsonBody } from "./json-body.ts";

/** What the studio is called and looks like to its clients; every answer is all of it. */
export function studioRoutes(studio: StudioIdentityKeeper): Router {
  const router = Router();
  router.get("/", async (_request, response) => {
    response.json(await studio.get());
  });
  router.put("/", jsonBody(), async (request, response) => {
    response.json(await studio.change(changeStudioSchema.parse(request.body)));
  });
  router.put("/logo", raw({ type: () => true, limit: LARGEST_LOGO_BYTES }), async (request, response) => {
    response.json(await studio.setLogo(request.body as Buffer));
  });
  router.delete("/logo", async (_request, response) => {
    response.json(await studio.setLogo(null));
  });
  return router;
}
