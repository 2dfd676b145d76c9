import type {
  Delivery,
  ExportJob,
  LibrarySong,
  SavedTemplate,
  Services,
  ShowSummary,
  StoredProposal,
  StudioIdentity,
} from "@humming-tide/contract";
import { createApi, fakeBaseQuery } from "@reduxjs/toolkit/query/react";
import { api } from "../api.ts";

/** Why an answer is missing, in a sentence for people. */
interface Failure {
  readonly message: string;
}

type Answer<Data> = { readonly data: Data } | { readonly error: Failure };

async function answerOf<Data>(work: Promise<Data>): Promise<Answer<Data>> {
  try {
    return { data: await work };
  } catch (error) {
    return { error: { message: (error as Error).message } };
  }
}

/**
 * What the server knows, as far as screens look at it. Each question is asked once for all who
 * look, and kept up to date by the stream of events (follow-live.ts).
 */
export const serverState = createApi({
  reducerPath: "server",
  baseQuery: fakeBaseQuery<Failure>(),
  tagTypes: ["exports", "deliveries", "services", "shelf", "songs", "templates", "films-folder"],
  endpoints: (build) => ({
    /** The exports of a show, the newest first. */
    exports: build.query<ExportJob[], string>({
      queryFn: (showId) => answerOf(api.exports(showId)),
      providesTags: ["exports"],
    }),
    /** The deliveries of a show, the newest first. */
    deliveries: build.query<Delivery[], string>({
      queryFn: (showId) => answerOf(api.deliveries(showId)),
      providesTags: ["deliveries"],
    }),
    /** What services there are outside, and how they stand. */
    services: build.query<Services, void>({ queryFn: () => answerOf(api.services()), providesTags: ["services"] }),
    /** All shows: on the shelf, archived and deleted. */
    shelf: build.query<readonly ShowSummary[], void>({
      queryFn: () => answerOf(api.listShows()),
      providesTags: ["shelf"],
    }),
    /** What is proposed for a clip, by content hash; it is looked through on first use. */
    clipProposal: build.query<StoredProposal, string>({ queryFn: (sha256) => answerOf(api.clipProposal(sha256)) }),
    librarySongs: build.query<LibrarySong[], void>({
      queryFn: () => answerOf(api.librarySongs()),
      providesTags: ["songs"],
    }),
    templates: build.query<SavedTemplate[], void>({
      queryFn: () => answerOf(api.templates()),
      providesTags: ["templates"],
    }),
    /** How the studio shows itself to its clients. */
    studio: build.query<StudioIdentity, void>({ queryFn: () => answerOf(api.studioIdentity()) }),
    /** Where finished films are put; null: nowhere. */
    filmsFolder: build.query<string | null, void>({
      queryFn: () => answerOf(api.filmsFolder()),
      providesTags: ["films-folder"],
    }),
  }),
});

export const {
  useExportsQuery,
  useDeliveriesQuery,
  useServicesQuery,
  useShelfQuery,
  useClipProposalQuery,
  useLibrarySongsQuery,
  useTemplatesQuery,
  useFilmsFolderQuery,
  useStudioQuery,
} = serverState;
