import type { LibrarySong, LibrarySongNotes } from "@humming-tide/contract";
import { counted } from "@humming-tide/core/language";
import { clockText } from "@humming-tide/core/time";
import { Heart, Pause, Play } from "lucide-react";
import { type ReactNode, useState } from "react";
import { IconButton } from "../ui/Button.tsx";

interface SongLineProps {
  song: LibrarySong;
  tooMany: number;
  slideCount: number;
  isPlaying: boolean;
  onPlay: () => void;
  onNote: (notes: LibrarySongNotes) => void;
  action: ReactNode;
}

/** A song of the library: what it is, what was noted about it, and whether it suits the show. */
export function SongLine({ song, tooMany, slideCount, isPlaying, onPlay, onNote, action }: SongLineProps): ReactNode {
  const { title, tags, isFavourite } = song;
  const note = (change: Partial<LibrarySongNotes>): void => onNote({ title, tags, isFavourite, ...change });
  return (
    <li aria-label={title} className="flex items-center gap-3 py-2.5 text-[13px]">
      <IconButton label={isPlaying ? `Stop “${title}”` : `Hear “${title}”`} onClick={onPlay}>
        {isPlaying ? <Pause size={16} /> : <Play size={16} />}
      </IconButton>
      <IconButton
        label={isFavourite ? "No favourite any more" : "A favourite"}
        aria-pressed={isFavourite}
        onClick={() => note({ isFavourite: !isFavourite })}
      >
        <Heart size={15} fill={isFavourite ? "currentColor" : "none"} />
      </IconButton>
      <div className="min-w-0 flex-1">
        <Noted
          label="Title"
          value={title}
          className="w-full text-[14px] text-ink"
          onChange={(text) => text && note({ title: text })}
        />
        <Noted
          label="Tags"
          value={tags.join(", ")}
          placeholder="Tags, with commas"
          className="w-full text-quiet"
          onChange={(text) => note({ tags: wordsOf(text) })}
        />
      </div>
      <div className="w-[86px] shrink-0 text-right text-soft">
        <p>{clockText(song.durationSeconds)}</p>
        <p className="text-quiet">{song.tempoBpm === null ? "no beat" : `${Math.round(song.tempoBpm)} BPM`}</p>
      </div>
      <div className="w-[150px] shrink-0 text-right">
        <p className={tooMany === 0 ? "text-ink" : "text-soft"}>{suitsText(tooMany, slideCount)}</p>
        <p className="text-quiet">
          {song.showCount === 0
            ? "in no show"
            : song.showCount === 1
              ? "in one show"
              : `in ${counted(song.showCount, "show")}`}
        </p>
      </div>
      {action}
    </li>
  );
}

function suitsText(tooMany: number, slideCount: number): string {
  if (slideCount === 0) return "no pictures yet";
  if (tooMany === 0) return `suits ${counted(slideCount, "picture")}`;
  return tooMany > 0 ? `${counted(tooMany, "picture")} too many` : `${counted(-tooMany, "picture")} too few`;
}

const wordsOf = (text: string): string[] => [
  ...new Set(
    text
      .split(",")
      .map((word) => word.trim().slice(0, 60))
      .filter(Boolean)
      .slice(0, 40),
  ),
];

/** A text that is taken over when it is left, or with Enter; Escape puts it back. */
function Noted({
  label,
  value,
  className,
  placeholder,
  onChange,
}: {
  label: string;
  value: string;
  className: string;
  placeholder?: string;
  onChange: (text: string) => void;
}): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const leave = (): void => {
    if (text !== null && text.trim() !== value) onChange(text.trim());
    setText(null);
  };
  return (
    <input
      aria-label={label}
      value={text ?? value}
      placeholder={placeholder}
      maxLength={500}
      className={`truncate rounded bg-transparent px-1.5 py-0.5 hover:bg-high focus:bg-high ${className}`}
      onChange={(event) => setText(event.target.value)}
      onBlur={leave}
      onKeyDown={(event) => {
        if (event.key === "Enter") leave();
        if (event.key === "Escape" && text !== null) {
          event.stopPropagation();
          setText(null);
        }
      }}
    />
  );
}
