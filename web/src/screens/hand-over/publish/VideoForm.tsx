import { type ExportJob, type Services, VISIBILITIES, type Visibility } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { useOpenShow, useShowId } from "../../../store/open-show.ts";
import { Button } from "../../../ui/Button.tsx";
import { Choice } from "../../../ui/Choice.tsx";
import { Field } from "../../../ui/Field.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { Panel } from "../../../ui/Panel.tsx";

interface VideoFormProps {
  film: ExportJob | null;
  services: Services | null;
  onServices: (services: Services) => void;
}

const HINTS: Readonly<Record<Visibility, string>> = {
  public: "Everyone finds it",
  unlisted: "Whoever has the address sees it",
  private: "Only the account sees it",
};

/** Publishing a film: signing in, and what the site is told about it. */
export function VideoForm({ film, services, onServices }: VideoFormProps): ReactNode {
  if (services && services.address === null)
    return (
      <Panel title="On a video site">
        <p className="text-[13px] text-soft">
          No video site is set up. Start the program with --services and its address; the demo brings a made-up one.
        </p>
      </Panel>
    );
  return (
    <Panel title="On a video site">
      {!services ? (
        <p className="text-[13px] text-quiet">Asking the site …</p>
      ) : services.videoAccount === null ? (
        <SignInForm onServices={onServices} />
      ) : (
        <PublishForm film={film} account={services.videoAccount} onServices={onServices} />
      )}
    </Panel>
  );
}

function SignInForm({ onServices }: { onServices: (services: Services) => void }): ReactNode {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [failure, setFailure] = useState<string | null>(null);
  const signIn = async (): Promise<void> => {
    setFailure(null);
    try {
      onServices(await api.signInVideo(name, password));
    } catch (error) {
      setFailure((error as Error).message);
    } finally {
      setPassword("");
    }
  };
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        void signIn();
      }}
    >
      <Field label="Account" value={name} autoComplete="username" onChange={({ target }) => setName(target.value)} />
      <Field
        label="Password"
        type="password"
        value={password}
        autoComplete="current-password"
        onChange={({ target }) => setPassword(target.value)}
        hint="Never stored. Only the access that the site gives is kept."
      />
      <Button type="submit" disabled={name === "" || password === ""}>
        Sign in
      </Button>
      {failure && <Notice kind="error">{failure}</Notice>}
    </form>
  );
}

function PublishForm({
  film,
  account,
  onServices,
}: {
  film: ExportJob | null;
  account: string;
  onServices: (services: Services) => void;
}): ReactNode {
  const show = useOpenShow();
  const showId = useShowId();
  const [title, setTitle] = useState(show.title.slice(0, 100));
  const [description, setDescription] = useState([show.event, show.date].filter(Boolean).join(", "));
  const [visibility, setVisibility] = useState<Visibility>("unlisted");
  const [failure, setFailure] = useState<string | null>(null);
  const publish = async (): Promise<void> => {
    setFailure(null);
    try {
      await api.deliver(showId, {
        kind: "video",
        exportId: present(film).id,
        title: title.trim(),
        description,
        visibility,
      });
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        void publish();
      }}
    >
      <SignedIn account={account} onServices={onServices} />
      <Field label="Title" value={title} maxLength={100} onChange={({ target }) => setTitle(target.value)} />
      <label className="text-[13px] text-soft">
        Description
        <textarea
          value={description}
          rows={4}
          maxLength={5000}
          onChange={({ target }) => setDescription(target.value)}
          className="mt-1 w-full rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink"
        />
      </label>
      <Choice
        label="Visibility"
        value={visibility}
        options={VISIBILITIES.map((value) => ({ value, label: value, hint: HINTS[value] }))}
        onChange={setVisibility}
      />
      <p className="text-xs text-quiet">{HINTS[visibility]}.</p>
      <Button type="submit" kind="primary" disabled={!film || title.trim() === ""}>
        Publish the film
      </Button>
      {failure && <Notice kind="error">{failure}</Notice>}
    </form>
  );
}

interface SignedInProps {
  account: string;
  onServices: (services: Services) => void;
}

/** Whose account it is, and the way out of it. */
function SignedIn({ account, onServices }: SignedInProps): ReactNode {
  return (
    <p className="flex items-center justify-between gap-2 text-[13px] text-soft">
      Signed in as {account}
      <Button kind="quiet" className="-my-1" onClick={() => void api.signOutVideo().then(onServices)}>
        Sign out
      </Button>
    </p>
  );
}
