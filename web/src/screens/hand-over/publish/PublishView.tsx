import type { Services } from "@humming-tide/contract";
import { CONTAINER_FACTS } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import {
  serverState,
  useDeliveriesQuery,
  useExportsQuery,
  useServicesQuery,
} from "../../../server-state/server-state.ts";
import { useShowId } from "../../../store/open-show.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { instantText } from "../../../ui/date-text.ts";
import { DeliveryCard } from "./DeliveryCard.tsx";
import { DiscForm } from "./DiscForm.tsx";
import { VideoForm } from "./VideoForm.tsx";

/** Films that were exported go on a video site or onto a disc. */
export function PublishView(): ReactNode {
  const showId = useShowId();
  const films = (useExportsQuery(showId).data ?? []).filter(
    ({ state, output }) => state === "done" && CONTAINER_FACTS[output.container].playsInBrowsers,
  );
  const { data: deliveries = [] } = useDeliveriesQuery(showId);
  const { data: services = null } = useServicesQuery();
  const dispatch = useAppDispatch();
  const take = (next: Services): void => void dispatch(serverState.util.upsertQueryData("services", undefined, next));
  const [chosen, setChosen] = useState<string | null>(null);
  const film = films.find(({ id }) => id === chosen) ?? films[0];
  return (
    <>
      <div className="min-w-0 flex-1 overflow-y-auto px-6 py-4">
        <h1 className="mb-2 text-xl">Publish</h1>
        {film ? (
          <label className="flex items-center gap-3 text-[13px] text-soft">
            The film
            <select
              value={film.id}
              onChange={({ target }) => setChosen(target.value)}
              className="min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink"
            >
              {films.map(({ id, fileName, bytes, createdAt }) => (
                <option key={id} value={id}>
                  {fileName}, {((bytes ?? 0) / 1e6).toFixed(1)} MB, exported {instantText(createdAt)}
                </option>
              ))}
            </select>
          </label>
        ) : (
          <p className="text-[14px] text-soft">
            No film has been exported yet.{" "}
            <Link className="underline" to="?part=films">
              Export one first
            </Link>
            ; then it can be published and burnt from here.
          </p>
        )}
        <h2 className="mt-7 mb-2 text-lg">Deliveries</h2>
        {deliveries.length === 0 && <p className="text-[14px] text-soft">Nothing yet.</p>}
        <ul className="flex flex-col gap-3">
          {deliveries.map((delivery) => (
            <li key={delivery.id}>
              <DeliveryCard delivery={delivery} />
            </li>
          ))}
        </ul>
      </div>
      <aside className="w-[340px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <VideoForm film={film ?? null} services={services} onServices={take} />
        <DiscForm film={film ?? null} services={services} />
      </aside>
    </>
  );
}
