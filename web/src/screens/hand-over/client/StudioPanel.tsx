import { FIRST_IDENTITY, LARGEST_LOGO_BYTES, type StudioIdentity } from "@humming-tide/contract";
import { ImageUp } from "lucide-react";
import { type ReactNode, useRef, useState } from "react";
import { api } from "../../../api.ts";
import { serverState, useStudioQuery } from "../../../server-state/server-state.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Field } from "../../../ui/Field.tsx";
import { Panel } from "../../../ui/Panel.tsx";

const OWN_COLOUR = "#f2a94b";

/** How the studio shows itself on all of its client pages: at once, without a new version. */
export function StudioPanel(): ReactNode {
  const { data: studio = FIRST_IDENTITY } = useStudioQuery();
  const dispatch = useAppDispatch();
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async (work: Promise<StudioIdentity>): Promise<void> => {
    setProblem(null);
    try {
      await dispatch(serverState.util.upsertQueryData("studio", undefined, await work));
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const change = (next: Partial<Pick<StudioIdentity, "name" | "accent">>): void => {
    const { name, accent } = { ...studio, ...next };
    if (name !== studio.name || accent !== studio.accent) void keep(api.changeStudio({ name, accent }));
  };
  const choose = (file: File): void => {
    if (file.size > LARGEST_LOGO_BYTES)
      setProblem("This file is larger than 8 MB. A logo of a few hundred pixels is enough.");
    else void keep(api.setLogo(file));
  };
  return (
    <Panel title="Your studio">
      <div className="flex flex-col gap-3">
        <Field
          // What the server knows is the field's new beginning.
          key={studio.name}
          label="Name"
          defaultValue={studio.name}
          maxLength={80}
          onBlur={({ target }) => change({ name: target.value.trim() })}
        />
        <div className="flex items-center justify-between gap-3">
          <label className="flex items-center gap-2 text-[13px] text-soft">
            Colour of buttons
            <input
              type="color"
              aria-label="Colour of buttons"
              key={studio.accent}
              defaultValue={studio.accent ?? OWN_COLOUR}
              onBlur={({ target }) => change({ accent: target.value === OWN_COLOUR ? null : target.value })}
              className="h-7 w-10 cursor-pointer rounded border border-line-strong/60 bg-ground"
            />
          </label>
          {studio.accent && (
            <Button kind="quiet" className="-mr-2" onClick={() => change({ accent: null })}>
              Usual colour
            </Button>
          )}
        </div>
        <input
          ref={input}
          type="file"
          accept="image/png,image/jpeg,image/webp"
          aria-label="A logo from this machine"
          className="hidden"
          tabIndex={-1}
          onChange={({ target }) => {
            const file = target.files?.[0];
            if (file) choose(file);
            target.value = "";
          }}
        />
        {studio.logo && (
          <img src={studio.logo} alt="The studio’s logo" className="h-10 max-w-full self-start object-contain" />
        )}
        <div className="flex gap-2">
          <Button onClick={() => input.current?.click()}>
            <ImageUp size={14} aria-hidden /> {studio.logo ? "Another logo …" : "Choose a logo …"}
          </Button>
          {studio.logo && (
            <Button kind="quiet" onClick={() => void keep(api.setLogo(null))}>
              Remove it
            </Button>
          )}
        </div>
        {problem && (
          <p role="alert" className="text-[13px] text-warning">
            {problem}
          </p>
        )}
      </div>
      <p className="mt-2.5 text-xs text-quiet">It is on the client pages of all shows at once.</p>
    </Panel>
  );
}
