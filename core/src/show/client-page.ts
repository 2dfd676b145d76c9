import { z } from "zod";
import { type FilmOutput, isVideo, watermarkSchema } from "./outputs.ts";

/** Amounts are whole numbers of a currency's smallest unit, as ISO 4217 counts them. */
const priceSchema = z.object({
  minorUnits: z.number().int().min(1).max(10_000_000),
  /** ISO 4217. */
  currency: z.string().regex(/^[A-Z]{3}$/),
});
export type Price = z.infer<typeof priceSchema>;

export const clientOfferSchema = z.object({
  /** The output that the client sees; one that is not there (any more): the first that is a video. */
  outputId: z.string().max(64).nullable(),
  watermark: watermarkSchema
    .extend({
      /** Over the film as it plays on the page. */
      onPage: z.boolean(),
      /** Over what can be downloaded. */
      onDownloads: z.boolean(),
    })
    .nullable(),
  downloads: z.boolean(),
  /** Of a download; null: free. */
  price: priceSchema.nullable(),
  comments: z.boolean(),
});
/** What a client page offers. Who may see it and for how long is no matter of the show: that is kept beside it. */
export type ClientOffer = z.infer<typeof clientOfferSchema>;

export const FIRST_CLIENT_OFFER: ClientOffer = {
  outputId: null,
  watermark: null,
  downloads: false,
  price: null,
  comments: true,
};

/** Whether two states of a show make the same films: what a client page offers of them is no matter. */
export function sameFilm<Show extends { readonly clientOffer: ClientOffer }>(a: Show, b: Show): boolean {
  const film = ({ clientOffer: _, ...rest }: Show): string => JSON.stringify(rest);
  return film(a) === film(b);
}

/** The output that a client page shows: the chosen one where it is a video, else the first that is; null where none is. */
export const offeredOutput = (
  outputs: readonly FilmOutput[],
  { outputId }: Pick<ClientOffer, "outputId">,
): FilmOutput | null => {
  const videos = outputs.filter(({ container }) => isVideo(container));
  return videos.find(({ id }) => id === outputId) ?? videos[0] ?? null;
};
