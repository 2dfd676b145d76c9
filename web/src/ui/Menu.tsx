import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

interface MenuProps {
  /** The button that opens it. */
  trigger: ReactNode;
  children: ReactNode;
  align?: "start" | "end";
}

/** A list of actions behind a button, with arrows and letters from the keyboard. */
export function Menu({ trigger, children, align = "start" }: MenuProps): ReactNode {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={6}
          collisionPadding={8}
          className="z-50 max-h-[70vh] min-w-[220px] overflow-y-auto rounded-lg border border-line-strong/50 bg-raised py-1.5 shadow-2xl"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

interface MenuItemProps {
  onSelect: () => void;
  children: ReactNode;
  /** A key that does the same, or how many it concerns. */
  aside?: ReactNode;
  disabled?: boolean;
}

export function MenuItem({ onSelect, children, aside, disabled = false }: MenuItemProps): ReactNode {
  return (
    <DropdownMenu.Item
      disabled={disabled}
      onSelect={onSelect}
      className="flex cursor-pointer items-center justify-between gap-6 px-3.5 py-1.5 text-[13px] text-soft outline-none data-[disabled]:cursor-default data-[disabled]:opacity-45 data-[highlighted]:bg-high data-[highlighted]:text-ink"
    >
      <span className="truncate">{children}</span>
      {aside !== undefined && <span className="shrink-0 text-xs text-quiet">{aside}</span>}
    </DropdownMenu.Item>
  );
}

export function MenuHeading({ children }: { children: ReactNode }): ReactNode {
  return <DropdownMenu.Label className="px-3.5 pt-2 pb-1 text-xs text-quiet">{children}</DropdownMenu.Label>;
}

export function MenuLine(): ReactNode {
  return <DropdownMenu.Separator className="my-1.5 h-px bg-line" />;
}
