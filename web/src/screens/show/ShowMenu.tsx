import { Menu as MenuIcon } from "lucide-react";
import { type ReactNode, useState } from "react";
import { packageUrl } from "../../api.ts";
import { useShowId } from "../../store/open-show.ts";
import { saveNow } from "../../store/saving.ts";
import { IconButton } from "../../ui/Button.tsx";
import { Menu, MenuItem, MenuLine } from "../../ui/Menu.tsx";
import { VariantsDialog } from "../../variants/VariantsDialog.tsx";
import { AboutDialog } from "./AboutDialog.tsx";
import { HistoryDialog } from "./HistoryDialog.tsx";
import { ApplyTemplateDialog, SaveTemplateDialog } from "./TemplateDialogs.tsx";

type Open = "about" | "history" | "variants" | "save-template" | "apply-template" | null;

/** What concerns the show as a whole. */
export function ShowMenu(): ReactNode {
  const id = useShowId();
  const [open, setOpen] = useState<Open>(null);
  const close = (): void => setOpen(null);
  const savePackage = async (): Promise<void> => {
    await saveNow();
    window.location.assign(packageUrl(id));
  };
  return (
    <>
      <Menu
        trigger={
          <IconButton label="The show: facts, history, template, package">
            <MenuIcon size={17} />
          </IconButton>
        }
      >
        <MenuItem onSelect={() => setOpen("about")}>About the show …</MenuItem>
        <MenuItem onSelect={() => setOpen("history")}>History …</MenuItem>
        <MenuItem onSelect={() => setOpen("variants")}>Variants of the film …</MenuItem>
        <MenuLine />
        <MenuItem onSelect={() => setOpen("apply-template")}>Apply a template …</MenuItem>
        <MenuItem onSelect={() => setOpen("save-template")}>Save as a template …</MenuItem>
        <MenuLine />
        <MenuItem onSelect={() => void savePackage()}>Save as a package, with all media</MenuItem>
      </Menu>
      {open === "about" && <AboutDialog onClose={close} />}
      {open === "history" && <HistoryDialog onClose={close} />}
      {open === "variants" && <VariantsDialog onClose={close} />}
      {open === "save-template" && <SaveTemplateDialog onClose={close} />}
      {open === "apply-template" && <ApplyTemplateDialog onClose={close} />}
    </>
  );
}
