import type { ReactNode } from "react";
import { FilmView } from "./FilmView.tsx";
import { PinForm } from "./PinForm.tsx";
import { useClientFilm } from "./use-client-film.ts";

/** What a client sees at the address that the studio gave away. */
export function ClientPage(): ReactNode {
  const { visit, enter, refresh } = useClientFilm();
  switch (visit.kind) {
    case "coming":
      return <Alone title="Loading …" />;
    case "pin":
      return <PinForm message={visit.message} onEnter={enter} />;
    case "away":
      return <Alone title={visit.isOver ? "Nothing to see here" : "Not quite yet"}>{visit.message}</Alone>;
    case "film":
      return <FilmView film={visit.film} session={visit.session} onChanged={refresh} />;
  }
}

function Alone({ title, children }: { title: string; children?: ReactNode }): ReactNode {
  return (
    <main className="flex h-full flex-col items-center justify-center gap-3 px-6 text-center">
      <h1 className="text-[26px]">{title}</h1>
      {children && (
        <p role="status" className="max-w-md text-[15px] text-soft">
          {children}
        </p>
      )}
    </main>
  );
}
