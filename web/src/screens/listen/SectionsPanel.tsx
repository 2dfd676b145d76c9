import { heardSections, ROLE_WORDS, sectionNames, sectionsOf } from "@humming-tide/core/arrange";
import {
  changeSection,
  joinSection,
  MOST_SECTIONS,
  SECTION_ROLES,
  type SectionRole,
  type SongSection,
  splitSection,
} from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { ArrowUpToLine } from "lucide-react";
import type { ReactNode } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";
import { nearestBar } from "./nearest-bar.ts";

const BOX = "min-w-0 rounded-md border border-line-strong/60 bg-ground px-1.5 py-1 text-[13px] text-ink";

/**
 * The sections of the song: named, given a role, joined and divided. What is decided holds whatever
 * is heard later.
 */
export function SectionsPanel(): ReactNode {
  const { song, analysis, grid, change } = useListenSong();
  const player = usePlayer();
  const sections = sectionsOf(song, analysis);
  const names = sectionNames(sections);
  const edit = (make: (sections: readonly SongSection[]) => SongSection[], tag?: string): void =>
    change((current) => ({ sections: make(current.sections ?? heardSections(analysis)) }), tag);
  const divide = (): void => {
    const seconds = nearestBar(grid, player.filmSeconds());
    edit((all) => splitSection(all, seconds, MOST_SECTIONS));
  };
  return (
    <Panel
      title="Sections"
      aside={
        song.sections && (
          <button
            type="button"
            className="text-[13px] text-quiet underline hover:text-ink"
            onClick={() => change(() => ({ sections: null }))}
          >
            Back to as heard
          </button>
        )
      }
    >
      {sections.length === 0 && <p className="text-[13px] text-quiet">No sections were heard in this song.</p>}
      <ul className="flex flex-col gap-1.5" aria-label="Sections">
        {sections.map(({ startSeconds, name, role }, i) => (
          <SectionLine
            key={startSeconds}
            startSeconds={startSeconds}
            names={names}
            index={i}
            name={name}
            onEdit={edit}
            role={role}
          />
        ))}
      </ul>
      {sections.length > 0 && (
        <Button className="mt-3 w-full" onClick={divide}>
          Split at the playhead
        </Button>
      )}
    </Panel>
  );
}

interface SectionLineProps {
  startSeconds: number;
  names: readonly string[];
  index: number;
  name: string;
  onEdit: (make: (sections: readonly SongSection[]) => SongSection[], tag?: string) => void;
  role: SectionRole | null;
}

/** One section: where it begins, its name, its role. */
function SectionLine({ startSeconds, names, index, name, onEdit, role }: SectionLineProps): ReactNode {
  const player = usePlayer();
  return (
    <li className="grid grid-cols-[44px_minmax(0,1fr)_84px_28px] items-center gap-1.5">
      <button
        type="button"
        className="text-left text-[13px] text-soft tabular-nums hover:text-ink"
        aria-label={`Go to section ${names[index]} at ${clockText(startSeconds)}`}
        onClick={() => player.seek(startSeconds)}
      >
        {clockText(startSeconds)}
      </button>
      <input
        className={BOX}
        aria-label={`Name of section ${index + 1}`}
        placeholder={names[index]}
        maxLength={60}
        value={name}
        onChange={({ target }) =>
          onEdit((all) => changeSection(all, index, { name: target.value }), `section ${index} named`)
        }
      />
      <select
        className={BOX}
        aria-label={`Role of section ${index + 1}`}
        value={role ?? ""}
        onChange={({ target }) =>
          onEdit((all) => changeSection(all, index, { role: (target.value || null) as SectionRole | null }))
        }
      >
        <option value="">no role</option>
        {SECTION_ROLES.map((one) => (
          <option key={one} value={one}>
            {ROLE_WORDS[one]}
          </option>
        ))}
      </select>
      {index > 0 && (
        <IconButton
          label={`Join section ${index + 1} to the one before`}
          onClick={() => onEdit((all) => joinSection(all, index))}
        >
          <ArrowUpToLine size={14} />
        </IconButton>
      )}
    </li>
  );
}
