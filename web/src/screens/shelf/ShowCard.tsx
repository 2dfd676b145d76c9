import { DELETED_DAYS, type ShowSummary } from "@humming-tide/contract";
import { counted } from "@humming-tide/core/language";
import { clockText } from "@humming-tide/core/time";
import { Ellipsis } from "lucide-react";
import { memo, type ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import { api, mediaUrl, packageUrl } from "../../api.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { dayText } from "../../ui/date-text.ts";
import { Menu, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import type { ShowCardProps } from "./show-card-props.ts";

const STATES: Readonly<Record<ShowSummary["state"], string>> = {
  "pictures-wanted": "Pictures wanted",
  "song-wanted": "Song wanted",
  "laid-out": "Laid out",
  exported: "Exported",
  "changed-since-export": "Changed since the export",
  damaged: "Cannot be read",
  newer: "Made by a newer version",
};

/**
 * The lines of a card and its picture have one height, so that rows of the shelf can be laid out
 * before they are seen.
 */
export const CARD_TEXT_PIXELS = 134;

/**
 * A show on the shelf: its poster, what it is about, where it stands, and what can be done with it
 * as a whole. Drawn again only when the show changes, not while the shelf scrolls.
 */
export const ShowCard = memo(function ShowCard({ show, onPut, onChanged }: ShowCardProps): ReactNode {
  const about = [show.event !== show.title && show.event, show.client].filter(Boolean).join(", ");
  const deleted = show.place === "deleted";
  const face = (
    <>
      <div className="aspect-video overflow-hidden bg-slide">
        {show.poster && (
          <img
            src={mediaUrl(show.poster, "thumbnail")}
            alt=""
            className={`size-full object-cover ${deleted ? "opacity-50 grayscale" : ""}`}
          />
        )}
      </div>
      <div className="px-4 pt-3">
        <h2 className="truncate pr-8 text-[17px]" title={show.title}>
          {show.title}
        </h2>
        <p className="truncate text-[13px] text-soft">{about || " "}</p>
        <p className="truncate text-[13px] text-soft">
          {show.songFileName ? <bdi>{show.songFileName.replace(/\.\w+$/, "")}</bdi> : "No song yet"}
        </p>
        <p className="mt-1 truncate text-xs text-quiet tabular-nums" data-testid="lengths">
          {[
            counted(show.pictureCount, "picture"),
            show.songSeconds !== null && `song ${clockText(show.songSeconds)}`,
            show.filmSeconds !== null && `film ${clockText(show.filmSeconds)}`,
          ]
            .filter(Boolean)
            .join(" · ")}
        </p>
      </div>
    </>
  );
  return (
    <article className="group relative h-full overflow-hidden rounded-lg border border-line bg-raised pb-3 hover:border-line-strong">
      {deleted ? (
        face
      ) : (
        <Link to={show.pictureCount > 0 ? `/shows/${show.id}/score` : `/shows/${show.id}/gather`}>{face}</Link>
      )}
      <div className="flex items-center justify-between px-4 pt-1">
        <span className="text-xs text-quiet">
          {deleted
            ? `goes for good in ${counted(daysLeft(show), "day")}`
            : `${STATES[show.state]}, ${show.state === "changed-since-export" ? "" : "changed "}${dayText(show.updatedAt)}`}
        </span>
        {deleted && (
          <Button onClick={() => onPut(show, "shelf")} className="-my-1">
            Bring back
          </Button>
        )}
      </div>
      {!deleted && <CardMenu show={show} onPut={onPut} onChanged={onChanged} />}
    </article>
  );
});

function CardMenu({ show, onPut, onChanged }: ShowCardProps): ReactNode {
  const navigate = useNavigate();
  const archived = show.place === "archive";
  return (
    <div className="absolute right-2 bottom-2">
      <Menu
        align="end"
        trigger={
          <IconButton label={`More for ${show.title}`}>
            <Ellipsis size={17} />
          </IconButton>
        }
      >
        <MenuItem onSelect={() => void navigate(`/shows/${show.id}/gather`)}>Open in Gather</MenuItem>
        <MenuItem
          onSelect={() =>
            void api.duplicateShow(show.id, `${show.title.slice(0, 190)} (copy)`).then(onChanged, onChanged)
          }
        >
          Duplicate
        </MenuItem>
        <MenuItem onSelect={() => window.location.assign(packageUrl(show.id))}>
          Save as a package, with all media
        </MenuItem>
        <MenuLine />
        <MenuItem onSelect={() => onPut(show, archived ? "shelf" : "archive")}>
          {archived ? "Back to the shelf" : "Archive"}
        </MenuItem>
        <MenuItem onSelect={() => onPut(show, "deleted")}>Delete</MenuItem>
      </Menu>
    </div>
  );
}

function daysLeft({ deletedAt }: ShowSummary): number {
  const gone = Date.parse(deletedAt ?? "") + DELETED_DAYS * 86_400_000;
  return Math.max(0, Math.ceil((gone - Date.now()) / 86_400_000));
}
