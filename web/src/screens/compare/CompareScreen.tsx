import type { Variant } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import { changeText, describeChange, type ShowDocument } from "@humming-tide/core/show";
import { type ReactNode, useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api } from "../../api.ts";
import { usePlanOf } from "../../plan/use-film-plan.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { Stage } from "../../stage/Stage.tsx";
import { Transport } from "../../stage/Transport.tsx";
import { useOpenShow, useShowId } from "../../store/open-show.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { keptAs } from "../../variants/VariantsDialog.tsx";
import { FilmColumn } from "./FilmColumn.tsx";
import { FilmFacts } from "./FilmFacts.tsx";
import { rowCount, shownOnlyIn } from "./film-rows.ts";

const NOW = "As it is now";

/**
 * The film as it is now beside one that was kept: both in rows of the same time, either on the
 * stage at the same place. One is taken; the other stays.
 */
export function CompareScreen(): ReactNode {
  const { variantId = "" } = useParams();
  const { variant, failure } = useVariant(variantId);
  const now = useOpenShow();
  const compared = useAppSelector((state) => state.show.compared);
  const other = compared?.id === variantId ? compared.document : null;
  const plans = { now: usePlanOf(now), other: usePlanOf(other) };
  if (failure !== null) return <NotThere why={failure} />;
  if (!variant || !other || !plans.now || !plans.other) return <p className="p-10 text-quiet">Laying both films …</p>;
  return <TwoFilms variant={variant} documents={{ now, other }} plans={{ now: plans.now, other: plans.other }} />;
}

/** Fetches a variant and puts it beside the film, as long as the screen is open. */
function useVariant(variantId: string): { variant: Variant | null; failure: string | null } {
  const showId = useShowId();
  const dispatch = useAppDispatch();
  const [variant, setVariant] = useState<Variant | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    let isOpen = true;
    Promise.all([api.variants(showId), api.variant(showId, variantId)]).then(
      ([list, { document, media }]) => {
        if (!isOpen) return;
        setVariant(list.find(({ id }) => id === variantId) ?? null);
        dispatch(showActions.mediaArrived(Object.values(media)));
        dispatch(showActions.compared({ id: variantId, document, isShown: false }));
      },
      (error: Error) => isOpen && setFailure(error.message),
    );
    return () => {
      isOpen = false;
      dispatch(showActions.compared(null));
    };
  }, [dispatch, showId, variantId]);
  return { variant, failure };
}

function NotThere({ why }: { why: string }): ReactNode {
  return (
    <EmptyState
      title="This variant cannot be compared"
      action={
        <Link className="underline" to="../score">
          To the Score
        </Link>
      }
    >
      {why}
    </EmptyState>
  );
}

interface TwoFilmsProps {
  variant: Variant;
  documents: { readonly now: ShowDocument; readonly other: ShowDocument };
  plans: { readonly now: FilmPlan; readonly other: FilmPlan };
}

function TwoFilms({ variant, documents, plans }: TwoFilmsProps): ReactNode {
  const dispatch = useAppDispatch();
  const player = usePlayer();
  const isOther = useAppSelector((state) => state.show.compared?.isShown === true);
  const staged = useAppSelector((state) => state.view.plan);
  const rows = rowCount([plans.now, plans.other]);
  const show = (other: boolean, seconds?: number): void => {
    dispatch(showActions.comparedShown(other));
    if (seconds !== undefined) player.seek(seconds);
  };
  return (
    <div className="flex h-full min-h-0">
      <h1 className="sr-only">Compare variants</h1>
      <div className="flex min-h-0 min-w-0 flex-1 gap-5 overflow-y-auto px-4 pb-3">
        <FilmColumn
          name={NOW}
          plan={plans.now}
          rows={rows}
          only={shownOnlyIn(plans.now, plans.other)}
          isShown={!isOther}
          onPlace={(seconds) => show(false, seconds)}
        />
        <FilmColumn
          name={variant.name}
          plan={plans.other}
          rows={rows}
          only={shownOnlyIn(plans.other, plans.now)}
          isShown={isOther}
          onPlace={(seconds) => show(true, seconds)}
        />
      </div>
      <aside className="flex w-[clamp(360px,30vw,720px)] shrink-0 flex-col overflow-y-auto border-l border-line bg-raised">
        {staged && (
          <div data-film className="shrink-0">
            <div className="aspect-video w-full">
              <Stage plan={staged} />
            </div>
            <Transport track={staged} hasQuality />
          </div>
        )}
        <div className="border-t border-line px-3 py-2">
          <Choice
            label="Film on the stage"
            value={isOther ? "other" : "now"}
            options={[
              { value: "now", label: NOW },
              { value: "other", label: variant.name },
            ]}
            onChange={(value) => show(value === "other")}
          />
        </div>
        <FilmFacts
          names={[NOW, variant.name]}
          plans={[plans.now, plans.other]}
          documents={[documents.now, documents.other]}
        />
        <Differences from={documents.other} to={documents.now} />
        <TakeOne variant={variant} document={documents.other} />
      </aside>
    </div>
  );
}

/** What was changed since the variant was kept, as the history says it. */
function Differences({ from, to }: { from: ShowDocument; to: ShowDocument }): ReactNode {
  const changes = describeChange(from, to).map(changeText);
  return (
    <div className="border-t border-line px-4 py-3 text-[13px]">
      <h3 className="mb-1 font-semibold">Changed since it was kept</h3>
      {changes.length === 0 ? (
        <p className="text-soft">Nothing.</p>
      ) : (
        <ul className="list-disc pl-4 text-soft">
          {changes.map((change) => (
            <li key={change}>{change}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** Taking a variant keeps the film that was there as a variant too, and undo brings it back. */
function TakeOne({ variant, document }: { variant: Variant; document: ShowDocument }): ReactNode {
  const showId = useShowId();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [failure, setFailure] = useState<string | null>(null);
  const [isTaking, setTaking] = useState(false);
  const take = (): void => {
    setTaking(true);
    keptAs(showId, `Before “${variant.name}”`.slice(0, 200)).then(
      () => {
        dispatch(showActions.edited(document));
        dispatch(viewActions.toastShown(`The film is “${variant.name}” now. The one before is kept as a variant too.`));
        void navigate("../score");
      },
      (error: Error) => {
        setTaking(false);
        setFailure(error.message);
      },
    );
  };
  return (
    <div className="mt-auto border-t border-line px-4 py-3">
      {failure && <Notice kind="error">{failure}</Notice>}
      <div className="flex flex-wrap gap-2">
        <Button kind="primary" disabled={isTaking} onClick={take}>
          Take “{variant.name}”
        </Button>
        <Button onClick={() => void navigate("../score")}>Keep it as it is now</Button>
      </div>
      <p className="mt-2 text-xs text-quiet">The other film stays among the variants.</p>
    </div>
  );
}
