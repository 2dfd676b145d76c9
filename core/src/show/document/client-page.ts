import { z } from "zod";
import { CONTAINER_FACTS } from "./containers.ts";
import { type FilmOutput, watermarkSchema } from "./outputs.ts";

/** Amounts are whole numbers of a currency's smallest unit, as ISO 4217 counts them. */
const priceSchema = z.object({
  minorUnits: z.number().int().min(1).max(10_000_000),
  /** ISO 4217. */
  currency: z.string().regex(/^[A-Z]{3}$/),
});
export type Price = z.infer<typeof priceSchema>;

export const clientOfferSchema = z.object({
  /**
   * The output that the client sees; one that is not there (any more): the first that is a video.
   */
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
  /**
   * What plays on the page while downloads cost something: a small film with a watermark, or the
   * film itself, which a visitor can save from the browser without paying.
   */
  pageFilm: z.enum(["preview", "full"]),
  comments: z.boolean(),
  /** To whoever opens the page; empty: none. */
  greeting: z.string().max(600),
});
/** What a client page offers. Who may see it, and for how long, is kept beside the show. */
export type ClientOffer = z.infer<typeof clientOfferSchema>;

export const FIRST_CLIENT_OFFER: ClientOffer = {
  outputId: null,
  watermark: null,
  downloads: false,
  price: null,
  pageFilm: "preview",
  comments: true,
  greeting: "",
};

/**
 * The part of a show that its films are made of, as text: without what a client page offers.
 */
export const filmText = <Show extends { readonly clientOffer: ClientOffer }>({
  clientOffer: _,
  ...film
}: Show): string => JSON.stringify(film);

/** Whether two states of a show make the same films. */
export const sameFilm = <Show extends { readonly clientOffer: ClientOffer }>(a: Show, b: Show): boolean =>
  filmText(a) === filmText(b);

/**
 * The output that a client page shows: the chosen one where it is a video, else the first that is;
 * null where none is.
 */
export const offeredOutput = (
  outputs: readonly FilmOutput[],
  { outputId }: Pick<ClientOffer, "outputId">,
): FilmOutput | null => {
  const videos = outputs.filter(({ container }) => CONTAINER_FACTS[container].playsInBrowsers);
  return videos.find(({ id }) => id === outputId) ?? videos[0] ?? null;
};
