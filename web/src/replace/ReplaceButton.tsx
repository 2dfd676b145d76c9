import { hasPicture, type Slide } from "@humming-tide/core/show";
import { ImageUp } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { ReplaceDialog } from "./ReplaceDialog.tsx";

/** Opens the ways to another file for a slide; nothing for a card. */
export function ReplaceButton({ slide, className }: { slide: Slide; className?: string }): ReactNode {
  // Of the slide that it was opened for, wherever the playhead goes meanwhile.
  const [slideId, setSlideId] = useState<string | null>(null);
  if (!hasPicture(slide)) return null;
  return (
    <>
      <Button kind="quiet" className={className} onClick={() => setSlideId(slide.id)}>
        <ImageUp size={14} aria-hidden /> Replace picture …
      </Button>
      {slideId !== null && <ReplaceDialog slideId={slideId} onClose={() => setSlideId(null)} />}
    </>
  );
}
