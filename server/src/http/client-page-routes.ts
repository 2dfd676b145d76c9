import {
  answerCommentSchema,
  changeClientPageSchema,
  markCommentSchema,
  publishVersionSchema,
} from "@humming-tide/contract";
import { type Response, Router } from "express";
import type { StudioPages } from "../share/studio-pages.ts";
import { jsonBody } from "./json-body.ts";

/** The studio's side of client pages; every answer is the page as it is then. */
export function clientPageRoutes(pages: StudioPages): Router {
  const router = Router();
  const json = jsonBody();
  const base = "/shows/:id/client-page";
  const tell = async (response: Response, showId: string): Promise<void> => {
    response.json(await pages.get(showId));
  };

  router.get(base, async (request, response) => tell(response, request.params.id));

  router.put(base, json, async (request, response) => {
    await pages.change(request.params.id, changeClientPageSchema.parse(request.body));
    await tell(response, request.params.id);
  });

  router.delete(base, async (request, response) => {
    await pages.remove(request.params.id);
    await tell(response, request.params.id);
  });

  router.post(`${base}/end-waiting`, async (request, response) => {
    await pages.endWaiting(request.params.id);
    await tell(response, request.params.id);
  });

  router.post(`${base}/new-address`, async (request, response) => {
    await pages.newAddress(request.params.id);
    await tell(response, request.params.id);
  });

  router.post(`${base}/versions`, json, async (request, response) => {
    await pages.publish(request.params.id, publishVersionSchema.parse(request.body).note);
    await tell(response, request.params.id);
  });

  router.post(`${base}/comments/:commentId/answers`, json, async (request, response) => {
    const { id, commentId } = request.params;
    await pages.answer(id, commentId, answerCommentSchema.parse(request.body).text);
    await tell(response, id);
  });

  router.put(`${base}/comments/:commentId`, json, async (request, response) => {
    const { id, commentId } = request.params;
    await pages.mark(id, commentId, markCommentSchema.parse(request.body));
    await tell(response, id);
  });

  return router;
}
