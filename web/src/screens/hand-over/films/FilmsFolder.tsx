import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { serverState, useFilmsFolderQuery } from "../../../server-state/server-state.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Field } from "../../../ui/Field.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { Panel } from "../../../ui/Panel.tsx";

/** Where finished films are put beside the data folder, on the machine that the server runs on. */
export function FilmsFolder(): ReactNode {
  const dispatch = useAppDispatch();
  const { data: chosen = null, error } = useFilmsFolderQuery();
  /** What the person has typed; null until then, however late the server answers. */
  const [typed, setTyped] = useState<string | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const choose = async (folder: string | null): Promise<void> => {
    setFailure(null);
    try {
      await dispatch(serverState.util.upsertQueryData("filmsFolder", undefined, await api.setFilmsFolder(folder)));
      setTyped(null);
    } catch (refused) {
      setFailure((refused as Error).message);
    }
  };
  const text = typed ?? chosen ?? "";
  const wanted = text.trim();
  return (
    <Panel title="Films folder">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void choose(wanted === "" ? null : wanted);
        }}
      >
        <Field
          label="A folder on this machine"
          value={text}
          spellCheck={false}
          placeholder="No folder: films are downloaded from here"
          onChange={({ target }) => setTyped(target.value)}
          hint="Finished films are put there under clear names; none is ever overwritten."
        />
        <div className="mt-2 flex gap-2">
          <Button type="submit" disabled={wanted === (chosen ?? "")}>
            Use this folder
          </Button>
          {chosen !== null && (
            <Button kind="quiet" onClick={() => void choose(null)}>
              No folder
            </Button>
          )}
        </div>
      </form>
      {(failure ?? error) && (
        <div className="mt-2">
          <Notice kind="error">{failure ?? error?.message}</Notice>
        </div>
      )}
    </Panel>
  );
}
