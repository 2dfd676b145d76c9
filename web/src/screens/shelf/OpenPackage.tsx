import { PackageOpen } from "lucide-react";
import { type ReactNode, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { type ApiFailure, openPackage } from "../../api.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { ProgressBar } from "../../ui/ProgressBar.tsx";

interface Opening {
  readonly fileName: string;
  readonly step: "sending" | "checking";
  readonly share: number;
  readonly failure: string | null;
}

/** Opens a show that was saved as a package, here or on another machine. */
export function OpenPackage(): ReactNode {
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const stopping = useRef<AbortController | null>(null);
  const [opening, setOpening] = useState<Opening | null>(null);
  const open = (file: File): void => {
    stopping.current = new AbortController();
    setOpening({ fileName: file.name, step: "sending", share: 0, failure: null });
    openPackage(
      file,
      (step, share) => setOpening((now) => now && { ...now, step, share }),
      stopping.current.signal,
    ).then(
      (showId) => navigate(`/shows/${showId}/score`),
      (error: ApiFailure) =>
        setOpening((now) => (error.code === "cancelled" ? null : now && { ...now, failure: error.message })),
    );
  };
  const close = (): void => {
    stopping.current?.abort();
    setOpening(null);
  };
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept=".zip"
        aria-label="Choose a package"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (file) open(file);
        }}
      />
      <Button onClick={() => picker.current?.click()}>
        <PackageOpen size={16} /> Open a package
      </Button>
      <DialogBox
        open={opening !== null}
        onClose={close}
        title="Opening a package"
        actions={<Button onClick={close}>{opening?.failure ? "Close" : "Stop"}</Button>}
      >
        {opening && <OpeningSteps opening={opening} />}
      </DialogBox>
    </>
  );
}

interface OpeningStepsProps {
  opening: Opening;
}

/** How far the package is, or why it did not open. */
function OpeningSteps({ opening }: OpeningStepsProps): ReactNode {
  return (
    <>
      <p className="mb-3 truncate text-[13px] text-soft">
        <bdi>{opening.fileName}</bdi>
      </p>
      {opening.failure ? (
        <Notice kind="error">{opening.failure}</Notice>
      ) : (
        <>
          <ProgressBar label="Package opened" share={opening.share} />
          <p className="mt-2 text-xs text-quiet">
            {opening.step === "sending"
              ? `Reading it, ${Math.round(opening.share * 100)} %`
              : `Checking and taking in its pictures and song, ${Math.round(opening.share * 100)} %`}
          </p>
        </>
      )}
    </>
  );
}
