import type { SavedTemplate } from "@humming-tide/contract";
import { applyTemplate, templateOf } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { api } from "../../api.ts";
import { serverState, useTemplatesQuery } from "../../server-state/server-state.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { transitionText } from "../../style/style-words.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Field } from "../../ui/Field.tsx";
import { Notice } from "../../ui/Notice.tsx";

export function SaveTemplateDialog({ onClose }: { onClose: () => void }): ReactNode {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  const [name, setName] = useState(show.event || show.title);
  const [failure, setFailure] = useState<string | null>(null);
  const save = (): void => {
    api.saveTemplate(name.trim(), templateOf(show)).then(
      () => {
        dispatch(
          viewActions.toastShown(`Saved as the template “${name.trim()}”. New shows on the shelf can begin with it.`),
        );
        onClose();
      },
      (error: Error) => setFailure(error.message),
    );
  };
  return (
    <DialogBox
      open
      onClose={onClose}
      title="Save as a template"
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={name.trim() === ""} onClick={save}>
            Save the template
          </Button>
        </>
      }
    >
      <Field
        label="Name of the template"
        value={name}
        maxLength={200}
        autoFocus
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && name.trim() !== "" && save()}
        hint="Format and style, passages and their cards; no pictures, no song. Replaces an earlier template of this name."
      />
      {failure && <Notice kind="error">{failure}</Notice>}
    </DialogBox>
  );
}

export function ApplyTemplateDialog({ onClose }: { onClose: () => void }): ReactNode {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  const { data: templates, error } = useTemplatesQuery(undefined, { refetchOnMountOrArgChange: true });
  const [refusal, setRefusal] = useState<string | null>(null);
  const failure = refusal ?? error?.message;
  const remove = (id: string): void => {
    api.removeTemplate(id).then(
      () => dispatch(serverState.util.invalidateTags(["templates"])),
      (cause: Error) => setRefusal(cause.message),
    );
  };
  return (
    <DialogBox open onClose={onClose} title="Apply a template">
      {failure && <Notice kind="error">{failure}</Notice>}
      {templates?.length === 0 && (
        <p className="text-soft">There are no templates yet. Save one from a show whose style you like.</p>
      )}
      <ul>
        {templates?.map((template) => (
          <li key={template.id} className="flex items-center gap-2 border-t border-line py-2 first:border-0">
            <span className="min-w-0 flex-1">
              <span className="block truncate">{template.name}</span>
              <span className="block truncate text-xs text-quiet">{describe(template)}</span>
            </span>
            <Button kind="quiet" onClick={() => remove(template.id)}>
              Remove
            </Button>
            <Button
              onClick={() => {
                dispatch(showActions.edited(applyTemplate(show, template.template)));
                dispatch(
                  viewActions.toastShown(
                    `The show has style and rules of “${template.name}” now. Undo takes them back.`,
                  ),
                );
                onClose();
              }}
            >
              Apply
            </Button>
          </li>
        ))}
      </ul>
    </DialogBox>
  );
}

function describe({ template }: SavedTemplate): string {
  const rate = Number((template.frameRate.num / template.frameRate.den).toFixed(3));
  const named = template.passages.filter(({ name }) => name !== "").map(({ name }) => name);
  const transition = transitionText(template.style.transition);
  return [`${template.size.width} × ${template.size.height}`, `${rate} fps`, transition, ...named].join(", ");
}
