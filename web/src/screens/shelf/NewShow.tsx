import { factsAskedFor, type ShowFact, templateCards } from "@humming-tide/core/show";
import { Plus } from "lucide-react";
import { type FormEvent, type ReactNode, useId, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../../api.ts";
import { useTemplatesQuery } from "../../server-state/server-state.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Field } from "../../ui/Field.tsx";
import { Notice } from "../../ui/Notice.tsx";

/** What the cards of a template ask for beside the name; what stays empty is left out of them. */
const CARD_FACTS: Readonly<Record<ShowFact, { label: string; type?: string } | null>> = {
  title: null,
  event: { label: "Event" },
  date: { label: "Date of the event", type: "date" },
  client: { label: "Client" },
};

/** Begins a show, bare or from a template. */
export function NewShow(): ReactNode {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button kind="primary" onClick={() => setOpen(true)}>
        <Plus size={16} /> New show
      </Button>
      {open && <NewShowDialog onClose={() => setOpen(false)} />}
    </>
  );
}

function NewShowDialog({ onClose }: { onClose: () => void }): ReactNode {
  const navigate = useNavigate();
  const formId = useId();
  const [title, setTitle] = useState("");
  const { data: templates = [] } = useTemplatesQuery(undefined, { refetchOnMountOrArgChange: true });
  const [templateId, setTemplateId] = useState("");
  const [failure, setFailure] = useState<string | null>(null);
  const template = templates.find(({ id }) => id === templateId)?.template;
  const asked = template ? factsAskedFor(templateCards(template)) : [];
  const [facts, setFacts] = useState<Partial<Record<ShowFact, string>>>({});
  const create = (submitted: FormEvent): void => {
    submitted.preventDefault();
    const { event, date, client } = facts;
    api.createShow({ title, templateId: templateId || undefined, event, date: date || null, client }).then(
      (show) => navigate(`/shows/${show.id}/gather`),
      (error: Error) => setFailure(error.message),
    );
  };
  return (
    <DialogBox
      open
      onClose={onClose}
      title="New show"
      width={420}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" type="submit" form={formId} disabled={!title.trim()}>
            Start
          </Button>
        </>
      }
    >
      <form id={formId} onSubmit={create} className="flex flex-col gap-4">
        <Field
          label="Name"
          value={title}
          maxLength={200}
          autoFocus
          onChange={(event) => setTitle(event.target.value)}
          placeholder="Closing night of the regatta"
        />
        {templates.length > 0 && (
          <label className="flex flex-col gap-1 text-[13px] text-soft">
            Style and rules
            <select
              value={templateId}
              onChange={(event) => setTemplateId(event.target.value)}
              className="rounded-md border border-line-strong/60 bg-ground px-2 py-1.5 text-[14px] text-ink"
            >
              <option value="">Plain: 1080p, 25 fps, dissolves</option>
              {templates.map((template) => (
                <option key={template.id} value={template.id}>
                  {template.name}
                </option>
              ))}
            </select>
          </label>
        )}
        {asked.some((fact) => CARD_FACTS[fact]) && (
          <p className="text-[13px] text-soft">For the template’s cards. What stays empty is left out of them.</p>
        )}
        {asked.map((fact) => {
          const form = CARD_FACTS[fact];
          if (!form) return null;
          return (
            <Field
              key={fact}
              {...form}
              value={facts[fact] ?? ""}
              maxLength={200}
              onChange={({ target }) => setFacts({ ...facts, [fact]: target.value })}
            />
          );
        })}
        {failure && <Notice kind="error">{failure}</Notice>}
      </form>
    </DialogBox>
  );
}
