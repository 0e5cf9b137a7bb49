import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { messages } from "../messages";

const WIDTHS = {
  narrow: "w-[min(28rem,calc(100vw-2rem))]",
  middle: "w-[min(42rem,calc(100vw-1.5rem))]",
  wide: "w-[min(56rem,calc(100vw-1.5rem))]",
  full: "w-[min(84rem,calc(100vw-1.5rem))]",
} as const;

/** A dialog over the page: title, what it is about, and what can be done. */
export function Modal({
  open,
  onOpen,
  title,
  lead,
  width = "middle",
  children,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
  title: string;
  lead?: ReactNode;
  width?: keyof typeof WIDTHS;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content
          {...(lead === undefined ? { "aria-describedby": undefined } : {})}
          className={`fixed left-1/2 top-1/2 z-40 max-h-[calc(100dvh-1.5rem)] ${WIDTHS[width]} -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-2xl border border-line bg-panel p-5 shadow-2xl`}
        >
          {width === "full" && (
            // What fills the screen leaves nothing beside it to touch.
            <Dialog.Close
              aria-label={messages.bench.close}
              title={messages.bench.close}
              className="sticky top-0 z-10 float-right grid size-11 place-items-center rounded-lg border border-edge bg-panel text-ink"
            >
              <X size={20} aria-hidden="true" />
            </Dialog.Close>
          )}
          <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
          {lead !== undefined && <Dialog.Description className="mb-3 mt-1 text-soft">{lead}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
