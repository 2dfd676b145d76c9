import { counted } from "@humming-tide/core/language";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { present } from "@humming-tide/core/presence";
import { hasPicture, namedPictures, openLocks, type ShowDocument } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { openThreads } from "../../store/client-slice.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { transitionText } from "../../style/style-words.ts";
import { WordsHere } from "../../terms/WordsHere.tsx";

interface Mooring {
  readonly to: string;
  readonly name: string;
  readonly open: string;
}

/** The five screens in working order, tied to one line, each with what it holds or still wants. */
export function MooringLine(): ReactNode {
  return (
    <nav
      aria-label="Screens of the show"
      className="flex w-[148px] shrink-0 flex-col justify-between gap-6 overflow-y-auto border-r border-line py-5"
    >
      <ol className="relative flex flex-col gap-5">
        <li aria-hidden className="absolute top-3 bottom-3 left-[26px] w-px bg-line-strong/50" />
        {useMoorings().map((mooring) => (
          <li key={mooring.to}>
            <NavLink to={mooring.to} className="group relative flex items-start gap-3 pr-2 pl-[20px]">
              {({ isActive }) => (
                <>
                  <span
                    aria-hidden
                    className={`relative mt-[5px] size-[13px] shrink-0 rounded-full border-2 ${isActive ? "border-ink bg-ink" : "border-line-strong bg-ground group-hover:border-ink"}`}
                  />
                  <span className="min-w-0">
                    <span
                      className={`block font-heading text-[17px] leading-6 ${isActive ? "text-ink" : "text-soft group-hover:text-ink"}`}
                    >
                      {mooring.name}
                    </span>
                    <span className="block text-xs leading-4 text-quiet">{mooring.open}</span>
                  </span>
                </>
              )}
            </NavLink>
          </li>
        ))}
      </ol>
      <WordsHere />
    </nav>
  );
}

function useMoorings(): Mooring[] {
  const show = useOpenShow();
  const heard = useAppSelector((state) => state.song.heard);
  const first = show.songs[0];
  const plan = useAppSelector((state) => state.view.plan);
  const grave = useAppSelector((state) => state.check.findings.filter(({ severity }) => severity !== "hint").length);
  const said = useAppSelector((state) => openThreads(state.client.page?.comments).length);
  const waiting = openLocks(show).length;
  const unmet = plan ? plan.leftOut.length + plan.unmetLocks.length : 0;
  return [
    {
      to: "gather",
      name: "Gather",
      open: gatherText(show),
    },
    {
      to: "listen",
      name: "Listen",
      open: listenText(show, first && heard[first.sha256]?.analysis),
    },
    {
      to: "score",
      name: "Score",
      open: plan
        ? [
            `${plan.slots.length} slots`,
            ...(unmet > 0 ? [`${unmet} left over`] : []),
            ...(waiting > 0 ? [`${counted(waiting, "lock")} waiting`] : []),
          ].join(", ")
        : "nothing laid yet",
    },
    {
      to: "dress",
      name: "Dress",
      open: transitionText(show.style.transition),
    },
    {
      to: "hand-over",
      name: "Hand over",
      open: plan
        ? `${grave === 0 ? "ready to export" : `${grave} worth a look`}${said === 0 ? "" : `, ${counted(said, "comment")}`}`
        : "no film yet",
    },
  ];
}

function gatherText(show: ShowDocument): string {
  const pictures = namedPictures(show).length;
  if (pictures === 0) return "pictures wanted";
  const cards = show.slides.filter((slide) => !hasPicture(slide)).length;
  const out = show.slides.filter(hasPicture).filter(({ rating }) => rating === "out").length;
  return [
    counted(pictures - out, "picture"),
    ...(cards > 0 ? [counted(cards, "card")] : []),
    ...(out > 0 ? [`${out} left out`] : []),
    ...(show.songs.length > 0 ? [] : ["song wanted"]),
  ].join(", ");
}

function listenText({ songs }: ShowDocument, analysis: MusicAnalysis | null | undefined): string {
  if (songs.length === 0) return "no song yet";
  if (!analysis) return "listening …";
  if (!analysis.steady) return "no steady beat";
  if (songs.length > 1) return counted(songs.length, "song");
  return `${present(analysis.tempoBpm).toFixed(0)} BPM, ${analysis.meter}`;
}
