import { minorUnitsOf, priceText } from "@humming-tide/contract";
import { type ClientOffer, CONTAINER_FACTS, type FilmOutput, offeredOutput, type Price } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { edit } from "../../../store/edit.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { Choice } from "../../../ui/Choice.tsx";
import { LineField } from "../../../ui/Field.tsx";
import { Panel } from "../../../ui/Panel.tsx";
import { Tick } from "../../../ui/Tick.tsx";
import { FIRST_WATERMARK, WatermarkFields } from "../films/WatermarkFields.tsx";

const FIRST_MARK: NonNullable<ClientOffer["watermark"]> = { ...FIRST_WATERMARK, onPage: true, onDownloads: false };
const FIRST_PRICE: Price = { minorUnits: 10_000, currency: "EUR" };

/**
 * What the page offers: part of the show, so that templates and copies carry it. It holds from the
 * next version on.
 */
export function OfferPanel({ canBePaid }: { canBePaid: boolean }): ReactNode {
  const { clientOffer: offer, outputs } = useOpenShow();
  const change = (next: Partial<ClientOffer>, tag: string | null = null): void =>
    edit((document) => ({ ...document, clientOffer: { ...document.clientOffer, ...next } }), tag);
  const videos = outputs.filter(({ container }) => CONTAINER_FACTS[container].playsInBrowsers);
  const { watermark, downloads, price, pageFilm, comments, greeting } = offer;
  return (
    <Panel title="What the client can do">
      <div className="flex flex-col gap-2.5">
        <OfferedFilm onChange={change} videos={videos} />
        <label className="flex flex-col gap-1 text-[13px] text-soft">
          Greeting
          <textarea
            rows={3}
            maxLength={600}
            value={greeting}
            placeholder="A few words above the film"
            className="w-full resize-y rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink"
            onChange={({ target }) => change({ greeting: target.value }, "greeting")}
          />
        </label>
        <Tick
          label="Comments at places of the film"
          checked={comments}
          onChange={(next) => change({ comments: next })}
        />
        <Tick label="Downloads" checked={downloads} onChange={(next) => change({ downloads: next })} />
        {downloads && <DownloadFields price={price} onChange={change} pageFilm={pageFilm} canBePaid={canBePaid} />}
        <WatermarkFields
          watermark={watermark}
          first={FIRST_MARK}
          tag="client watermark"
          onChange={(next, tag) => change({ watermark: next }, tag)}
        />
        {watermark && <WatermarkPlaces watermark={watermark} onChange={change} />}
      </div>
      <p className="mt-2.5 text-xs text-quiet">It holds from the next version that you publish.</p>
    </Panel>
  );
}

interface WatermarkPlacesProps {
  watermark: NonNullable<ClientOffer["watermark"]>;
  onChange: (next: Partial<ClientOffer>, tag?: string | null) => void;
}

/** Where the watermark is seen. */
function WatermarkPlaces({ watermark, onChange }: WatermarkPlacesProps): ReactNode {
  return (
    <div className="ml-6 flex flex-col gap-2">
      <Tick
        label="On the page"
        checked={watermark.onPage}
        onChange={(onPage) => onChange({ watermark: { ...watermark, onPage } })}
      />
      <Tick
        label="On downloads"
        checked={watermark.onDownloads}
        onChange={(onDownloads) => onChange({ watermark: { ...watermark, onDownloads } })}
      />
    </div>
  );
}

interface DownloadFieldsProps {
  price: Price | null;
  onChange: (next: Partial<ClientOffer>, tag?: string | null) => void;
  pageFilm: "preview" | "full";
  canBePaid: boolean;
}

/** What a download asks for. */
function DownloadFields({ price, onChange, pageFilm, canBePaid }: DownloadFieldsProps): ReactNode {
  return (
    <div className="ml-6 flex flex-col gap-2">
      <Tick
        label="Only when paid for"
        checked={price !== null}
        onChange={(next) => onChange({ price: next ? FIRST_PRICE : null })}
      />
      {price && <PriceFields price={price} onChange={(next) => onChange({ price: next }, "client price")} />}
      {price && (
        <div>
          <Choice
            label="What plays on the page"
            value={pageFilm}
            options={[
              { value: "preview", label: "Small preview with watermark" },
              { value: "full", label: "The film itself" },
            ]}
            onChange={(next) => onChange({ pageFilm: next })}
          />
          <p className={`mt-1 text-xs ${pageFilm === "full" ? "text-warning" : "text-quiet"}`}>
            {pageFilm === "full"
              ? "Anyone who can open the page can save this film from the browser without paying."
              : "Until it is paid, the page plays a film of at most 960 pixels with a watermark."}
          </p>
        </div>
      )}
      {price && !canBePaid && (
        <p className="text-xs text-warning">No payment service is set up (--services): until then nobody can pay.</p>
      )}
    </div>
  );
}

interface OfferedFilmProps {
  onChange: (next: Partial<ClientOffer>, tag?: string | null) => void;
  videos: readonly FilmOutput[];
}

/** Which output the page shows. */
function OfferedFilm({ onChange, videos }: OfferedFilmProps): ReactNode {
  const { clientOffer: offer, outputs } = useOpenShow();
  return (
    <label className="flex items-center justify-between gap-3 text-[13px] text-quiet">
      The film
      <select
        value={offeredOutput(outputs, offer)?.id ?? ""}
        onChange={({ target }) => onChange({ outputId: target.value })}
        className="min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-ink"
      >
        {videos.length === 0 && <option value="">no output is a video</option>}
        {videos.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

function PriceFields({ price, onChange }: { price: Price; onChange: (price: Price) => void }): ReactNode {
  const [amount, setAmount] = useState(() => priceText(price).replace(/[^\d.]/g, ""));
  const [currency, setCurrency] = useState(price.currency);
  const set = (nextAmount: string, nextCurrency: string): void => {
    setAmount(nextAmount);
    setCurrency(nextCurrency);
    const minorUnits = minorUnitsOf(nextAmount, nextCurrency);
    if (minorUnits) onChange({ minorUnits, currency: nextCurrency });
  };
  const isRight = Boolean(minorUnitsOf(amount, currency));
  return (
    <>
      <LineField
        label="Price"
        inputMode="decimal"
        value={amount}
        onChange={({ target }) => set(target.value, currency)}
      />
      <LineField
        label="Currency"
        value={currency}
        maxLength={3}
        onChange={({ target }) => set(amount, target.value.toUpperCase())}
      />
      <p className={`text-xs ${isRight ? "text-quiet" : "text-warning"}`}>
        {isRight
          ? `The client pays ${priceText(price)}.`
          : `This is no amount of ${currency || "a currency"}; ${priceText(price)} stays.`}
      </p>
    </>
  );
}
