import { Tooltip } from "radix-ui";
import type { AnchorHTMLAttributes, ButtonHTMLAttributes, ReactNode } from "react";

type Kind = "primary" | "plain" | "quiet";
type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind };

const KINDS: Readonly<Record<Kind, string>> = {
  primary: "bg-lantern text-lantern-ink font-semibold hover:brightness-110",
  plain: "bg-high text-ink border border-line-strong/60 hover:border-line-strong",
  quiet: "text-soft hover:bg-high hover:text-ink",
};

const SHAPE = "inline-flex items-center justify-center gap-1.5 rounded-md px-3 py-1.5 text-[13px] leading-5";

export function Button({ kind = "plain", className = "", ...rest }: ButtonProps): ReactNode {
  return (
    <button
      type="button"
      className={`${SHAPE} disabled:cursor-not-allowed disabled:opacity-45 ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}

type ButtonLinkProps = AnchorHTMLAttributes<HTMLAnchorElement> & { kind?: Kind };

/** A link that looks like a button: a download, or a page of its own. */
export function ButtonLink({ kind = "plain", className = "", ...rest }: ButtonLinkProps): ReactNode {
  return <a className={`${SHAPE} ${KINDS[kind]} ${className}`} {...rest} />;
}

interface IconButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** What it does: read out, and shown when pointed at. */
  label: string;
  primary?: boolean;
}

export function IconButton({ label, primary, className = "", ...rest }: IconButtonProps): ReactNode {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>
        <button
          type="button"
          aria-label={label}
          className={`inline-flex size-8 items-center justify-center rounded-md disabled:cursor-not-allowed disabled:opacity-40 ${primary ? "bg-lantern text-lantern-ink" : "text-soft hover:bg-high hover:text-ink"} ${className}`}
          {...rest}
        />
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={6} className="z-50 rounded bg-ink px-2 py-1 text-xs text-ground shadow-lg">
          {label}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
