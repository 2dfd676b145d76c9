import { CircleHelp, Moon, Redo2, Sun, Undo2 } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { Link, Outlet, useParams } from "react-router";
import type { ApiFailure } from "../../api.ts";
import { api } from "../../api.ts";
import { leaveIntake } from "../../intake/intake.ts";
import { keepQuestions } from "../../intake/kept-questions.ts";
import { useLetters } from "../../keys/letters.ts";
import { ShortcutSheet } from "../../keys/ShortcutSheet.tsx";
import { useShowKeys } from "../../keys/use-show-keys.ts";
import { useFilmPlan, useSongFacts, useSpeechFacts } from "../../plan/use-film-plan.ts";
import { useNoStrayDrops } from "../../replace/use-no-stray-drops.ts";
import { PlayerProvider, usePlayer } from "../../stage/player-context.tsx";
import { useSoloed } from "../../stage/use-master.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { saveNow, startSaving, takeUpKeptEdit } from "../../store/saving.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { keepHistory, keptHistory } from "../../store/undo-history.ts";
import { viewActions } from "../../store/view-slice.ts";
import { IconButton } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { applyTheme, storedTheme } from "../../ui/theme.ts";
import { useTypedText } from "../../ui/use-typed-text.ts";
import { MooringLine } from "./MooringLine.tsx";
import { SaveStatus } from "./SaveStatus.tsx";
import { ShowMenu } from "./ShowMenu.tsx";
import { Toast } from "./Toast.tsx";
import { useCheckRun } from "./use-check-run.ts";
import { useClientPage } from "./use-client-page.ts";

/**
 * Opens a show and holds what all of its screens share: title, saving, undo, the mooring line, the
 * player.
 */
export function ShowFrame(): ReactNode {
  const { showId = "" } = useParams();
  const dispatch = useAppDispatch();
  const loaded = useAppSelector((state) => state.show.id === showId);
  const [failure, setFailure] = useState<ApiFailure | null>(null);
  useNoStrayDrops();

  useEffect(() => {
    let current = true;
    api.getShow(showId).then(
      async (show) => {
        const history = await keptHistory(show.id, show.document);
        if (!current) return;
        dispatch(showActions.opened(show, history));
        await takeUpKeptEdit(show);
      },
      (error: unknown) => current && setFailure(error as ApiFailure),
    );
    const stopSaving = startSaving();
    const stopKeeping = keepHistory();
    const stopQuestions = keepQuestions(showId);
    return () => {
      current = false;
      // Before the questions go from this page: they are asked again when the show is opened.
      stopQuestions();
      stopSaving();
      stopKeeping();
      // Leaving is no reason to wait: the request is on its way before the show is forgotten.
      leaveIntake();
      void saveNow();
      dispatch(showActions.closed());
      dispatch(viewActions.viewCleared());
    };
  }, [dispatch, showId]);

  if (failure) {
    return (
      <EmptyState
        title="This show cannot be opened"
        action={
          <Link className="underline" to="/">
            To the shelf
          </Link>
        }
      >
        {failure.message}
      </EmptyState>
    );
  }
  if (!loaded) return <p className="p-10 text-quiet">Opening the show …</p>;
  return (
    <PlayerProvider>
      <OpenShow />
    </PlayerProvider>
  );
}

function OpenShow(): ReactNode {
  useSongFacts();
  useSpeechFacts();
  useFilmPlan();
  useCheckRun();
  useClientPage();
  const dispatch = useAppDispatch();
  const [sheet, setSheet] = useState(false);
  const letters = useLetters();
  const openSheet = useCallback(() => setSheet(true), []);
  useSoloed();
  useShowKeys(usePlayer(), openSheet);
  const document = useOpenShow();
  const undoSteps = useAppSelector((state) => state.show.past.length);
  const redoSteps = useAppSelector((state) => state.show.future.length);
  return (
    <div className="flex h-full min-h-0 flex-col">
      <header className="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
        <Link to="/" className="font-heading text-[17px] whitespace-nowrap text-soft hover:text-ink">
          Humming Tide
        </Link>
        <span className="text-line-strong" aria-hidden>
          /
        </span>
        <ShowMenu />
        <TitleField title={document.title} onChange={(title) => dispatch(showActions.edited({ ...document, title }))} />
        <div className="flex-1" />
        <SaveStatus />
        <IconButton label="Undo (Ctrl+Z)" disabled={undoSteps === 0} onClick={() => dispatch(showActions.undone())}>
          <Undo2 size={17} />
        </IconButton>
        <IconButton
          label="Redo (Ctrl+Shift+Z)"
          disabled={redoSteps === 0}
          onClick={() => dispatch(showActions.redone())}
        >
          <Redo2 size={17} />
        </IconButton>
        <ThemeButton />
        <IconButton label={`Keys (${letters.sheet.toUpperCase()})`} onClick={openSheet}>
          <CircleHelp size={17} />
        </IconButton>
      </header>
      <div className="flex min-h-0 flex-1">
        <MooringLine />
        <main className="min-w-0 flex-1">
          <Outlet />
        </main>
      </div>
      <Toast />
      <ShortcutSheet open={sheet} onClose={() => setSheet(false)} />
    </div>
  );
}

function TitleField({ title, onChange }: { title: string; onChange: (title: string) => void }): ReactNode {
  const { text, type, commit } = useTypedText(title, (typed) => typed.trim() && onChange(typed.trim()));
  return (
    <input
      aria-label="Name of the show"
      value={text}
      maxLength={200}
      onChange={(event) => type(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      className="w-[380px] min-w-0 truncate rounded bg-transparent px-1.5 py-0.5 text-[15px] hover:bg-high focus:bg-high"
    />
  );
}

function ThemeButton(): ReactNode {
  const [theme, setTheme] = useState(storedTheme);
  const other = theme === "dusk" ? "paper" : "dusk";
  return (
    <IconButton
      label={theme === "dusk" ? "Paper theme, for bright rooms" : "Dusk theme"}
      onClick={() => {
        applyTheme(other);
        setTheme(other);
      }}
    >
      {theme === "dusk" ? <Sun size={17} /> : <Moon size={17} />}
    </IconButton>
  );
}
