import { clockText } from "@humming-tide/core/time";
import { ImagePlus, Music } from "lucide-react";
import { type DragEvent, type ReactNode, useRef, useState } from "react";
import { Link } from "react-router";
import { useAppSelector } from "../../store/store.ts";
import { uploadFiles } from "../../store/uploading.ts";
import { Button } from "../../ui/Button.tsx";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { ContactSheet } from "./ContactSheet.tsx";
import { UploadList } from "./UploadList.tsx";

const ACCEPTED = "image/jpeg,image/png,image/webp,image/avif,image/tiff,image/gif,audio/*,.m4a,.flac,.ogg,.mp3,.wav";

/** Pictures and a song come in here, and pictures get their order. */
export function GatherScreen(): ReactNode {
  const slides = useAppSelector((state) => state.show.document!.slides);
  const [over, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void droppedFiles(event.dataTransfer).then(uploadFiles);
  };
  const choose = (
    <Button kind="primary" onClick={() => picker.current?.click()}>
      <ImagePlus size={16} /> Choose pictures and a song
    </Button>
  );
  return (
    <div className="flex h-full min-h-0">
      <div
        className={`relative min-w-0 flex-1 overflow-y-auto px-5 py-4 ${over ? "bg-high" : ""}`}
        onDragOver={(event) => {
          if (!event.dataTransfer.types.includes("Files")) return;
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={(event) => event.currentTarget.contains(event.relatedTarget as Node | null) || setOver(false)}
        onDrop={drop}
      >
        <input
          ref={picker}
          type="file"
          multiple
          accept={ACCEPTED}
          aria-label="Choose pictures and a song"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            uploadFiles([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
        {slides.length === 0 ? (
          <EmptyState title="Bring in pictures and a song" action={choose}>
            Drop files or a whole folder here: JPEG, PNG, WebP, AVIF, TIFF or GIF pictures, and one song as MP3, M4A,
            WAV, FLAC or OGG.
          </EmptyState>
        ) : (
          <>
            <div className="mb-3 flex items-center justify-between">
              <h1 className="text-xl">
                {slides.length} {slides.length === 1 ? "picture" : "pictures"}{" "}
                <span className="ml-2 font-sans text-[13px] text-quiet">in the order of the film</span>
              </h1>
              {choose}
            </div>
            <ContactSheet />
          </>
        )}
        {over && (
          <p className="pointer-events-none absolute inset-3 flex items-center justify-center rounded-xl border-2 border-dashed border-line-strong bg-ground/80 text-xl">
            Let go to bring them in
          </p>
        )}
      </div>
      <aside className="w-[320px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <SongPanel />
        <AgreementPanel />
        <UploadList />
      </aside>
    </div>
  );
}

function SongPanel(): ReactNode {
  const song = useAppSelector((state) => state.show.document!.song);
  const facts = useAppSelector((state) => (song ? state.show.media[song.sha256] : undefined));
  return (
    <Panel title="Song">
      {!song && <p className="text-[13px] text-soft">No song yet. Drop one anywhere on the sheet.</p>}
      {song && (
        <div className="flex items-start gap-3">
          <Music size={18} className="mt-0.5 shrink-0 text-foam" aria-hidden />
          <div className="min-w-0 text-[13px]">
            <p className="break-words">{song.fileName}</p>
            {facts?.kind === "song" && (
              <p className="text-quiet">
                {clockText(facts.durationSeconds)}
                {facts.tempoBpm ? `, ${facts.tempoBpm.toFixed(1)} BPM` : ", no steady beat"}
              </p>
            )}
            <p className="mt-1 text-quiet">Bringing in another song replaces it.</p>
          </div>
        </div>
      )}
      {facts?.kind === "song" && facts.remark && (
        <div className="mt-2">
          <Notice kind="warning">{facts.remark}</Notice>
        </div>
      )}
    </Panel>
  );
}

/** Whether pictures and music agree, in words. */
function AgreementPanel(): ReactNode {
  const plan = useAppSelector((state) => state.view.plan);
  const problem = useAppSelector((state) => state.view.planProblem);
  return (
    <Panel
      title="Do they agree?"
      aside={
        plan && (
          <Link className="text-[13px] text-soft underline" to="../score">
            To the Score
          </Link>
        )
      }
    >
      {!plan && <p className="text-[13px] text-soft">{problem?.message ?? "…"}</p>}
      <ul className="flex flex-col gap-2 text-[13px]">
        {plan?.messages.map((message) => (
          <li key={message.kind} className={message.kind === "agreement" ? "text-ink" : "text-warning"}>
            {message.text}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** Files of a drop, with those inside dropped folders, in the order of their names. */
async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  const files = (await Promise.all(entries.map(filesOf))).flat();
  return files.length > 0 ? files : [...transfer.files];
}

async function filesOf(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile)
    return [await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FileSystemEntry[] = [];
  for (;;) {
    // A directory gives its entries in parts and ends with an empty one.
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) break;
    found.push(...part);
  }
  found.sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
  return (await Promise.all(found.filter(({ name }) => !name.startsWith(".")).map(filesOf))).flat();
}
