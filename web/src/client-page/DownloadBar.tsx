import { type ClientFilm, priceText } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import { Download } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { ClientFailure, clientApi, downloadUrl, memory } from "./client-api.ts";

const SAID: Readonly<Record<string, string>> = {
  refused: "The payment was refused. Nothing was taken; try again or pay in another way.",
  abandoned: "The payment was not finished. Nothing was taken.",
  begun: "A payment was begun and is not finished.",
};

interface DownloadBarProps {
  download: NonNullable<ClientFilm["download"]>;
  session: string;
  onChanged: () => Promise<void>;
}

/** The film as a file: at once, or when it is paid for. */
export function DownloadBar({ download, session, onChanged }: DownloadBarProps): ReactNode {
  const [failure, setFailure] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const { price, isPaid, payment, bytes } = download;
  const size = `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
  if (price === null || isPaid)
    return (
      <a
        href={downloadUrl(session)}
        download
        className="inline-flex items-center gap-2 rounded-md bg-lantern px-4 py-2 text-[14px] font-semibold text-lantern-ink"
      >
        <Download size={16} aria-hidden /> Download the film, {size}
      </a>
    );
  const pay = async (): Promise<void> => {
    setBusy(true);
    setFailure(null);
    // One key until it has come to an end: pressed twice, or after a reload, it is the same
    // payment.
    const key = memory.get("payment") ?? crypto.randomUUID();
    memory.set("payment", key);
    try {
      location.assign(await clientApi.pay(session, key));
    } catch (error) {
      const code = error instanceof ClientFailure ? error.code : "";
      if (code === "payment-ended") memory.set("payment", null);
      if (code === "payment-ended") return await pay();
      if (code === "already-paid") await onChanged();
      else setFailure((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <div className="flex flex-col items-end gap-1">
      <Button kind="primary" className="px-4 py-2 text-[14px]" disabled={isBusy} onClick={() => void pay()}>
        <Download size={16} aria-hidden /> Pay {priceText(price)} and download, {size}
      </Button>
      {(failure ?? (payment && SAID[payment])) && (
        <p role="status" className="text-[13px] text-warning">
          {failure ?? SAID[present(payment)]}
        </p>
      )}
    </div>
  );
}
