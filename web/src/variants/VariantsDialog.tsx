import { MOST_VARIANTS, type Variant } from "@humming-tide/contract";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api.ts";
import { useShowId } from "../store/open-show.ts";
import { savedRevision } from "../store/saving.ts";
import { Button } from "../ui/Button.tsx";
import { DialogBox } from "../ui/DialogBox.tsx";
import { longDayText, timeText } from "../ui/date-text.ts";
import { Field } from "../ui/Field.tsx";
import { Notice } from "../ui/Notice.tsx";

/**
 * Films of this show that were kept under a name. Keeping changes nothing in the show, and removing
 * takes only the name: the history has every film.
 */
export function VariantsDialog({ onClose }: { onClose: () => void }): ReactNode {
  const showId = useShowId();
  const navigate = useNavigate();
  const [variants, setVariants] = useState<readonly Variant[] | null>(null);
  const [name, setName] = useState("");
  const [failure, setFailure] = useState<string | null>(null);
  const load = useCallback((): void => {
    api.variants(showId).then(setVariants, (error: Error) => setFailure(error.message));
  }, [showId]);
  useEffect(load, [load]);
  const attempt = (work: Promise<unknown>): void => {
    setFailure(null);
    void work.then(load, (error: Error) => setFailure(error.message));
  };
  const keep = (): void => {
    attempt(keptAs(showId, name.trim()).then(() => setName("")));
  };
  const isFull = variants !== null && variants.length >= MOST_VARIANTS;
  return (
    <DialogBox open onClose={onClose} title="Variants of the film" width={600}>
      <div className="flex items-end gap-2">
        <div className="min-w-0 flex-1">
          <Field
            label="Keep the film as it is now, under a name"
            value={name}
            maxLength={200}
            autoFocus
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === "Enter" && name.trim() !== "" && !isFull && keep()}
          />
        </div>
        <Button kind="primary" disabled={name.trim() === "" || isFull} onClick={keep}>
          Keep
        </Button>
      </div>
      {failure && <Notice kind="error">{failure}</Notice>}
      {isFull && (
        <Notice kind="warning">{`A show has ${MOST_VARIANTS} variants at most. Remove one that you do not need.`}</Notice>
      )}
      {variants?.length === 0 && (
        <p className="mt-4 text-[13px] text-soft">
          Nothing is kept yet. Keep the film before you try another song or pace, then compare the two and take the
          better one.
        </p>
      )}
      <ol className="mt-3">
        {variants?.map((variant) => (
          <li key={variant.id} className="flex items-center gap-2 border-t border-line py-2 text-[13px] first:border-0">
            <VariantName variant={variant} onRename={(next) => attempt(api.renameVariant(showId, variant.id, next))} />
            <Button onClick={() => void navigate(`../compare/${variant.id}`)}>Compare</Button>
            <Button
              kind="quiet"
              title="The name goes; the history of the show still has the film"
              onClick={() => attempt(api.removeVariant(showId, variant.id))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ol>
    </DialogBox>
  );
}

/** Saves the show and gives its newest revision a name. */
export async function keptAs(showId: string, name: string): Promise<Variant> {
  return api.keepVariant(showId, name, await savedRevision());
}

interface VariantNameProps {
  variant: Variant;
  onRename: (name: string) => void;
}

/** The name, to be changed in place, and when the film was kept. */
function VariantName({ variant, onRename }: VariantNameProps): ReactNode {
  const [name, setName] = useState(variant.name);
  const commit = (): void => {
    if (name.trim() === "") setName(variant.name);
    else if (name.trim() !== variant.name) onRename(name.trim());
  };
  return (
    <div className="min-w-0 flex-1">
      <input
        aria-label={`Name of the variant ${variant.name}`}
        value={name}
        maxLength={200}
        onChange={(event) => setName(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="w-full truncate rounded bg-transparent px-1 py-0.5 font-semibold hover:bg-high focus:bg-high"
      />
      <span className="block px-1 text-quiet">
        {longDayText(variant.keptAt)}, {timeText(variant.keptAt)}
      </span>
    </div>
  );
}
